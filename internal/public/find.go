package public

import (
	"context"
	"net/http"
	"net/url"
	"strings"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/render"
)

// findWithin is how long a search waits for its turn. Who waits longer gets the whole page.
const findWithin = time.Second

// findIn is what a query looks for on a page; empty for nothing.
func findIn(query string) string {
	if !strings.Contains(query, "find=") {
		return ""
	}
	values, err := url.ParseQuery(query)
	if err != nil {
		return ""
	}
	return invalid.Cut(strings.Join(strings.Fields(values.Get("find")), " "), page.MaxFind)
}

// found answers with what of a page holds what is looked for; false where the whole page
// is to be shown.
func (s *Server) found(live *livePage, tag, language, find string, at time.Time) (answer, bool) {
	to := audience.Audience{At: at, Source: live.tags[tag]}
	if !live.Document.IsOpen(at) || !live.Document.CanBeSearched(to) {
		return answer{}, false
	}
	ctx, cancel := context.WithTimeout(context.Background(), findWithin)
	defer cancel()
	// What is looked for is anybody's choice, so that no drawing can be held for the next.
	done, err := s.drawTurns.Take(ctx, live.PageID)
	if err != nil {
		return answer{}, false
	}
	defer done()
	if live.tags[tag] == "" {
		tag = ""
	}
	html, policy, err := render.Page(live.Document, render.Visit{
		Reroute: s.Reroute,
		To:      to, Origin: s.origin(live), Address: live.Address, Edition: live.Edition, Tag: tag, Find: find,
		Language: language, Pays: live.pays,
	})
	if err != nil {
		return s.failed(live.locale(), err), true
	}
	header := with(s.headers.common, map[string]string{
		"Cache-Control": "no-store", "Content-Type": "text/html; charset=utf-8", "Content-Security-Policy": policy,
		"X-Robots-Tag": "noindex",
	})
	return answer{status: http.StatusOK, header: header, body: html}, true
}
