package readings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/readings"
)

func TestWhoeverGotFurtherDownHadAllOnScreenThatStandsAbove(t *testing.T) {
	depths := []readings.Depth{{Edition: 1, Place: 1, Count: 50}, {Edition: 1, Place: 3, Count: 50}, {Edition: 2, Place: 2, Count: 20}}
	standings := []readings.Standing{
		{1, 1, "film"},
		{1, 2, "sale"},
		{1, 3, "shop"},
		{2, 1, "shop"},
		{2, 2, "film"},
		{2, 3, "sale"},
		{3, 1, "film"}, // nobody told of that edition
	}
	shares := readings.ScreenShares(depths, standings)
	assert.Equal(t, readings.NewRate(120, 120), shares["film"])
	assert.Equal(t, readings.NewRate(50, 120), shares["sale"])
	assert.Equal(t, readings.NewRate(70, 120), shares["shop"])
}

func TestSharesNeverRiseFurtherDown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var depths []readings.Depth
		for place := range rapid.IntRange(1, 12).Draw(t, "places") {
			depths = append(depths, readings.Depth{Edition: 1, Place: place + 1, Count: rapid.IntRange(0, 50).Draw(t, "count")})
		}
		keys := []string{"a", "b", "c", "d", "e", "f", "g", "h", "i", "j", "k", "l", "m"}
		var standings []readings.Standing
		for i, key := range keys {
			standings = append(standings, readings.Standing{Edition: 1, Place: i + 1, Block: key})
		}
		shares := readings.ScreenShares(depths, standings)
		for i := 1; i < len(keys); i++ {
			assert.LessOrEqual(t, shares[keys[i]].Taken, shares[keys[i-1]].Taken)
		}
	})
}

func TestTheRateOfWhoHadItOnScreenIsToldByEnoughOpenings(t *testing.T) {
	assert.Nil(t, readings.ScreenRate(readings.NewRate(20, 29), readings.NewRate(40, 400)))
	told := readings.ScreenRate(readings.NewRate(25, 100), readings.NewRate(40, 400))
	assert.Equal(t, readings.NewRate(40, 100), told.Pressed)
	all := readings.ScreenRate(readings.NewRate(1, 100), readings.NewRate(40, 400))
	assert.Equal(t, readings.NewRate(4, 4), all.Pressed, "no more pressed it than had it on screen")
}
