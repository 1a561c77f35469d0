package traffic_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/traffic"
)

func TestABurstBeyondTheBudgetIsAFlood(t *testing.T) {
	budget := traffic.NewFloodBudget(1800)
	var whole time.Time
	counted := 0
	for i := range 400 { // 200 visits and 200 clicks in 1.2 seconds
		var within bool
		if whole, within = budget.Take(whole, noon.Add(time.Duration(i)*3*time.Millisecond)); within {
			counted++
		}
	}
	assert.Equal(t, 120, counted)
	_, within := budget.Take(whole, noon.Add(time.Hour))
	assert.True(t, within, "an hour later all is well again")
}

func TestNoHourHasMoreThanTheBudgetAndWhatMayComeAtOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		budget := traffic.NewFloodBudget(rapid.IntRange(10, 300).Draw(t, "an hour"))
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
			if n := last - first; n > budget.PerHour+budget.AtOnce {
				t.Fatalf("%d in an hour", n)
			}
		}
	})
}
