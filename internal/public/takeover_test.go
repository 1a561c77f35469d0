package public_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/pages"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/core/window"
)

// begin lets something take the place of the page, as one process hears of it from
// another.
func (s *site) begin(takeover page.Takeover) string {
	s.t.Helper()
	changed, err := s.pages().Begin(s.t.Context(), s.member, s.page.ID, takeover)
	require.NoError(s.t, err)
	s.page = changed
	s.server.Forget(s.page.ID)
	return changed.Takeovers[len(changed.Takeovers)-1].ID
}

func (s *site) end(takeover string) {
	s.t.Helper()
	changed, err := s.pages().End(s.t.Context(), s.member, s.page.ID, takeover)
	require.NoError(s.t, err)
	s.page = changed
	s.server.Forget(s.page.ID)
}

func (s *site) pages() pages.Pages {
	return pages.Pages{Store: s.store, Now: func() time.Time { return s.now }}
}

func TestASoloIsLiveAtOnceAndWhatWaitsGoesOnWaiting(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"), button("sale", "https://kiln.example/sale"))
	saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, document([]page.Block{
		button("card", "https://kiln.example/card"),
	}))
	require.NoError(t, err)
	s.now = now.Add(30 * time.Second)
	solo := s.begin(page.Takeover{Solo: "sale", Until: now.Add(2 * time.Hour)})
	assert.Equal(t, "sale", s.shows("/quarrow-clay"))
	assert.Equal(t, saved.Revision, s.page.Revision, "whoever is at work on the page does not notice")
	s.now = now.Add(2 * time.Hour)
	assert.Equal(t, "dates sale", s.shows("/quarrow-clay"), "over by itself")
	s.now = now.Add(time.Hour)
	s.end(solo)
	assert.Equal(t, "dates sale", s.shows("/quarrow-clay"), "over at one press")
	_, err = s.pages().End(t.Context(), s.member, s.page.ID, solo)
	require.Error(t, err, "it is over already")

	published := s.publishing
	published.Revision = s.page.Revision
	s.begin(page.Takeover{Solo: "dates"})
	_, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, published, s.now)
	require.NoError(t, err)
	s.server.Forget(s.page.ID)
	assert.Equal(t, "card", s.shows("/quarrow-clay"), "what is to stand alone was taken off the page")
	editions, err := s.store.Editions(t.Context(), s.member.WorkspaceID, s.page.ID, 0, 10)
	require.NoError(t, err)
	var said []string
	for _, edition := range editions {
		said = append(said, edition.Changes[0].Sentence)
	}
	assert.Equal(t, []string{
		"“To https://kiln.example/dates” stands alone from 1 Jun 2026 13:00.", "“To https://kiln.example/sale” no longer stands alone.",
		"“To https://kiln.example/sale” stands alone from 1 Jun 2026 12:00 until 1 Jun 2026 14:00.",
	}, said[1:4])
	first, err := s.store.PublishedEdition(t.Context(), s.member.WorkspaceID, s.page.ID, 1)
	require.NoError(t, err)
	third, err := s.store.PublishedEdition(t.Context(), s.member.WorkspaceID, s.page.ID, 3)
	require.NoError(t, err)
	assert.Equal(t, first.Document.Blocks, third.Document.Blocks, "what was put back is what was there")
	assert.Empty(t, third.Document.Takeovers)
}

func TestAPassThroughLeadsStraightOnAndFollowsItsDestination(t *testing.T) {
	s := open(t)
	card := s.source("Printed card", "karte")
	s.publish(button("dates", "https://kiln.example/dates"))
	s.begin(page.Takeover{
		PassThrough: &page.PassThrough{Address: "https://kiln.example/film"},
		To:          &page.SourceRule{Rule: "only", Sources: []string{card.ID.String()}}, Until: now.Add(30 * time.Minute),
	})
	s.leadsTo("/quarrow-clay/karte", "https://kiln.example/film")
	assert.Equal(t, "no-store", s.get("/quarrow-clay/karte").Header().Get("Cache-Control"))
	assert.Equal(t, "dates", s.shows("/quarrow-clay"))
	s.lead(s.find("https://kiln.example/film"), "https://kiln.example/moved")
	s.leadsTo("/quarrow-clay/karte", "https://kiln.example/moved")
	s.now = now.Add(30 * time.Minute)
	assert.Equal(t, "dates", s.shows("/quarrow-clay/karte"))
	s.end(s.begin(page.Takeover{PassThrough: &page.PassThrough{Address: "https://kiln.example/film"}}))
	assert.Equal(t, "dates", s.shows("/quarrow-clay"), "over at one press")

	views, presses := 0, 0
	for _, event := range s.events() {
		switch {
		case event.Kind == traffic.Click:
			assert.Equal(t, page.PassThroughKey, event.Block)
			assert.Equal(t, card.ID.String(), event.Source)
			presses++
		case event.Edition == 2 && event.Source == card.ID.String():
			views++
		}
	}
	assert.Equal(t, 3, presses, "from the card")
	assert.Equal(t, 4, views, "those that were led on, and the one after it was over by itself")
}

func TestAPageOutsideItsTimesSaysWhenItOpens(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.When = &window.Times{Zone: "Europe/Lisbon", Spans: []window.Span{{From: now.Add(time.Hour), To: now.Add(2 * time.Hour)}}}
	s.publishDocument(doc)
	closed := s.get("/quarrow-clay")
	assert.Equal(t, http.StatusServiceUnavailable, closed.Code)
	assert.Equal(t, "Mon, 01 Jun 2026 13:00:00 GMT", closed.Header().Get("Retry-After"))
	assert.Contains(t, closed.Body.String(), "It opens on Monday, June 1, 2026 at 2:00\u202fPM (Europe/Lisbon).")
	assert.Equal(t, http.StatusGone, s.get("/quarrow-clay/-/1/dates").Code)
	s.now = now.Add(time.Hour)
	assert.Equal(t, "dates", s.shows("/quarrow-clay"))
	s.now = now.Add(2 * time.Hour)
	closed = s.get("/quarrow-clay")
	assert.Equal(t, http.StatusServiceUnavailable, closed.Code)
	assert.NotContains(t, closed.Body.String(), "It opens on")
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/dates").Code, "somebody has the page open")
	s.now = s.now.Add(page.LeadsOn)
	assert.Equal(t, http.StatusGone, s.get("/quarrow-clay/-/1/dates").Code)
}

func TestAPageIsShownAsToTheSourceThatAnyEvidenceNames(t *testing.T) {
	s := open(t)
	card := s.source("Printed card", "karte")
	only := button("card", "https://kiln.example/card")
	only.To = &page.SourceRule{Rule: "only", Sources: []string{card.ID.String()}}
	s.publish(button("dates", "https://kiln.example/dates"), only)
	assert.Equal(t, "dates card", s.shows("/quarrow-clay?utm_source=karte"))
	assert.Contains(t, s.get("/quarrow-clay?utm_source=karte").Body.String(), "/quarrow-clay/-/1/card/karte",
		"and what is pressed carries it on")
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/card/karte").Code)
}
