package public_test

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
	"jundle/internal/store"
)

// week walks a page through a week by a clock that is moved, and counts what it sees.
type week struct {
	*site
	card store.Source
	keys []string
	// reach and takers are by block and source; seen by what was there, in words.
	reach, takers map[string]map[string]int
	seen          map[string][]time.Time
	visits        int
}

// visit opens the page as somebody new, looks at what is there, and presses what stands
// at the end of it on every third visit.
func (w *week) visit(tag, sourceID string) {
	w.t.Helper()
	w.visits++
	client := func(r *http.Request) { r.RemoteAddr = fmt.Sprintf("[2001:db8::%x]:1", w.visits) }
	path := "/quarrow-clay"
	if tag != "" {
		path += "/" + tag
	}
	answer := w.get(path, client)
	var shown []string
	switch answer.Code {
	case http.StatusFound:
		shown = []string{page.PassThroughKey}
		w.count(w.takers, page.PassThroughKey, sourceID)
	case http.StatusOK:
		for _, key := range w.keys {
			if strings.Contains(answer.Body.String(), "https://kiln.example/"+key) {
				shown = append(shown, key)
			}
		}
	default:
		require.Equal(w.t, http.StatusServiceUnavailable, answer.Code)
	}
	for _, key := range shown {
		w.count(w.reach, key, sourceID)
	}
	says := strings.Join(shown, " ")
	if tag != "" {
		says = "card: " + says
	}
	w.seen[says] = append(w.seen[says], w.now)
	if answer.Code == http.StatusOK && w.visits%3 == 0 && len(shown) > 0 {
		key := shown[len(shown)-1]
		press := fmt.Sprintf("/quarrow-clay/-/%d/%s", w.page.LiveEdition, key)
		if tag != "" {
			press += "/" + tag
		}
		require.Equal(w.t, http.StatusFound, w.get(press, client).Code)
		w.count(w.takers, key, sourceID)
	}
}

func (w *week) count(in map[string]map[string]int, key, sourceID string) {
	if in[key] == nil {
		in[key] = map[string]int{}
	}
	in[key][sourceID]++
}

// The week of the autumn change of clocks in Lisbon, hour by hour from two sources:
// windows, weekly times, a solo, a pass-through, and the page closed for a night.
func TestAWeekOfWindowsSoloAndPassThroughIsShownAndCountedAlike(t *testing.T) {
	s := open(t)
	w := &week{
		site: s, card: s.source("Printed card", "karte"), keys: []string{"dates", "sale", "glaze"},
		reach: map[string]map[string]int{}, takers: map[string]map[string]int{}, seen: map[string][]time.Time{},
	}
	monday := time.Date(2026, 10, 19, 0, 0, 0, 0, time.UTC) // Lisbon is an hour ahead until Sunday
	day := func(n, hour int) time.Time { return monday.AddDate(0, 0, n).Add(time.Duration(hour) * time.Hour) }
	sale, glaze := button("sale", "https://kiln.example/sale"), button("glaze", "https://kiln.example/glaze")
	sale.When = &window.Times{Zone: "Europe/Lisbon", Spans: []window.Span{{From: day(1, 8), To: day(5, 18)}}}
	glaze.When = &window.Times{Zone: "Europe/Lisbon", Weekly: []window.Weekly{{
		Days: []window.Weekday{"SA", "SU"}, From: "10:00", To: "12:00",
	}}}
	glaze.To = &page.SourceRule{Rule: "but", Sources: []string{w.card.ID.String()}}
	doc := document([]page.Block{button("dates", "https://kiln.example/dates"), sale, glaze})
	doc.When = &window.Times{Zone: "Europe/Lisbon", Spans: []window.Span{{To: day(3, 22)}, {From: day(4, 5)}}}
	s.now = monday
	s.publishDocument(doc)

	var straight string
	for hour := range 7 * 24 {
		s.now = monday.Add(time.Duration(hour) * time.Hour)
		switch s.now {
		case day(2, 9):
			s.begin(page.Takeover{Solo: "sale", Until: day(3, 9)})
		case day(4, 10):
			straight = s.begin(page.Takeover{
				PassThrough: &page.PassThrough{Address: "https://kiln.example/film"},
				To:          &page.SourceRule{Rule: "only", Sources: []string{w.card.ID.String()}},
			})
		case day(4, 20):
			s.end(straight)
		}
		s.now = s.now.Add(30 * time.Minute)
		w.visit("", "")
		w.visit("karte", w.card.ID.String())
	}

	hours := func(says string) (hours int, first time.Time) {
		if len(w.seen[says]) == 0 {
			return 0, time.Time{}
		}
		return len(w.seen[says]), w.seen[says][0].Add(-30 * time.Minute)
	}
	for _, c := range []struct {
		says  string
		hours int
		first time.Time
		why   string
	}{
		{"sale", 24, day(2, 9), "the solo, for a day"},
		{"card: sale", 24, day(2, 9), "for everybody"},
		{"card: " + page.PassThroughKey, 10, day(4, 10), "the pass-through, from the card only"},
		{"", 7, day(3, 22), "the page is closed for a night"},
		{"card: ", 7, day(3, 22), "for everybody"},
		{"dates sale glaze", 2, day(5, 9), "ten in Lisbon is nine on Saturday"},
		{"dates glaze", 2, day(6, 10), "and ten on Sunday, after the change of clocks"},
		{"card: dates glaze", 0, time.Time{}, "not from the card"},
		// From Tuesday 8 to Saturday 18 it is 106 hours: less the solo, the night and the glaze.
		{"dates sale", 106 - 24 - 7 - 2, day(1, 8), "the window"},
		{"card: dates sale", 106 - 24 - 7 - 10, day(1, 8), "the window, without the pass-through"},
	} {
		got, first := hours(c.says)
		assert.Equal(t, c.hours, got, "%s: %s", c.says, c.why)
		assert.Equal(t, c.first, first, "%s: %s", c.says, c.why)
	}

	require.NoError(t, s.recorder.Close(t.Context()))
	s.recorder = nil
	counted := func() (reach, takers map[string]map[string]int, visits int) {
		reach, takers = map[string]map[string]int{}, map[string]map[string]int{}
		figures, err := s.store.Figures(t.Context(), s.member.WorkspaceID, []uuid.UUID{s.page.ID}, day(0, 0), day(7, 0))
		require.NoError(t, err)
		for _, row := range figures[s.page.ID].Sums.Blocks {
			for n, in := range map[*int]map[string]map[string]int{&row.Reach: reach, &row.Takers: takers} {
				if *n > 0 {
					if in[row.Block] == nil {
						in[row.Block] = map[string]int{}
					}
					in[row.Block][row.Source] += *n
				}
			}
		}
		for _, row := range figures[s.page.ID].Sums.Pages {
			visits += row.Visits
		}
		return reach, takers, visits
	}
	reach, takers, visits := counted()
	assert.Equal(t, w.reach, reach, "what was counted as it came is what was seen")
	assert.Equal(t, w.takers, takers)
	assert.Equal(t, 2*7*24, visits)
	require.NoError(t, s.store.ChangeZone(t.Context(), s.member.WorkspaceID, "Europe/Lisbon"))
	due, err := s.store.DueDays(t.Context(), 100, true)
	require.NoError(t, err)
	require.NotEmpty(t, due)
	for _, each := range slices.Backward(due) {
		_, err := s.store.SumUpDay(t.Context(), each)
		require.NoError(t, err)
	}
	reach, takers, visits = counted()
	assert.Equal(t, w.reach, reach, "and so is what is counted anew")
	assert.Equal(t, w.takers, takers)
	assert.Equal(t, 2*7*24, visits)
}
