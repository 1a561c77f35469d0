package studio

import (
	"context"
	"crypto/rand"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
)

// PagePreview is an address under which a working copy can be looked at.
type PagePreview struct {
	Address string    `json:"address" doc:"Told once. It takes at=RFC 3339 and from=ID of a source."`
	Until   time.Time `json:"until" doc:"When it is over."`
}

func (s *Server) addPreviews() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "preview-page", Method: http.MethodPost, Path: "/api/pages/{page}/previews", DefaultStatus: http.StatusCreated,
		Summary: "Make an address under which the working copy can be looked at for a while",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			Hours int `json:"hours" minimum:"1" maximum:"720" doc:"For how long it is open."`
		}
	},
	) (*struct{ Body PagePreview }, error) {
		now, token := s.Now(), rand.Text()
		until := now.Add(time.Duration(in.Body.Hours) * time.Hour)
		if err := s.Store.PreviewPage(ctx, memberOf(ctx).WorkspaceID, in.Page, token, until, now); err != nil {
			return nil, problem(err)
		}
		return &struct{ Body PagePreview }{PagePreview{s.PublicOrigin + "/-/preview/" + token, until}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "close-previews", Method: http.MethodDelete, Path: "/api/pages/{page}/previews",
		Summary: "Close all preview addresses of a page for good",
	}), func(ctx context.Context, in *PagePath) (*struct{}, error) {
		if _, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page); err != nil {
			return nil, problem(err)
		}
		if err := s.Store.ClosePreviews(ctx, memberOf(ctx).WorkspaceID, in.Page); err != nil {
			return nil, problem(err)
		}
		return nil, nil
	})
}
