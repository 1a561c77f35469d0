package traffic_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/traffic"
)

func TestABurstBeyondTheBudgetIsAFlood(t *testing.T) {
	budget := traffic.FloodBudget{PerHour: 1800}
	var whole time.Time
	counted := 0
	for i := range 2400 { // in 7.2 seconds
		var within bool
		if whole, within = budget.Take(whole, noon.Add(time.Duration(i)*3*time.Millisecond)); within {
			counted++
		}
	}
	assert.InDelta(t, 1800, counted, 5, "and what comes back in those seconds")
	_, within := budget.Take(whole, noon.Add(time.Hour))
	assert.True(t, within, "an hour later all is well again")
}

func TestAHallInWhichEverybodyOpensThePageAtOnceIsNoFlood(t *testing.T) {
	budget := traffic.FloodBudget{PerHour: 3000}
	var whole time.Time
	for i := range 2000 { // a view and a press of a thousand visitors, within a second
		var within bool
		whole, within = budget.Take(whole, noon.Add(time.Duration(i)*500*time.Microsecond))
		assert.True(t, within, "event %d", i)
	}
}

func TestNoHourHasMoreThanWhatWasThereAndWhatComesBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		budget := traffic.FloodBudget{PerHour: rapid.IntRange(10, 300).Draw(t, "an hour")}
		at, whole := noon, time.Time{}
		var counted []time.Time
		for range rapid.IntRange(0, 1000).Draw(t, "events") {
			at = at.Add(time.Duration(rapid.IntRange(0, 20_000).Draw(t, "ms")) * time.Millisecond)
			var within bool
			if whole, within = budget.Take(whole, at); within {
				counted = append(counted, at)
			}
		}
		for first := range counted {
			last := first
			for last < len(counted) && counted[last].Sub(counted[first]) < time.Hour {
				last++
			}
			if n := last - first; n > 2*budget.PerHour {
				t.Fatalf("%d in an hour", n)
			}
		}
	})
}
