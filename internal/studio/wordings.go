package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/page"
)

func (s *Server) addWordings() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-wordings", Method: http.MethodGet, Path: "/api/pages/{page}/wordings",
		Summary: "List all that visitors read of what the creator wrote on a page, for translations",
	}), func(ctx context.Context, in *PagePath) (*listOutput[page.Wording], error) {
		found, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		return &listOutput[page.Wording]{found.Draft.Wordings()}, nil
	})
}
