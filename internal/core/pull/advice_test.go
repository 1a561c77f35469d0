package pull_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/pull"
)

var falling = []float64{1, 0.85, 0.7, 0.55, 0.45, 0.35}

func TestWhatHoldsItsPlaceIsNotMoved(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 17))
	cells := simulated(random, falling[:5], []float64{0.05, 0.4, 0.1, 0.5, 0}, 8, 4_000)
	now := []pull.Slot{{Block: "0", Group: 1}, {Block: "1", Group: 1}, {Block: "heading"}, {Block: "2", Group: 2}, {Block: "3", Group: 2}}
	advice := pull.Fit(cells).Advise(now, rand.NewPCG(1, 1))
	assert.True(t, advice.Offered)
	assert.Equal(t, []string{"1", "0", "heading", "3", "2"}, advice.Order, "within their groups")
	again := pull.Fit(cells).Advise(now, rand.NewPCG(1, 1))
	assert.Equal(t, advice, again, "the same counts give the same advice")

	few := slices.Clone(cells)
	for i := range few {
		few[i].Reach, few[i].Takers = 2, 1
	}
	assert.False(t, pull.Fit(few).Advise(now, rand.NewPCG(1, 1)).Offered)
	assert.False(t, pull.Fit(nil).Advise(now, rand.NewPCG(1, 1)).Offered)
	assert.Equal(t, []string{"0", "1", "heading", "2", "3"}, pull.Fit(nil).Advise(now, rand.NewPCG(1, 1)).Order)
}
