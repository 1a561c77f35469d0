package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/page"
)

// TakeoverState is what takes the place of a page, now or later.
type TakeoverState struct {
	page.Takeover
	On bool `json:"on" doc:"Whether it has begun."`
	// Shows is false for a block that is not shown itself at present.
	Shows bool `json:"shows" doc:"Whether the block shows that is to stand alone; always for a pass-through."`
}

// NewTakeover is what is to take its place.
type NewTakeover struct {
	Solo        string           `json:"solo,omitempty" maxLength:"16" doc:"Key of the block that is to stand alone; that, or passThrough."`
	PassThrough string           `json:"passThrough,omitempty" maxLength:"2100" doc:"Address that the page is to lead straight to."`
	From        time.Time        `json:"from,omitzero" required:"false" doc:"Now when left out."`
	Until       time.Time        `json:"until,omitzero" required:"false" doc:"Left out for as long as nobody ends it."`
	To          *page.SourceRule `json:"to,omitempty"`
}

func (s *Server) addTakeovers() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "begin-takeover", Method: http.MethodPost, Path: "/api/pages/{page}/takeovers", DefaultStatus: http.StatusCreated,
		Summary: "Let a block stand alone, or the page's address lead straight to another, for a while; live at once",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body NewTakeover
	},
	) (*pageOutput, error) {
		wanted := page.Takeover{Solo: in.Body.Solo, From: in.Body.From, Until: in.Body.Until, To: in.Body.To}
		if in.Body.PassThrough != "" {
			wanted.PassThrough = &page.PassThrough{Address: in.Body.PassThrough}
		}
		changed, err := s.pages.Begin(ctx, memberOf(ctx), in.Page, wanted)
		return s.pageOutput(ctx, changed, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "end-takeover", Method: http.MethodDelete, Path: "/api/pages/{page}/takeovers/{takeover}",
		Summary: "End it, or call it off; the page is what it was", DefaultStatus: http.StatusOK,
	}), func(ctx context.Context, in *struct {
		PagePath
		Takeover string `path:"takeover" maxLength:"16"`
	},
	) (*pageOutput, error) {
		changed, err := s.pages.End(ctx, memberOf(ctx), in.Page, in.Takeover)
		return s.pageOutput(ctx, changed, err)
	})
}

// takeoversOf are those of a page that are on or to come. Live is what visitors see, or
// nil.
func takeoversOf(takeovers []page.Takeover, live *page.Document, now time.Time) []TakeoverState {
	listed := []TakeoverState{}
	for _, each := range page.OfLater(takeovers, now) {
		shown := TakeoverState{Takeover: each, On: !now.Before(each.From), Shows: each.PassThrough != nil}
		if live != nil && each.Solo != "" {
			block, found := live.Find(each.Solo)
			shown.Shows = found && block.Shown && (block.When == nil || block.When.Holds(now))
		}
		listed = append(listed, shown)
	}
	return listed
}
