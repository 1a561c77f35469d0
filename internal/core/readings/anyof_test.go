package readings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/readings"
)

func TestOfSeveralBlocksThoseWhoPressedAnyCountOnce(t *testing.T) {
	block := func(key string, taken, of int) readings.BlockReading {
		return readings.BlockReading{Block: key, Total: readings.BlockFigures{Rate: readings.NewRate(taken, of)}}
	}
	reading := readings.Reading{
		Total:  readings.Figures{Visits: 100, ClickThrough: readings.NewRate(60, 100)},
		Blocks: []readings.BlockReading{block("film", 40, 100), block("sale", 35, 90), block("seat", 25, 100)},
	}
	for _, c := range []struct {
		keys      []string
		taken, of int
	}{
		{[]string{"film"}, 40, 100},
		{[]string{"sale"}, 35, 90},
		{[]string{"film", "sale", "seat"}, 60, 100}, // every visit that pressed anything
		{[]string{"film", "sale"}, 45, 100},         // 75 of 100 presses, of 60 visits
		{[]string{"film", "seat"}, 40, 100},         // no fewer than pressed the film
		{[]string{"gone"}, 0, 0},
		{nil, 0, 0},
	} {
		assert.Equal(t, readings.NewRate(c.taken, c.of), reading.AnyOf(c.keys), "%v", c.keys)
	}
}
