package public

import (
	"net/http"

	"github.com/valyala/fasthttp"

	"jundle/internal/core/shortlink"
	"jundle/internal/core/traffic"
	"jundle/internal/render"
)

// follow leads the visitor where a short link leads at the moment. A network that
// fetches a preview for a post is shown the link's own, where it has one.
func (s *Server) follow(ctx *fasthttp.RequestCtx, live *liveLink) {
	hit := s.hit(ctx, live.ID, live.WorkspaceID, live.book, "")
	destination, outcome := live.Link.Lead(hit.At)
	hit.Kind, hit.Block = traffic.Click, string(outcome)
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	notStored(ctx)
	switch {
	case outcome == shortlink.Nowhere:
		s.message(ctx, http.StatusNotFound, leadsNowhere[live.Link.StateAt(hit.At)])
	case event.Flags&traffic.Preview != 0 && live.Link.Preview.IsSet():
		s.preview(ctx, live, destination)
	default:
		redirect(ctx, live.Link.Redirect, s.rerouted(destination))
	}
}

// leadsNowhere says why a link leads nowhere.
var leadsNowhere = map[shortlink.State]render.Notice{
	shortlink.Off:    {Title: "Nothing behind it now", Says: "Whoever gave you this link has switched it off."},
	shortlink.Before: {Title: "Not yet", Says: "This link does not lead anywhere yet. Please try it again later."},
	shortlink.Over:   {Title: "This is over", Says: "What this link led to has ended."},
}

func (s *Server) preview(ctx *fasthttp.RequestCtx, live *liveLink, leads string) {
	body, policy, err := render.Preview(live.Link.Preview, s.Origin, live.Address(), leads)
	if err != nil {
		s.failed(ctx, err)
		return
	}
	s.html(ctx, http.StatusOK, body, policy)
}
