package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/clients"
)

// SessionView is where somebody is signed in.
type SessionView struct {
	ID      uuid.UUID `json:"id"`
	Device  string    `json:"device" doc:"As its browser calls itself."`
	Began   time.Time `json:"began"`
	Used    time.Time `json:"used" doc:"When it was used last."`
	Current bool      `json:"current" doc:"It is the one that asks."`
}

func (s *Server) addSessions() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-sessions", Method: http.MethodGet, Path: "/api/account/sessions",
		Summary: "Where you are signed in, this session first, then by last use; a hundred at most",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[SessionView], error) {
		sessions, err := s.Store.SessionsOf(ctx, memberOf(ctx).ID, s.sessionDigest(ctx))
		if err != nil {
			return nil, problem(err)
		}
		list := make([]SessionView, len(sessions))
		for i, one := range sessions {
			list[i] = SessionView{one.ID, clients.Device(one.UserAgent), one.CreatedAt, one.UsedAt, one.Current}
		}
		return &listOutput[SessionView]{list}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "end-session", Method: http.MethodDelete, Path: "/api/account/sessions/{session}", Summary: "Sign out somewhere else",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		Session uuid.UUID `path:"session"`
	},
	) (*struct{}, error) {
		return nil, problemOrNil(s.Store.EndSession(ctx, memberOf(ctx).ID, in.Session))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "end-other-sessions", Method: http.MethodDelete, Path: "/api/account/sessions", Summary: "Sign out everywhere else",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, problemOrNil(s.Store.EndSessions(ctx, memberOf(ctx).ID, s.sessionDigest(ctx)))
	})
}
