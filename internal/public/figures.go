package public

import (
	"context"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/render"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// figuresRanges are the ranges shared figures can be read in.
var figuresRanges = []struct{ text, label string }{{"7d", "Last 7 days"}, {"28d", "Last 28 days"}, {"90d", "Last 90 days"}}

// drawnFigures are shared figures as they were drawn a moment ago: whoever has an
// address cannot make the database work harder than once in that time.
type drawnFigures struct {
	html   []byte
	policy string
}

const figuresFreshFor = 20 * time.Second

// figures answers /-/figures/{token}: a page's figures, read-only, for whom they
// are shared with. Looking at them is no visit.
func (s *Server) figures(c *gin.Context) {
	text := c.DefaultQuery("range", "28d")
	shared, owner, err := s.Store.OpenShared(c.Request.Context(), c.Param("token"), s.Now())
	switch {
	case notFound(err):
		s.message(c, http.StatusNotFound, render.Notice{Title: "This address is closed", Says: "It was closed, or its time is over. Ask whoever gave it to you for another."})
		return
	case err != nil:
		s.failed(c, err)
		return
	}
	key := shared.ID.String() + text
	drawn, fresh := s.drawnFigures.Get(key)
	if !fresh {
		if drawn, err = s.drawFigures(c.Request.Context(), shared, owner, text, c.Request.URL.Path); err != nil {
			s.failed(c, err)
			return
		}
		s.drawnFigures.Add(key, drawn)
	}
	c.Header("Content-Security-Policy", drawn.policy)
	c.Header("Cache-Control", "private, no-store")
	c.Header("Referrer-Policy", "no-referrer") // the address is a secret
	c.Header("X-Robots-Tag", "noindex, nofollow")
	c.Data(http.StatusOK, "text/html; charset=utf-8", drawn.html)
}

func (s *Server) drawFigures(ctx context.Context, shared store.SharedFigures, owner store.Page, text, path string) (drawnFigures, error) {
	name, err := s.Store.ZoneOf(ctx, owner.ID)
	if err != nil {
		return drawnFigures{}, err
	}
	zone, err := time.LoadLocation(name)
	if err != nil {
		return drawnFigures{}, err
	}
	shown := render.FiguresPage{Name: owner.Draft.Header.Name, For: shared.Name, Until: shared.Until.In(zone).Format("2 January 2006")}
	if shown.Name == "" {
		shown.Name = owner.Address
	}
	chosen := "28d"
	for _, each := range figuresRanges {
		if each.text == text {
			chosen = text
		}
	}
	for _, each := range figuresRanges {
		shown.Ranges = append(shown.Ranges, render.FiguresRange{Label: each.label, Address: path + "?range=" + each.text, Chosen: each.text == chosen})
	}
	span, err := readings.ParseSpan(chosen, s.Now(), owner.CreatedAt, zone)
	if err != nil {
		return drawnFigures{}, err
	}
	shown.From, shown.To = span.Date(0), span.Date(span.Len()-1)
	if shown.Reading, err = rollup.Read(ctx, s.Store, owner.WorkspaceID, owner.ID, span); err != nil {
		return drawnFigures{}, err
	}
	sources, err := s.Store.Sources(ctx, owner.WorkspaceID, owner.ID)
	if err != nil {
		return drawnFigures{}, err
	}
	edition, err := s.Store.LiveEdition(ctx, owner.WorkspaceID, owner.ID)
	if err != nil && !notFound(err) {
		return drawnFigures{}, err
	}
	shown.Buttons, shown.Sources = buttonRows(edition.Document, shown.Reading), sourceRows(sources, shown.Reading)
	html, policy, err := render.Figures(shown)
	return drawnFigures{html, policy}, err
}

func buttonRows(live page.Document, reading readings.Reading) []render.FiguresRow {
	byKey := make(map[string]readings.BlockFigures)
	for _, block := range reading.Blocks {
		byKey[block.Block] = block.Total
	}
	var rows []render.FiguresRow
	for _, row := range live.Rows() {
		rows = append(rows, render.FiguresRow{Name: row.Title, Count: byKey[row.Key].Clicks, Rate: byKey[row.Key].Rate})
	}
	return rows
}

func sourceRows(sources []store.Source, reading readings.Reading) []render.FiguresRow {
	var rows []render.FiguresRow
	add := func(key, name string) {
		if figures := reading.BySource[key]; figures.Visits > 0 {
			rows = append(rows, render.FiguresRow{Name: name, Count: figures.Visits, Rate: figures.ClickThrough})
		}
	}
	for _, source := range sources {
		add(source.ID.String(), source.Name)
	}
	add(readings.Unlisted, "Other places")
	add(readings.Untagged, "Untagged")
	return rows
}
