package stats_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"jundle/internal/core/stats"
)

// spreadOver is so many of so many of a stratum, shared out over days.
func spreadOver(from, days int, stratum string, taken, of int) (rates []stats.DailyRate) {
	for i := range days {
		rates = append(rates, stats.DailyRate{
			Day: from + i, Stratum: stratum, Taken: taken*(i+1)/days - taken*i/days, Of: of*(i+1)/days - of*i/days,
		})
	}
	return rates
}

// Source: the University Group Diabetes Program, deaths by age, in Rothman, Greenland, Lash, Modern Epidemiology (3rd ed.,
// 2008), chapter 15 (from memory): 8 of 106 against 5 of 120 below 55, and 22 of 98 against 16 of 85 above. The pooled
// difference is 0.035.
func TestStrataArePooledAsMantelAndHaenszelDo(t *testing.T) {
	now := append(spreadOver(10, 5, "below 55", 8, 106), spreadOver(10, 5, "above", 22, 98)...)
	before := append(spreadOver(0, 5, "below 55", 5, 120), spreadOver(0, 5, "above", 16, 85)...)
	got := stats.CompareRates(now, before, 0)
	assert.InDelta(t, 0.035, got.Difference, 0.0005)
	assert.InDelta(t, 30.0/204-21.0/205, got.Plain, 1e-12)
	assert.False(t, got.Points.Excludes(0))
	assert.InDelta(t, got.Difference, (got.Points.Low+got.Points.High)/2, 0.01)
}

// Simpson's case: each source is pressed more, and all together less, because more come from where less is pressed.
func TestAShiftOfTheMixIsNoChange(t *testing.T) {
	now := append(spreadOver(20, 14, "loft", 210, 1000), spreadOver(20, 14, "letter", 480, 8000)...)
	before := append(spreadOver(0, 14, "loft", 1600, 8000), spreadOver(0, 14, "letter", 50, 1000)...)
	got := stats.CompareRates(now, before, 0)
	assert.InDelta(t, 0.01, got.Difference, 1e-9)
	assert.Less(t, got.Plain, -0.1)
	only := stats.CompareRates(append(now, spreadOver(20, 14, "new", 900, 1000)...), before, 0)
	assert.InDelta(t, got.Difference, only.Difference, 1e-12, "what is on one side only says nothing of a change")
}

func TestTheDifferenceIsThatOfAThousandTablesWorkedOutAnotherWay(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 4))
	for range 1000 {
		var now, before []stats.DailyRate
		above, below := 0.0, 0.0
		for s := range 1 + random.IntN(5) {
			n, m := 20+random.IntN(2000), 20+random.IntN(2000)
			a, b := random.IntN(n/2), random.IntN(m/2)
			now = append(now, spreadOver(9, 7, fmt.Sprint(s), a, n)...)
			before = append(before, spreadOver(0, 7, fmt.Sprint(s), b, m)...)
			// The same as a quotient of two sums, as it is written for counts.
			above += (float64(a)*float64(m) - float64(b)*float64(n)) / float64(n+m)
			below += float64(n) * float64(m) / float64(n+m)
		}
		assert.InDelta(t, above/below, stats.CompareRates(now, before, 0).Difference, 1e-9)
	}
}

func TestDaysThatDifferSayLessThanAsManyVisits(t *testing.T) {
	even := stats.CompareRates(spreadOver(7, 7, "", 840, 7000), spreadOver(0, 7, "", 700, 7000), 0)
	assert.Less(t, even.P, 0.01)
	uneven := func(from, plus int) (rates []stats.DailyRate) {
		for i, taken := range []int{60, 180, 40, 160, 90, 110, 60} {
			rates = append(rates, stats.DailyRate{Day: from + i, Taken: taken + plus, Of: 1000})
		}
		return rates
	}
	got := stats.CompareRates(uneven(7, 20), uneven(0, 0), 0)
	assert.InDelta(t, 0.02, got.Difference, 1e-9)
	assert.Greater(t, got.P, 0.2)
	assert.Greater(t, got.Points.High-got.Points.Low, 3*(even.Points.High-even.Points.Low))
}

func TestRatesThatHangTogetherAreFoundOut(t *testing.T) {
	random := rand.New(rand.NewPCG(9, 1))
	days := func(inertia float64) (rates []stats.DailyRate) {
		mood := 0.0
		for day := range 400 {
			mood = inertia*mood + 0.03*random.NormFloat64()
			rate := min(0.9, max(0.01, 0.2+mood))
			rates = append(rates, stats.DailyRate{Day: day, Taken: int(distuv.Binomial{N: 2000, P: rate, Src: random}.Rand()), Of: 2000})
		}
		return rates
	}
	for _, inertia := range []float64{0.4, 0.7} {
		all := days(inertia)
		got := stats.RateInertia(all[200:], all[:200])
		assert.GreaterOrEqual(t, got, inertia-0.1)
		assert.LessOrEqual(t, got, inertia+0.25, "it is taken to be as large as it may well be")
	}
}

func TestAnyRatesGiveAnInterval(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) (rates []stats.DailyRate) {
			for range rapid.IntRange(0, 12).Draw(t, name) {
				of := rapid.IntRange(0, 50).Draw(t, "of")
				rates = append(rates, stats.DailyRate{
					Day: rapid.IntRange(0, 9).Draw(t, "day"), Stratum: rapid.SampledFrom([]string{"a", "b"}).Draw(t, "stratum"),
					Taken: rapid.IntRange(0, 60).Draw(t, "taken"), Of: of,
				})
			}
			return rates
		}
		got := stats.CompareRates(draw("now"), draw("before"), 0)
		assert.True(t, got.P >= 0 && got.P <= 1, "%v", got)
		assert.True(t, got.Points.Low >= -1 && got.Points.High <= 1 && got.Points.Low <= got.Points.High, "%v", got)
	})
}

func TestADifferenceOfTheLeastSizeIsFoundInEightOfTen(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 10))
	drawn := func(from int, rate float64) (rates []stats.DailyRate) {
		for day := range 28 {
			rates = append(rates, stats.DailyRate{
				Day: from + day, Of: 120, Taken: int(distuv.Binomial{N: 120, P: rate, Src: random}.Rand()),
			})
		}
		return rates
	}
	const level = 0.01
	const worlds = 400
	var least []float64
	for range worlds {
		least = append(least, stats.CompareRates(drawn(28, 0.2), drawn(0, 0.2), 0).Least(level))
	}
	slices.Sort(least)
	found := 0
	for range worlds {
		if stats.CompareRates(drawn(28, 0.2+least[worlds/2]), drawn(0, 0.2), 0).P < level {
			found++
		}
	}
	assert.InDelta(t, 0.8, float64(found)/float64(worlds), 0.08)
	assert.True(t, math.IsNaN(stats.CompareRates(drawn(0, 0.2)[:1], drawn(1, 0.2), 0).Least(level)), "of a day alone nothing can be said")
}

func TestWhatIsKnownToHaveChangedIsNotTakenForDrift(t *testing.T) {
	random := rand.New(rand.NewPCG(21, 4))
	var all, told []stats.DailyRate
	for day := range 84 {
		rate := []float64{0.2, 0.3, 0.24}[day/28]
		one := stats.DailyRate{Day: day, Of: 400, Taken: int(distuv.Binomial{N: 400, P: rate, Src: random}.Rand())}
		all = append(all, one)
		one.Era = day / 28
		told = append(told, one)
	}
	assert.Greater(t, stats.RateInertia(all[70:], all[:70]), 0.8)
	assert.Less(t, stats.RateInertia(told[70:], told[:70]), 0.5)
}
