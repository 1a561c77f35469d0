package rollup_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/core/window"
	"jundle/internal/store"
)

// An edition on which b shows on Wednesdays from ten to twelve by the clocks of
// Lisbon, and c to those from the card only.
func (s *site) publishTimed(t *testing.T) {
	t.Helper()
	doc := s.page.Draft
	doc.Blocks = slices.Clone(doc.Blocks)
	doc.Blocks[1].When = &window.Times{
		Zone:   "Europe/Lisbon",
		Weekly: []window.Weekly{{Days: []window.Weekday{"WE"}, From: "10:00", To: "12:00"}},
	}
	c := doc.Blocks[0]
	c.Key, c.To = "cccc", &page.SourceRule{Rule: "only", Sources: []string{"card"}}
	c.Button = &page.Button{Title: "c", Address: "https://kiln.example/c"}
	doc.Blocks = append(doc.Blocks, c)
	var err error
	s.page, err = s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, doc)
	require.NoError(t, err)
	s.page, err = s.store.Publish(
		t.Context(),
		s.member.WorkspaceID,
		s.member.ID,
		s.page.ID,
		store.Publishing{Revision: s.page.Revision},
		now,
	)
	require.NoError(t, err)
}

// Reach counts the visits that were shown a block by the rules themselves: the window
// it was in, and where the visit came from.
func TestReachGoesByTheWindowsAndSourcesOfTheMoment(t *testing.T) {
	s := open(t)
	s.publishTimed(t)
	random := rand.New(rand.NewPCG(7, 7))
	wednesday := time.Date(2026, 6, 10, 0, 0, 0, 0, time.UTC) // ten in Lisbon is nine
	want := map[string]int{}
	var events []store.Event
	for i := range 300 {
		at := wednesday.Add(time.Duration(8*60+random.IntN(4*60)) * time.Minute)
		from := "card"
		if i%3 == 0 {
			from = ""
		}
		view := s.event(at, fmt.Sprint("visitor", i), traffic.View, from)
		view.Edition = 3
		want["a"]++
		if hour := at.Hour(); hour == 9 || hour == 10 {
			want["b"]++
		}
		if from == "card" {
			view.By = []source.By{source.ByTag, source.ByReferrer}[i%2] // the page is shown by either
			want["cccc"]++
		}
		events = append(events, view)
	}
	for batch := range slices.Chunk(events, 70) {
		require.NoError(t, s.store.RecordEvents(t.Context(), batch))
	}
	reach := func() map[string]int {
		got := map[string]int{}
		for _, row := range s.sumsOf(t).Blocks {
			got[row.Block] += row.Reach
		}
		return got
	}
	assert.Equal(t, want, reach())
	require.NoError(t, s.store.ChangeZone(t.Context(), s.member.WorkspaceID, "Europe/Lisbon"))
	s.sumUp(t)
	assert.Equal(t, want, reach(), "and the same when it is counted anew")
}
