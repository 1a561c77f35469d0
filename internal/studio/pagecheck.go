package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/pages"
	"jundle/internal/core/pagecheck"
)

// PageCheck is what the check of a page found, and where all on it leads.
type PageCheck struct {
	Findings []pagecheck.Finding `json:"findings" nullable:"false" doc:"Faults first, then in the order of the page."`
	Stops    []WalkStop          `json:"stops" nullable:"false" doc:"What can be pressed, in the order of the page."`
	Waiting  int                 `json:"waiting" doc:"How many addresses have not been asked yet."`
}

// WalkStop is something that can be pressed, and where it leads.
type WalkStop struct {
	Row     string     `json:"row" doc:"Key of the block, or icons or footer."`
	Item    string     `json:"item,omitempty"`
	Title   string     `json:"title"`
	Address string     `json:"address"`
	Opens   string     `json:"opens" doc:"What to open to see it; in the demo the stand-in of the address."`
	Says    string     `json:"says,omitempty" doc:"What came of asking it last."`
	AskedAt *time.Time `json:"askedAt,omitempty"`
}

func (s *Server) addPageCheck() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "check-page", Method: http.MethodGet, Path: "/api/pages/{page}/check",
		Summary: "What is wrong or weak about the working copy, and where all on it leads",
	}), s.checkPage)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "check-addresses", Method: http.MethodPost, Path: "/api/pages/{page}/check",
		Summary: "Have the addresses of the page asked before all others; what comes of it is there a moment later",
	}), func(ctx context.Context, in *PagePath) (*struct{}, error) {
		workspace := memberOf(ctx).WorkspaceID
		if !s.limits.mayFetch(workspace.String()) {
			return nil, huma.Error429TooManyRequests("They were asked often enough just now. Wait a minute.")
		}
		if err := s.pages.CheckSoon(ctx, workspace, in.Page); err != nil {
			return nil, problem(err)
		}
		return nil, nil
	})
}

func (s *Server) checkPage(ctx context.Context, in *PagePath) (*struct{ Body PageCheck }, error) {
	report, err := s.pages.Check(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	check := PageCheck{Findings: report.Findings, Stops: make([]WalkStop, len(report.Stops)), Waiting: report.Waiting}
	for i, stop := range report.Stops {
		check.Stops[i] = s.walkStop(stop)
	}
	return &struct{ Body PageCheck }{check}, nil
}

func (s *Server) walkStop(stop pages.Stop) WalkStop {
	shown := WalkStop{Row: stop.Row, Item: stop.Item, Title: stop.Title, Address: stop.Address, Opens: stop.Address}
	if s.Reroute != nil {
		shown.Opens = s.Reroute(stop.Address)
	}
	if stop.Asked != nil {
		shown.Says, shown.AskedAt = stop.Asked.String(), &stop.Asked.At
	}
	return shown
}
