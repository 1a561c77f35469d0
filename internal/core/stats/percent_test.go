package stats_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/stats"
)

// The studio's tests read the same table, so that a rate reads the same in letters, files, shared figures and on screen.
func TestSharesAreWrittenTheSameEverywhere(t *testing.T) {
	text, err := os.ReadFile("testdata/percent.json")
	require.NoError(t, err)
	var table []struct {
		Taken, Of int
		Says      string
	}
	require.NoError(t, json.Unmarshal(text, &table))
	for _, row := range table {
		assert.Equal(t, row.Says, stats.Percent(float64(row.Taken)/float64(row.Of)), "%d of %d", row.Taken, row.Of)
	}
}

func TestTheEndOfAnIntervalOfNothingIsNothing(t *testing.T) {
	assert.Equal(t, "0\u00a0%", stats.Percent(stats.Wilson(0, 300).Low))
	assert.Equal(t, "100\u00a0%", stats.Percent(stats.Wilson(300, 300).High))
}
