package rollup_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/rollup"
)

// What changes sums may all happen at once: events that arrive, other zones, days
// made anew, recounts, and events that are deleted in time. Nobody waits for the
// other for ever, and the figures are right in the end.
func TestWhateverChangesSumsMayHappenAtOnce(t *testing.T) {
	s := open(t)
	list, err := agents.Load()
	require.NoError(t, err)
	require.NoError(t, s.store.KeepDays(t.Context(), s.member.WorkspaceID, 3650))
	random := rand.New(rand.NewPCG(1, 2))
	crowd := s.crowd(random)
	for i := range crowd {
		// Their tag and browser say what a recount would decide of them.
		crowd[i].Tag, crowd[i].Source, crowd[i].UserAgent = "", "", "Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) Mobile"
		crowd[i].By, crowd[i].Flags = "untagged", 0
	}
	events := slices.Clone(crowd)
	random.Shuffle(len(events), func(i, j int) { events[i], events[j] = events[j], events[i] })

	var work sync.WaitGroup
	for half := range slices.Chunk(events, (len(events)+1)/2) {
		work.Go(func() {
			for batch := range slices.Chunk(half, 40) {
				assert.NoError(t, s.store.RecordEvents(t.Context(), batch))
			}
		})
	}
	zones := []string{"Europe/Lisbon", zone}
	turn := 0
	for name, change := range map[string]func() error{
		"another zone": func() error {
			turn++
			return s.store.ChangeZone(t.Context(), s.member.WorkspaceID, zones[turn%2])
		},
		"days made anew": func() error { _, err := rollup.All(t.Context(), s.store, nil); return err },
		"a recount": func() error {
			_, err := rollup.Recount(t.Context(), s.store, list, nil, nil, func(int, int) {})
			return err
		},
		"what is over": func() error { _, err := s.store.Prune(t.Context(), now); return err },
	} {
		work.Go(func() {
			for range 12 {
				if !assert.NoError(t, change(), name) {
					return
				}
			}
		})
	}
	work.Wait()

	require.NoError(t, s.store.ChangeZone(t.Context(), s.member.WorkspaceID, zone))
	s.sumUp(t)
	require.Equal(t, summed(crowd), s.sumsOf(t), fmt.Sprint(len(crowd), " events"))
}
