package public

import (
	"context"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
	"jundle/internal/render"
	"jundle/internal/store"
)

// workingCopy answers /-/preview/{token}: the working copy of a page, as it will be at a
// moment and as somebody from a source is shown it. Looking at it is no visit, and what
// is pressed leads straight on.
func (s *Server) workingCopy(c *gin.Context) {
	to, err := s.shownAs(c.Request.URL.Query())
	if err != nil {
		s.say(c, http.StatusBadRequest, render.Notice{Title: "No such moment", Text: "The moment in this address cannot be read."})
		return
	}
	found, err := s.Store.OpenPreview(c.Request.Context(), c.Param("token"), s.Now())
	switch {
	case notFound(err):
		s.say(c, http.StatusNotFound, closedPreview)
		return
	case err != nil:
		s.failed(s.requestOf(c).locale(), err).write(c)
		return
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	// Whoever has an address cannot keep the listener from visitors.
	done, err := s.drawTurns.Take(ctx, found.ID)
	if err != nil {
		s.failed(s.requestOf(c).locale(), err).write(c)
		return
	}
	defer done()
	drawn, err := s.drawWorkingCopy(c.Request.Context(), found, to, c.Query("lang"))
	if err != nil {
		s.failed(s.requestOf(c).locale(), err).write(c)
		return
	}
	drawn.hand(c)
}

var closedPreview = render.Notice{
	Title: "This preview is over",
	Text:  "It was closed, or its time is over. Ask whoever gave it to you for another.",
}

// shownAs reads as of which moment and from which source a page is to be shown; now
// and from nowhere known unless the query says otherwise.
func (s *Server) shownAs(query url.Values) (audience.Audience, error) {
	to := audience.Audience{At: s.Now(), Source: query.Get("from")}
	var err error
	if at := query.Get("at"); at != "" {
		to.At, err = time.Parse(time.RFC3339, at)
	}
	return to, err
}

func (s *Server) drawWorkingCopy(ctx context.Context, of store.Page, to audience.Audience, lang string) (drawnHTML, error) {
	zone, err := s.Store.Location(ctx, of.WorkspaceID)
	if err != nil {
		return drawnHTML{}, err
	}
	sources, err := s.Store.Sources(ctx, of.WorkspaceID, of.ID)
	if err != nil {
		return drawnHTML{}, err
	}
	words := "Preview, not published: as of " + to.At.In(zone).Format("Mon 2 Jan 2006 15:04")
	for _, source := range sources {
		if source.ID.String() == to.Source {
			words += ", from " + source.Name
		}
	}
	document := page.Named(of.Draft, of.Address)
	document.Takeovers = of.Takeovers
	var drawn drawnHTML
	switch straight := document.PassThrough(to); {
	case straight != nil:
		drawn.html, drawn.policy, err = render.Message(render.Notice{
			Title: words, Text: "The page’s address leads straight on then:", Value: straight.Address, Link: s.rerouted(straight.Address),
		})
	case !document.IsOpen(to.At):
		drawn.html, drawn.policy, err = render.Message(render.Notice{Title: words, Text: "The page is not open then."})
	default:
		drawn.html, drawn.policy, err = render.WorkingCopy(
			document,
			render.Visit{To: to, Origin: s.Origin, Address: of.Address, Reroute: s.Reroute, Language: lang},
			words+".",
			s.leadsFrom(document, to),
		)
	}
	return drawn, err
}

// leadsFrom says where what can be pressed on a page leads, by key and item.
func (s *Server) leadsFrom(document page.Document, to audience.Audience) func(key, item string) string {
	targets := document.Targets(to)
	return func(key, item string) string {
		target, _ := targets.Find(key, item)
		return s.leadsTo(target.Address)
	}
}
