package studio

import (
	"context"
	"errors"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/signups"
	"jundle/internal/core/signup"
	"jundle/internal/store"
)

// SignUpView is somebody who left an e-mail address on a page.
type SignUpView struct {
	ID          uuid.UUID  `json:"id"`
	Address     string     `json:"address"`
	Page        *uuid.UUID `json:"page,omitempty" doc:"Absent once the page is gone."`
	PageName    string     `json:"pageName" doc:"As it was called then."`
	Block       string     `json:"block" doc:"What the form was called then."`
	Source      string     `json:"source" doc:"Where the visit came from; empty for untagged."`
	Own         bool       `json:"own" doc:"By a browser of a member: in no figures."`
	Language    string     `json:"language"`
	Consent     string     `json:"consent" doc:"What was agreed to, word for word."`
	AskedAt     time.Time  `json:"askedAt"`
	Letters     int        `json:"letters" doc:"How often a letter to confirm it was sent."`
	ConfirmedAt *time.Time `json:"confirmedAt,omitempty"`
	ToldAt      *time.Time `json:"toldAt,omitempty" doc:"When the list service took it."`
}

// SignUpCounts are how many there are.
type SignUpCounts struct {
	Confirmed int `json:"confirmed"`
	Waiting   int `json:"waiting" doc:"They have not confirmed their address yet."`
	Most      int `json:"most" doc:"How many a workspace can have confirmed."`
}

// ListServiceBody is where sign-ups are to be handed on to.
type ListServiceBody struct {
	Address string `json:"address" maxLength:"2000" doc:"Of the service's interface; https only."`
	List    string `json:"list" maxLength:"200" doc:"Which of its lists."`
	Token   string `json:"token" maxLength:"1000" doc:"What it lets in by; left empty, the one before stays."`
}

// ListServiceView is where sign-ups are handed on to, and how far that got.
type ListServiceView struct {
	Address    string     `json:"address"`
	List       string     `json:"list"`
	CreatedAt  time.Time  `json:"createdAt"`
	OffAt      *time.Time `json:"offAt,omitempty" doc:"Since when it is told nothing."`
	OffBecause string     `json:"offBecause,omitempty"`
	Told       int        `json:"told" doc:"People it knows."`
	Waiting    int        `json:"waiting" doc:"It is still to be told of them, or to forget them."`
	Status     int        `json:"status,omitempty" doc:"Of its last answer that was no success."`
	Failure    string     `json:"failure,omitempty" doc:"Why there was none."`
}

type listServiceOutput struct {
	Body struct {
		Service *ListServiceView `json:"service,omitempty" doc:"Absent where there is none."`
	}
}

func (s *Server) addSignUps() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-sign-ups", Method: http.MethodGet, Path: "/api/sign-ups",
		Summary: "People who left an e-mail address, the latest first",
	}), s.listSignUps)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "count-sign-ups", Method: http.MethodGet, Path: "/api/sign-ups/count", Summary: "How many there are",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body SignUpCounts }, error) {
		confirmed, waiting, err := s.Store.CountSignUps(ctx, memberOf(ctx).WorkspaceID)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body SignUpCounts }{SignUpCounts{confirmed, waiting, store.SignUpsKept}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-sign-ups", Method: http.MethodGet, Path: "/api/sign-ups.csv",
		Summary: "All of them as a table (RFC 4180), the oldest first",
	}), func(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
		workspace := memberOf(ctx).WorkspaceID
		return s.packed(ctx, "sign-ups.csv", "text/csv; charset=utf-8", func(ctx context.Context, to io.Writer) error {
			return signups.WriteTable(ctx, s.Store, workspace, to)
		})
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remove-sign-up", Method: http.MethodDelete, Path: "/api/sign-ups/{signUp}",
		Summary: "Erase somebody's address, also where it was handed on to", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		SignUp uuid.UUID `path:"signUp"`
	},
	) (*struct{}, error) {
		_, err := s.Store.RemoveSignUp(ctx, memberOf(ctx).WorkspaceID, in.SignUp, s.Now())
		return nil, problemOrNil(err)
	})
	s.addListService()
}

func (s *Server) listSignUps(ctx context.Context, in *struct {
	ListPart
	Only string `query:"only" enum:"confirmed,waiting" doc:"Those only; all when left out."`
	Find string `query:"find" maxLength:"254" doc:"Part of the address."`
},
) (*partOutput[SignUpView], error) {
	place, most, err := in.place()
	if err != nil {
		return nil, err
	}
	filter := store.SignUpFilter{Find: strings.ToLower(strings.TrimSpace(strings.ReplaceAll(in.Find, "\x00", "")))}
	if in.Only != "" {
		confirmed := in.Only == "confirmed"
		filter.Confirmed = &confirmed
	}
	all, err := s.Store.SignUps(ctx, memberOf(ctx).WorkspaceID, filter, place, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(all, most, viewOfSignUp, func(one store.ListedSignUp) cursor { return cursor{one.AskedAt, one.ID.String()} }), nil
}

func viewOfSignUp(one store.ListedSignUp) SignUpView {
	return SignUpView{
		ID: one.ID, Address: one.Address, Page: one.PageID, PageName: one.PageName, Block: one.BlockTitle, Source: one.From, Own: one.Own,
		Language: one.Language, Consent: one.Consent, AskedAt: one.AskedAt, Letters: one.Letters, ConfirmedAt: one.ConfirmedAt,
		ToldAt: one.ToldAt,
	}
}

func (s *Server) addListService() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-list-service", Method: http.MethodGet, Path: "/api/list-service", Summary: "Where sign-ups are handed on to",
	}), s.getListService)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-list-service", Method: http.MethodPut, Path: "/api/list-service",
		Summary: "Have sign-ups handed on, those there are among them; what waits is tried at once",
	}), s.setListService)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "drop-list-service", Method: http.MethodDelete, Path: "/api/list-service",
		Summary: "Hand on nothing any more; what the service has stays there", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, problemOrNil(s.Store.DropListService(ctx, memberOf(ctx).WorkspaceID))
	})
}

func (s *Server) getListService(ctx context.Context, _ *struct{}) (*listServiceOutput, error) {
	one, progress, err := s.Store.ListService(ctx, memberOf(ctx).WorkspaceID)
	out := new(listServiceOutput)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return out, nil
	case err != nil:
		return nil, problem(err)
	}
	out.Body.Service = &ListServiceView{
		one.Address, one.List, one.CreatedAt, one.OffAt, one.OffBecause, progress.Told, progress.Waiting, progress.Status, progress.Failure,
	}
	return out, nil
}

func (s *Server) setListService(ctx context.Context, in *struct{ Body ListServiceBody }) (*listServiceOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	if !s.limits.mayFetch(workspace.String()) {
		return nil, tooMany("These were many changes in a short time. Wait a few seconds and try again.", fetchPause)
	}
	wish := signup.ListWish{Address: in.Body.Address, List: in.Body.List, Token: in.Body.Token}
	if strings.TrimSpace(wish.Token) == "" {
		before, _, err := s.Store.ListService(ctx, workspace)
		switch {
		case err == nil && strings.TrimRight(wish.Address, "/") == before.Address:
			wish.Token = before.Token
		case err != nil && !errors.Is(err, store.ErrNotFound):
			return nil, problem(err)
		}
	}
	clean, err := wish.Clean()
	var wrong *signup.Error
	if errors.As(err, &wrong) {
		return nil, refuse(wrong.Field, wrong.Reason)
	}
	if err != nil {
		return nil, problem(err)
	}
	err = s.Store.SetListService(ctx, store.ListService{
		WorkspaceID: workspace, Address: clean.Address, List: clean.List, Token: clean.Token, CreatedAt: s.Now(),
	})
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, clean.Address)
	return s.getListService(ctx, nil)
}
