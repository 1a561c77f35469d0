package pull_test

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/pull"
)

// worlds is how many made-up worlds are gone through: few with the other tests, all of
// them by JUNDLE_WORLDS.
func worlds(t *testing.T) int {
	t.Helper()
	n, err := strconv.Atoi(cmp.Or(os.Getenv("JUNDLE_WORLDS"), "12"))
	require.NoError(t, err)
	return n
}

func slots(n int) (all []pull.Slot) {
	for i := range n {
		all = append(all, pull.Slot{Block: fmt.Sprint(i), Group: 1})
	}
	return all
}

var falling = []float64{1, 0.85, 0.7, 0.55, 0.45, 0.35}

func TestNoOrderIsAdvisedWhereAllButtonsAreAlike(t *testing.T) {
	offered := 0
	for world := range worlds(t) {
		random := rand.New(rand.NewPCG(uint64(world), 11))
		cells := simulated(random, falling, []float64{0.15, 0.15, 0.15, 0.15, 0.15, 0.15}, 5, 1_000)
		if pull.Advise(cells, slots(6), rand.NewPCG(1, 1)).Offered {
			offered++
		}
	}
	assert.LessOrEqual(t, offered, max(1, worlds(t)/20), "at most one in twenty")
}

func TestABetterOrderIsFoundAndItsGainIsThere(t *testing.T) {
	appeal := []float64{0.05, 0.08, 0.1, 0.2, 0.25, 0.3}
	offered, within, agree := 0, 0, 0.0
	for world := range worlds(t) {
		random := rand.New(rand.NewPCG(uint64(world), 13))
		advice := pull.Advise(simulated(random, falling, appeal, 5, 4_000), slots(6), rand.NewPCG(1, 1))
		if !advice.Offered {
			continue
		}
		offered++
		real := 0.0
		for place, block := range advice.Order {
			i, _ := strconv.Atoi(block)
			real += 100 * falling[place] * (appeal[i] - appeal[place])
			agree += rankAgreement(place, i, len(appeal))
		}
		if real >= advice.Low && real <= advice.High {
			within++
		}
	}
	all := worlds(t)
	assert.GreaterOrEqual(t, offered, all*9/10)
	assert.GreaterOrEqual(t, within, offered*8/10, "what it would bring in fact is within what was said")
	assert.Greater(t, agree/float64(offered*len(appeal)), 0.9)
}

// rankAgreement is 1 where a block stands where its appeal puts it, less by how far it is.
func rankAgreement(place, appealRank, of int) float64 {
	best := of - 1 - appealRank // appeal rises with the number
	off := float64(place - best)
	return 1 - off*off/float64(of)
}

func TestWhatHoldsItsPlaceIsNotMoved(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 17))
	cells := simulated(random, falling[:5], []float64{0.05, 0.4, 0.1, 0.5, 0}, 8, 4_000)
	now := []pull.Slot{{Block: "0", Group: 1}, {Block: "1", Group: 1}, {Block: "heading"}, {Block: "2", Group: 2}, {Block: "3", Group: 2}}
	advice := pull.Advise(cells, now, rand.NewPCG(1, 1))
	assert.True(t, advice.Offered)
	assert.Equal(t, []string{"1", "0", "heading", "3", "2"}, advice.Order, "within their groups")
	again := pull.Advise(cells, now, rand.NewPCG(1, 1))
	assert.Equal(t, advice, again, "the same counts give the same advice")

	few := slices.Clone(cells)
	for i := range few {
		few[i].Reach, few[i].Takers = 2, 1
	}
	assert.False(t, pull.Advise(few, now, rand.NewPCG(1, 1)).Offered)
	assert.False(t, pull.Advise(nil, now, rand.NewPCG(1, 1)).Offered)
	assert.Equal(t, []string{"0", "1", "heading", "2", "3"}, pull.Advise(nil, now, rand.NewPCG(1, 1)).Order)
}
