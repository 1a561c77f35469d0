package stats_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/stats"
)

// Source: Newcombe, Statistics in Medicine 17 (1998) 857-872, Table I, method 3.
func TestWilsonIntervalsAgreeWithThePublishedTable(t *testing.T) {
	for _, c := range []struct {
		taken, n  int
		low, high float64
	}{{81, 263, 0.2553, 0.3662}, {15, 148, 0.0624, 0.1605}, {0, 20, 0.0000, 0.1611}, {1, 29, 0.0061, 0.1718}} {
		got := stats.Wilson(c.taken, c.n)
		assert.InDelta(t, c.low, got.Low, 0.00005, "%d/%d", c.taken, c.n)
		assert.InDelta(t, c.high, got.High, 0.00005, "%d/%d", c.taken, c.n)
	}
}

func TestNothingSeenMeansNothingKnown(t *testing.T) {
	assert.Equal(t, stats.Interval{Low: 0, High: 1}, stats.Wilson(0, 0))
}

func TestAnIntervalHoldsItsRateAndStaysARate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 100000).Draw(t, "n")
		taken := rapid.IntRange(0, n).Draw(t, "taken")
		got, rate := stats.Wilson(taken, n), float64(taken)/float64(n)
		if got.Low < 0 || got.High > 1 || got.Low > rate+1e-12 || got.High < rate-1e-12 {
			t.Fatalf("%d/%d gave %+v", taken, n, got)
		}
	})
}

func ExampleWilson() {
	rate := stats.Wilson(15, 148)
	fmt.Printf("15 of 148 is between %.1f %% and %.1f %%\n", 100*rate.Low, 100*rate.High)
	// Output: 15 of 148 is between 6.2 % and 16.0 %
}
