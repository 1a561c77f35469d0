package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/sharedpicture"
	"jundle/internal/core/page"
)

type pictureOutput struct {
	ContentType  string `header:"Content-Type"`
	CacheControl string `header:"Cache-Control"`
	Body         []byte
}

func (s *Server) addSharing() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "draw-sharing-picture", Method: http.MethodGet, Path: "/api/pages/{page}/sharing.png",
		Summary: "Draw the picture that is shown with posts that lead to the working copy, as PNG",
	}), func(ctx context.Context, in *PagePath) (*pictureOutput, error) {
		workspace := memberOf(ctx).WorkspaceID
		if err := s.limits.takeCut(workspace.String()); err != nil {
			return nil, err
		}
		of, err := s.Store.Page(ctx, workspace, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		drawn, err := sharedpicture.Draw(ctx, s.Files, page.Named(of.Draft, of.Address))
		if err != nil {
			return nil, problem(err)
		}
		return &pictureOutput{"image/png", "private, no-cache", drawn}, nil
	})
}
