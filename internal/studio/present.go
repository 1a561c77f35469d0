package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

// PresentView says who else works on a page.
type PresentView struct {
	Others []string `json:"others" nullable:"false" doc:"Their e-mail addresses."`
}

func (s *Server) addPresent() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "be-present", Method: http.MethodPost, Path: "/api/pages/{page}/present",
		Summary:     "Say that you have the page open to work on it, and learn who else has",
		Description: "Holds 45 seconds; say it again meanwhile.",
	}), func(ctx context.Context, in *PagePath) (*struct{ Body PresentView }, error) {
		member := memberOf(ctx)
		others, err := s.Store.BePresent(ctx, member.WorkspaceID, in.Page, member.ID, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body PresentView }{PresentView{append([]string{}, others...)}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "leave-page", Method: http.MethodDelete, Path: "/api/pages/{page}/present",
		Summary: "Say that you do not have the page open any more", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *PagePath) (*struct{}, error) {
		member := memberOf(ctx)
		if _, err := s.Store.Page(ctx, member.WorkspaceID, in.Page); err != nil {
			return nil, problem(err)
		}
		return nil, problemOrNil(s.Store.LeavePage(ctx, in.Page, member.ID))
	})
}
