package pull_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/pull"
)

// cellsOf are of editions in the same order, exactly as often clicked as places are on screen and blocks draw, but for a
// little that editions differ by.
func cellsOf(looks, appeals []float64) (cells []pull.Cell) {
	for edition, mood := range []float64{0.99, 1.01} {
		for i := range looks {
			cells = append(cells, pull.Cell{
				Edition: edition + 1, Place: i + 1, Block: fmt.Sprint("block", i), Reach: 100_000,
				Takers: int(100_000 * looks[i] * appeals[i] * mood),
			})
		}
	}
	return cells
}

func TestWhatIsMeasuredTellsAppealsApartThoughNothingEverChangedPlaces(t *testing.T) {
	seen, appeals := []float64{1, 0.8, 0.5, 0.25}, []float64{0.1, 0.2, 0.3, 0.4}
	cells := cellsOf(seen, appeals)
	assert.Empty(t, pull.Fit(cells).Pulls, "not by clicks alone")
	looks := []pull.Look{{1_000_000, 1_000_000}, {800_000, 1_000_000}, {500_000, 1_000_000}, {250_000, 1_000_000}}
	model := pull.FitMeasured(cells, looks)
	for i, appeal := range appeals {
		assert.InDelta(t, appeal/0.25, model.Pulls[fmt.Sprint("block", i)], 0.01)
	}
	assert.InDeltaSlice(t, seen, model.Seen, 1e-9)
	now := []pull.Slot{{Block: "block0", Group: 1}, {Block: "block1", Group: 1}, {Block: "block2", Group: 1}, {Block: "block3", Group: 1}}
	advice := model.Advise(now, rand.NewPCG(1, 1))
	assert.True(t, advice.Offered)
	assert.Equal(t, []string{"block3", "block2", "block1", "block0"}, advice.Order)
	// 0.4 + 0.8*0.3 + 0.5*0.2 + 0.25*0.1 against 0.1 + 0.8*0.2 + 0.5*0.3 + 0.25*0.4, of 100 visits.
	assert.InDelta(t, 25.5, advice.Gain, 0.3)
}

func TestPlacesOfWhichTooFewToldAreLeftOut(t *testing.T) {
	cells := cellsOf([]float64{1, 0.8, 0.5, 0.25}, []float64{0.1, 0.2, 0.3, 0.4})
	model := pull.FitMeasured(cells, []pull.Look{{1000, 1000}, {800, 1000}, {10, 20}, {0, 1000}})
	assert.Len(t, model.Pulls, 2)
	assert.False(t, pull.Measured([]pull.Look{{5, 29}, {0, 1000}}))
	assert.Empty(t, pull.FitMeasured(cells, nil).Pulls)
	assert.Empty(t, pull.FitMeasured(nil, []pull.Look{{1000, 1000}}).Pulls)
}
