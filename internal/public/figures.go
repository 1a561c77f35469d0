package public

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/render"
	"jundle/internal/store"
)

// figuresRanges are the ranges shared figures can be read in.
var figuresRanges = []figuresRange{{"7d", "Last 7 days"}, {defaultRange, "Last 28 days"}, {"90d", "Last 90 days"}}

type figuresRange struct{ text, label string }

const defaultRange = "28d"

// drawnHTML is a page that was drawn, with the policy to serve it with.
type drawnHTML struct {
	html   []byte
	policy string
}

// hand answers with it to who has its address, which is a secret.
func (d drawnHTML) hand(c *gin.Context) { d.handWith(c, http.StatusOK) }

func (d drawnHTML) handWith(c *gin.Context, status int) {
	c.Header("Content-Security-Policy", d.policy)
	c.Header("Cache-Control", "private, no-store")
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	c.Data(status, "text/html; charset=utf-8", d.html)
}

const (
	// figuresFreshFor is how long shared figures are not drawn anew: whoever has an
	// address cannot make the database work harder than once in that time.
	figuresFreshFor = 20 * time.Second
	// cachedFigures is how much of them is held, in bytes.
	cachedFigures = 8 << 20
)

// drawnFigures are figures as they were drawn at a time.
type drawnFigures struct {
	drawnHTML
	at time.Time
}

// figures answers /-/figures/{token}: figures of a page or a short link, read-only, for whom they
// are shared with. Looking at them is no visit.
func (s *Server) figures(c *gin.Context) {
	span := c.DefaultQuery("range", defaultRange)
	if !slices.ContainsFunc(figuresRanges, func(each figuresRange) bool { return each.text == span }) {
		s.say(c, http.StatusBadRequest, render.Notice{Title: "No such range", Text: "These figures can be read for the last 7, 28 or 90 days."})
		return
	}
	shared, workspace, err := s.Store.OpenShared(c.Request.Context(), c.Param("token"), s.Now())
	switch {
	case notFound(err):
		s.say(c, http.StatusNotFound, render.Notice{
			Title: "This address is closed",
			Text:  "It was closed, or its time is over. Ask whoever gave it to you for another.",
		})
		return
	case err != nil:
		s.failed(s.requestOf(c).locale(), err).write(c)
		return
	}
	key := shared.ID.String() + " " + span
	drawn, known := s.drawnFigures.get(key)
	if !known || s.Now().Sub(drawn.at) >= figuresFreshFor {
		// Whoever asks meanwhile waits for the same; it does not end with who came first.
		made, err, _ := s.figuresNow.Do(key, func() (any, error) {
			html, err := s.drawFigures(context.WithoutCancel(c.Request.Context()), shared, workspace, span, c.Request.URL.Path)
			made := drawnFigures{html, s.Now()}
			if err == nil {
				s.drawnFigures.add(key, made, weightOfEntry+len(html.html))
			}
			return made, err
		})
		if err != nil {
			s.failed(s.requestOf(c).locale(), err).write(c)
			return
		}
		drawn = made.(drawnFigures)
	}
	drawn.hand(c)
}

func (s *Server) drawFigures(ctx context.Context, shared store.SharedFigures, workspace uuid.UUID, chosen, path string) (drawnHTML, error) {
	zone, err := s.Store.Location(ctx, workspace)
	if err != nil {
		return drawnHTML{}, err
	}
	span, err := figures.Span(ctx, s.Store, workspace, shared.EndpointID, chosen, s.Now())
	if err != nil {
		return drawnHTML{}, err
	}
	shown := render.FiguresPage{For: shared.Name, Until: shared.Until.In(zone).Format("2 January 2006")}
	for _, each := range figuresRanges {
		shown.Ranges = append(shown.Ranges, render.FiguresRange{
			Label: each.label, Address: path + "?range=" + each.text,
			Chosen: each.text == chosen,
		})
	}
	shown.From, shown.To = span.Date(0), span.Date(span.Len()-1)
	found, err := figures.ReadShared(ctx, s.Store, workspace, shared.EndpointID, span)
	if err != nil {
		return drawnHTML{}, err
	}
	shown.Name, shown.IsLink, shown.Reading = found.Name, found.IsLink, found.Reading
	shown.Buttons, shown.Sources = figuresRows(found.Buttons), figuresRows(found.Sources)
	html, policy, err := render.Figures(shown)
	return drawnHTML{html, policy}, err
}

func figuresRows(labelled []figures.Labelled) []render.FiguresRow {
	rows := make([]render.FiguresRow, len(labelled))
	for i, each := range labelled {
		rows[i] = render.FiguresRow(each)
	}
	return rows
}
