package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// SetPasscode is a passcode that was set.
type SetPasscode struct {
	ID uuid.UUID `json:"id" doc:"By which gates name it; it is never told again."`
}

func (s *Server) addPasscodes() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-passcode", Method: http.MethodPost, Path: "/api/passcodes", DefaultStatus: http.StatusCreated,
		Summary: "Set a passcode for gates of pages and blocks to name",
	}), func(ctx context.Context, in *struct {
		Body struct {
			Passcode string `json:"passcode" maxLength:"400" doc:"4 characters to 128 bytes."`
		}
	},
	) (*struct{ Body SetPasscode }, error) {
		workspace := memberOf(ctx).WorkspaceID
		if !s.limits.mayFetch(workspace.String()) {
			return nil, tooMany(
				"These were many passcodes in a short time. Wait a few seconds and go on; nothing was changed.",
				fetchPause+time.Second,
			)
		}
		id, err := s.pages.SetPasscode(ctx, workspace, in.Body.Passcode)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body SetPasscode }{SetPasscode{id}}, nil
	})
}
