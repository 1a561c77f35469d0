package pull_test

import (
	"fmt"
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
	cells := simulated(random, seen, appeal, 12, 8_000)
	model := pull.Fit(cells)
	for place, want := range seen {
		assert.InDelta(t, want, model.Seen[place], 0.03, "place %d", place+1)
	}
	for block, want := range appeal {
		assert.InDelta(t, want, model.Appeal[fmt.Sprint(block)], 0.01, "block %d", block)
	}
	pulls := model.Pulls(cells)
	assert.Greater(t, pulls["3"], 1.5)
	assert.Less(t, pulls["0"], 0.5)
	for block := range appeal {
		assert.InDelta(t, appeal[block]/appeal[1], pulls[fmt.Sprint(block)]/pulls["1"], 0.15, "block %d", block)
	}
}

func TestBlocksThatDrawAlikeHaveTheSamePullWhereverTheyStand(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	seen := []float64{1, 0.7, 0.5, 0.35}
	cells := simulated(random, seen, []float64{0.2, 0.2, 0.2, 0.2}, 8, 8_000)
	for block, p := range pull.Fit(cells).Pulls(cells) {
		assert.InDelta(t, 1, p, 0.08, block)
	}
}

func TestTooFewVisitsSayNothing(t *testing.T) {
	cells := []pull.Cell{{Edition: 1, Place: 1, Block: "a", Reach: 29, Takers: 20}, {Edition: 1, Place: 2, Block: "b", Reach: 30, Takers: 1}}
	pulls := pull.Fit(cells).Pulls(cells)
	assert.NotContains(t, pulls, "a")
	assert.Contains(t, pulls, "b")
	assert.Empty(t, pull.Fit(nil).Pulls(nil))
	nobody := []pull.Cell{{Edition: 1, Place: 1, Block: "a", Reach: 100}}
	assert.Empty(t, pull.Fit(nobody).Pulls(nobody))
}

func TestWhateverTheCountsChancesAreChances(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cells := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) pull.Cell {
			return pull.Cell{
				Edition: rapid.IntRange(1, 3).Draw(t, "edition"), Place: rapid.IntRange(0, 6).Draw(t, "place"),
				Block: rapid.StringMatching("[a-d]").Draw(t, "block"), Reach: rapid.IntRange(0, 500).Draw(t, "reach"),
				Takers: rapid.IntRange(0, 600).Draw(t, "takers"),
			}
		}), 0, 20).Draw(t, "cells")
		model := pull.Fit(cells)
		for i, seen := range model.Seen {
			require.True(t, seen >= 0 && seen <= 1, "place %d: %v", i+1, seen)
		}
		for block, appeal := range model.Appeal {
			require.True(t, appeal >= 0 && appeal <= 1, "%s: %v", block, appeal)
		}
		for block, p := range model.Pulls(cells) {
			require.True(t, p >= 0, "%s: %v", block, p)
		}
	})
}
