package pull_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/pull"
)

// simulated is a world of known chances: blocks of those appeals on editions that have
// them in different orders, each shown to so many visits.
func simulated(random *rand.Rand, seen, appeal []float64, editions, visits int) []pull.Cell {
	var cells []pull.Cell
	for edition := range editions {
		for place, block := range random.Perm(len(appeal)) {
			cell := pull.Cell{Edition: edition + 1, Place: place + 1, Block: fmt.Sprint(block), Reach: visits}
			for range visits {
				if random.Float64() < seen[place]*appeal[block] {
					cell.Takers++
				}
			}
			cells = append(cells, cell)
		}
	}
	return cells
}

func TestKnownChancesAreRecovered(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	seen, appeal := []float64{1, 0.8, 0.6, 0.45, 0.3}, []float64{0.05, 0.1, 0.2, 0.3, 0.12}
	model := pull.Fit(simulated(random, seen, appeal, 12, 8_000))
	for place, want := range seen {
		assert.InDelta(t, want, model.Seen[place], 0.04, "place %d", place+1)
	}
	assert.True(t, model.Differ)
	for block := range appeal {
		assert.InDelta(t, appeal[block]/0.154, model.Pulls[fmt.Sprint(block)], 0.1, "block %d, against their mean of 0.154", block)
	}
}

func TestAPlaceThatIsSeenMoreThanTheFirstIsFound(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 2))
	model := pull.Fit(simulated(random, []float64{0.4, 1, 0.7}, []float64{0.1, 0.2, 0.15}, 8, 8_000))
	assert.InDelta(t, 0.4, model.Seen[0], 0.05)
	assert.InDelta(t, 1, model.Seen[1], 1e-9)
}

func TestBlocksThatDrawAlikeHaveTheSamePullWhereverTheyStand(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	model := pull.Fit(simulated(random, []float64{1, 0.7, 0.5, 0.35}, []float64{0.2, 0.2, 0.2, 0.2}, 8, 8_000))
	assert.False(t, model.Differ)
	for block, p := range model.Pulls {
		assert.InDelta(t, 1, p, 0.06, block)
	}
}

// Worked by hand: two blocks that changed places once, without chance: rates 0.4 and 0.1, then 0.2 and 0.2. The second place
// is seen half as much, and the first block draws twice as much.
func TestOfTwoThatChangedPlacesEitherIsToldFromItsPlace(t *testing.T) {
	var cells []pull.Cell
	for edition := range 4 {
		first, second := "a", "b"
		takers := [2]int{40_000, 10_000}
		if edition%2 == 1 {
			first, second, takers = "b", "a", [2]int{20_000, 20_000}
		}
		cells = append(cells,
			pull.Cell{Edition: edition, Place: 1, Block: first, Reach: 100_000, Takers: takers[0]},
			pull.Cell{Edition: edition, Place: 2, Block: second, Reach: 100_000, Takers: takers[1]})
	}
	model := pull.Fit(cells)
	assert.InDelta(t, 0.5, model.Seen[1], 0.001)
	assert.InDelta(t, 2, model.Pulls["a"]/model.Pulls["b"], 0.01)
	assert.True(t, model.Differ)
}

func TestWhatNeverChangedPlacesIsNotToldFromItsPlace(t *testing.T) {
	var cells []pull.Cell
	for edition := range 3 {
		for place, takers := range []int{100, 300, 200, 150} {
			block := fmt.Sprint(place)
			if edition == 2 && place > 1 { // the last two change places
				block = fmt.Sprint(5 - place)
			}
			cells = append(cells, pull.Cell{Edition: edition, Place: place + 1, Block: block, Reach: 1000, Takers: takers})
		}
	}
	model := pull.Fit(cells)
	assert.NotContains(t, model.Pulls, "0")
	assert.NotContains(t, model.Pulls, "1")
	assert.Contains(t, model.Pulls, "2")
	assert.Contains(t, model.Pulls, "3")
	assert.True(t, math.IsNaN(model.Seen[0]) && math.IsNaN(model.Seen[1]) && !math.IsNaN(model.Seen[2]))
	now := []pull.Slot{{Block: "0", Group: 1}, {Block: "1", Group: 1}, {Block: "3", Group: 1}, {Block: "2", Group: 1}}
	advice := pull.Fit(cells).Advise(now, rand.NewPCG(1, 1))
	assert.Equal(t, 2, advice.Untold)
	assert.Equal(t, []string{"0", "1"}, advice.Order[:2], "they hold their places")
	fixed := pull.Fit(cells[:8]).Advise(now, rand.NewPCG(1, 1))
	assert.False(t, fixed.Offered)
	assert.Equal(t, 4, fixed.Untold)
}

// Of editions that differ much, two orders that seem to differ do so by chance.
func TestAPageThatDriftsIsNotTakenForAnOrderThatMatters(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 9))
	offered := 0
	for range 100 {
		var cells []pull.Cell
		for edition := range 6 {
			for place, block := range random.Perm(4) {
				rate := 0.15 * math.Exp(0.2*random.NormFloat64())
				cells = append(cells, pull.Cell{
					Edition: edition, Place: place + 1, Block: fmt.Sprint(block), Reach: 20_000, Takers: int(20_000 * rate),
				})
			}
		}
		now := []pull.Slot{{Block: "0", Group: 1}, {Block: "1", Group: 1}, {Block: "2", Group: 1}, {Block: "3", Group: 1}}
		if pull.Fit(cells).Advise(now, rand.NewPCG(1, 1)).Offered {
			offered++
		}
	}
	assert.LessOrEqual(t, offered, 7)
}

func TestTooFewVisitsSayNothing(t *testing.T) {
	cells := []pull.Cell{{Edition: 1, Place: 1, Block: "a", Reach: 29, Takers: 20}, {Edition: 2, Place: 2, Block: "b", Reach: 30, Takers: 1}}
	assert.False(t, pull.Fit(cells).Few)
	assert.True(t, pull.Fit(cells[:1]).Few)
	assert.True(t, pull.Fit(nil).Few)
	assert.Empty(t, pull.Fit(cells).Pulls)
}

func TestWhateverTheCountsChancesAreChances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cells := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) pull.Cell {
			return pull.Cell{
				Edition: rapid.IntRange(1, 4).Draw(t, "edition"), Place: rapid.IntRange(0, 6).Draw(t, "place"),
				Block: rapid.StringMatching("[a-d]").Draw(t, "block"), Source: rapid.StringMatching("[xy]").Draw(t, "source"),
				Reach: rapid.IntRange(0, 500).Draw(t, "reach"), Takers: rapid.IntRange(0, 600).Draw(t, "takers"),
			}
		}), 0, 40).Draw(t, "cells")
		model := pull.Fit(cells)
		for i, seen := range model.Seen {
			require.True(t, math.IsNaN(seen) || seen >= 0 && seen <= 1, "place %d: %v", i+1, seen)
		}
		for block, p := range model.Pulls {
			require.True(t, p >= 0, "%s: %v", block, p)
		}
		now := []pull.Slot{{Block: "a", Group: 1}, {Block: "b", Group: 1}, {Block: "c"}, {Block: "d", Group: 1}}
		advice := pull.Fit(cells).Advise(now, rand.NewPCG(1, 1))
		require.ElementsMatch(t, []string{"a", "b", "c", "d"}, advice.Order)
		require.Equal(t, "c", advice.Order[2], "it holds its place")
		require.LessOrEqual(t, advice.Low, advice.High)
	})
}
