package public_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

// shows tells which of the buttons stand on the page now.
func (s *site) shows(path string) (keys string) {
	s.t.Helper()
	body := s.get(path).Body.String()
	for _, key := range []string{"dates", "sale", "card"} {
		if strings.Contains(body, "https://kiln.example/"+key) {
			keys += key + " "
		}
	}
	return strings.TrimSpace(keys)
}

func TestAPageChangesByItselfAtItsWindowsAndBySource(t *testing.T) {
	s := open(t)
	card := s.source("Printed card", "karte")
	sale, only := button("sale", "https://kiln.example/sale"), button("card", "https://kiln.example/card")
	sale.When = &window.Times{
		Zone: "Europe/Lisbon", Spans: []window.Span{{From: now.Add(time.Hour), To: now.Add(3 * time.Hour)}},
		Weekly: []window.Weekly{{Days: []window.Weekday{"FR"}, From: "10:00", To: "18:00"}}, Either: true,
	}
	only.To = &page.SourceRule{Rule: "only", Sources: []string{card.ID.String()}}
	s.publish(button("dates", "https://kiln.example/dates"), sale, only)

	friday := time.Date(2026, 6, 5, 0, 0, 0, 0, time.UTC) // nine in the morning there is eight
	for _, c := range []struct {
		at                time.Time
		anybody, fromCard string
	}{
		{now, "dates", "dates card"},
		{now.Add(time.Hour - time.Second), "dates", "dates card"},
		{now.Add(time.Hour), "dates sale", "dates sale card"},
		{now.Add(3*time.Hour - time.Second), "dates sale", "dates sale card"},
		{now.Add(3 * time.Hour), "dates", "dates card"},
		{friday.Add(9*time.Hour - time.Second), "dates", "dates card"},
		{friday.Add(9 * time.Hour), "dates sale", "dates sale card"},
		{friday.Add(17 * time.Hour), "dates", "dates card"},
	} {
		s.now = c.at
		for range 2 { // made anew, and out of memory
			assert.Equal(t, c.anybody, s.shows("/quarrow-clay"), c.at)
			assert.Equal(t, c.fromCard, s.shows("/quarrow-clay/karte"), c.at)
		}
	}
}

func TestAButtonWhoseWindowIsOverLeadsForADayForTabsThatStillShowIt(t *testing.T) {
	s := open(t)
	s.source("Printed card", "karte")
	sale := button("sale", "https://kiln.example/sale")
	ends := now.Add(3 * time.Hour)
	sale.When = &window.Times{Zone: "UTC", Spans: []window.Span{{From: now.Add(time.Hour), To: ends}}}
	elsewhere := button("else", "https://kiln.example/else")
	elsewhere.To = &page.SourceRule{Rule: "only", Sources: []string{"nobody"}}
	s.publish(sale, elsewhere)
	for _, c := range []struct {
		at     time.Time
		status int
		why    string
	}{
		{now, http.StatusGone, "it has not begun"},
		{now.Add(time.Hour), http.StatusFound, "it shows"},
		{ends, http.StatusFound, "somebody has the page open"},
		{ends.Add(24*time.Hour - time.Second), http.StatusFound, "still"},
		{ends.Add(24 * time.Hour), http.StatusGone, "no longer"},
	} {
		s.now = c.at
		for range 2 {
			assert.Equal(t, c.status, s.get("/quarrow-clay/-/1/sale").Code, "%s: %s", c.at, c.why)
		}
		answer := s.get("/quarrow-clay/-/1/else")
		assert.Equal(t, http.StatusGone, answer.Code, "nobody is shown it")
		assert.Contains(t, answer.Body.String(), "Not on the page now")
	}
}
