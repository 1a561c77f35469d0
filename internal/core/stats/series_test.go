package stats_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"jundle/internal/core/stats"
)

// daysOf are counts one day after the other.
func daysOf(from int, counts ...int) (days []stats.Daily) {
	for i, count := range counts {
		days = append(days, stats.Daily{Day: from + i, Count: count})
	}
	return days
}

func same(count, days int) []int {
	counts := make([]int, days)
	for i := range counts {
		counts[i] = count
	}
	return counts
}

// Worked by hand: days that are all alike vary by chance alone, so that the logarithm of 1680 by 1400 has the variance
// 1/1680 + 1/1400.
func TestOfDaysThatAreAllAlikeChanceAloneIsLeft(t *testing.T) {
	got := stats.CompareCounts(daysOf(28, same(60, 28)...), daysOf(0, same(50, 28)...), nil)
	log, spread := math.Log(1.2), math.Sqrt(1.0/1680+1.0/1400)
	assert.InDelta(t, 1.2-1, math.Sqrt((1+got.Share.Low)*(1+got.Share.High))-1, 1e-9)
	reach := math.Log(1+got.Share.High) - log
	assert.Greater(t, reach, 1.96*spread)
	assert.Less(t, reach, 2.1*spread, "Student's law of about fifty days")
	assert.Less(t, got.P, 1e-4)
}

func TestWhatTheWeekdaysDoIsNoChange(t *testing.T) {
	week := []int{20, 20, 30, 40, 70, 130, 160}
	before := append(append([]int{}, week...), week...)
	history := append(append([]int{}, before...), before...)
	quiet := stats.CompareCounts(daysOf(42, before...), daysOf(28, before...), daysOf(0, history...))
	assert.Greater(t, quiet.P, 0.99)
	var third []int
	for _, count := range before {
		third = append(third, count*13/10)
	}
	assert.Less(t, stats.CompareCounts(daysOf(42, third...), daysOf(28, before...), daysOf(0, history...)).P, 0.001)
	// Ten days hold other weekdays than the ten before: their sum differs and nothing has changed.
	assert.Greater(t, stats.CompareCounts(daysOf(38, before[3:13]...), daysOf(28, before[:10]...), daysOf(0, history...)).P, 0.9)
}

func TestADayAloneOrTooFewDaysSayNothing(t *testing.T) {
	all := stats.Interval{Low: -1, High: math.Inf(1)}
	for name, c := range map[string][3][]stats.Daily{
		"one against one": {daysOf(40, 90), daysOf(39, 10), daysOf(0, same(10, 39)...)},
		"two weeks":       {daysOf(7, same(90, 7)...), daysOf(0, same(10, 7)...), nil},
		"nobody before":   {daysOf(28, same(90, 28)...), daysOf(0, same(0, 28)...), nil},
		"nobody":          {daysOf(28, same(0, 28)...), daysOf(0, same(0, 28)...), nil},
	} {
		got := stats.CompareCounts(c[0], c[1], c[2])
		assert.Equal(t, stats.ChangeOfCounts{Share: all, P: 1}, got, name)
	}
}

func TestDaysThatHangTogetherSayLess(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 8))
	drawn := func(inertia float64) (counts []int) {
		level := random.NormFloat64()
		for range 56 {
			level = inertia*level + math.Sqrt(1-inertia*inertia)*random.NormFloat64()
			counts = append(counts, int(distuv.Poisson{Lambda: 400 * math.Exp(0.2*level), Src: random}.Rand()))
		}
		return counts
	}
	width := func(inertia float64) (sum float64) {
		for range 40 {
			counts := drawn(inertia)
			share := stats.CompareCounts(daysOf(28, counts[28:]...), daysOf(0, counts[:28]...), nil).Share
			sum += math.Log((1 + share.High) / (1 + share.Low))
		}
		return sum
	}
	assert.Greater(t, width(0.8), 1.8*width(0))
}

func TestAnyCountsGiveAnIntervalAroundTheShareAndOneVerdictEitherWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, from int) []stats.Daily {
			return daysOf(from, rapid.SliceOfN(rapid.IntRange(0, 500), 14, 30).Draw(t, name)...)
		}
		before := draw("before", 0)
		now := draw("now", len(before))
		got := stats.CompareCounts(now, before, nil)
		assert.False(t, math.IsNaN(got.P) || got.P < 0 || got.P > 1, "%v", got.P)
		assert.LessOrEqual(t, got.Share.Low, got.Share.High)
		assert.GreaterOrEqual(t, got.Share.Low, -1.0)
		if got.P < 0.05 {
			assert.True(t, got.Share.Excludes(0))
		}
	})
}
