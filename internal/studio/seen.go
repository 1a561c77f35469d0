package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/audience"
)

// SeenPage is what of the working copy an audience would be shown.
type SeenPage struct {
	Blocks []string `json:"blocks" nullable:"false" doc:"Keys of the blocks, in their order."`
	Closed bool     `json:"closed" doc:"Whether the page as a whole is not shown then."`
	// PassThrough is empty where the page is shown.
	PassThrough string `json:"passThrough,omitempty" doc:"What the page's address leads straight to then."`
}

func (s *Server) addSeen() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "see-page", Method: http.MethodGet, Path: "/api/pages/{page}/seen",
		Summary: "What of the working copy would be shown at a moment, to who comes from a source",
	}), func(ctx context.Context, in *struct {
		PagePath
		At     time.Time `query:"at" doc:"The moment; now when left out."`
		Source string    `query:"source" maxLength:"40" doc:"ID of a source; from nowhere known when left out."`
	},
	) (*struct{ Body SeenPage }, error) {
		found, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		to := audience.Audience{At: in.At, Source: in.Source}
		if to.At.IsZero() {
			to.At = s.Now()
		}
		document := found.Draft
		document.Takeovers = found.Takeovers
		seen := SeenPage{Blocks: []string{}, Closed: !document.IsOpen(to.At)}
		if straight := document.PassThrough(to); straight != nil {
			seen.PassThrough = straight.Address
		}
		for _, block := range document.Visible(to) {
			seen.Blocks = append(seen.Blocks, block.Key)
		}
		return &struct{ Body SeenPage }{seen}, nil
	})
}
