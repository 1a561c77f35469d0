package stats

import (
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// DailyRate is what came of one stratum, such as a source, on a day: so many of so many.
type DailyRate struct {
	Day       int
	Stratum   string
	Taken, Of int
	// Era numbers times between which something is known to have changed what is measured: the rates of two eras differ, and
	// that does not show how days vary by themselves.
	Era int
}

// ChangeOfRate is how a rate of a span stands to that of another, with the same mix of strata on both sides.
type ChangeOfRate struct {
	// Points is between what it rose or fell, 95 %, from -1 to 1. Difference is the estimate, Plain that of all strata
	// thrown together.
	Points            Interval
	Difference, Plain float64
	// P is the two-sided p-value of no change; 1 where nothing can be said.
	P float64
	// error is the standard error of Difference, and freedom how well it is known; 0 where nothing can be said.
	error, freedom float64
}

// power is how often a difference is to be found before it counts as one that would be.
const power = 0.8

// Least is how large a difference has to be to have a p-value below level in 8 of 10 such spans; NaN where nothing can be said.
func (c ChangeOfRate) Least(level float64) float64 {
	if c.freedom == 0 {
		return math.NaN()
	}
	law := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: c.freedom}
	return c.error * (law.Quantile(1-level/2) + law.Quantile(power))
}

// leastDays is of how many days each of two spans must be before anything is said.
const leastDays = 2

// CompareRates holds a rate of one span against that of another. Each stratum is compared with itself, so that a shift of
// the mix alone is no change; strata with nothing on one side take no part. How sure it is comes from how far days differ
// from the mean of their span: who comes back, and rates that go up and down from day to day, are in that.
//
// Sources: Mantel and Haenszel's weights for risk differences (Greenland and Robins, Biometrics 41 (1985) 55-68); the
// variance between days as that between clusters (Kish and Frankel, Journal of the Royal Statistical Society B 36 (1974)
// 1-37); the interval of Difference with effective sizes (Korn and Graubard, Survey Methodology 24 (1998) 193-201). From
// memory.
func CompareRates(now, before []DailyRate, least float64) ChangeOfRate {
	first, second := strataOf(now, before)
	change := ChangeOfRate{Points: Interval{Low: -1, High: 1}, P: 1}
	weights := mixOf(first, second)
	if weights == nil {
		return change
	}
	p, q := first.rate(weights), second.rate(weights)
	change.Difference, change.Plain = p-q, first.whole.rate()-second.whole.rate()
	if len(first.days) < leastDays || len(second.days) < leastDays {
		return change
	}
	days := spread{first.influences(weights), second.influences(weights)}
	inertia := max(least, days.inertia())
	free := float64(len(first.days)+len(second.days)-2) * (1 - inertia*inertia) / (1 + inertia*inertia)
	freedom := max(1, free)
	law := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: freedom}
	chance := chanceAlone(first, second, weights)
	variance := math.Max(chance, days.variance(inertia))
	if chance == 0 || variance == 0 {
		return change
	}
	// As many visits as vary no more by chance alone than these do.
	wider := variance / chance * math.Pow(law.Quantile(0.975)/distuv.UnitNormal.Quantile(0.975), 2)
	n, m := first.size(weights)/wider, second.size(weights)/wider
	low, high := wilson(p, n), wilson(q, m)
	change.Points = Interval{
		Low:  math.Max(-1, p-q-math.Hypot(p-low.Low, high.High-q)),
		High: math.Min(1, p-q+math.Hypot(low.High-p, q-high.Low)),
	}
	change.error, change.freedom = math.Sqrt(variance), freedom
	change.P = 2 * law.CDF(-math.Abs(p-q)/change.error)
	if a, b := first.whole, second.whole; few(a.taken, a.of, b.taken, b.of) {
		change.P = math.Max(change.P, midP(a.taken, a.of, b.taken, b.of))
	}
	return change
}

// counts are how many were taken of how many.
type counts struct{ taken, of int }

func (c *counts) add(rate DailyRate) {
	c.taken += rate.Taken
	c.of += rate.Of
}

func (c counts) rate() float64 { return float64(c.taken) / float64(max(1, c.of)) }

// strata are the days of a span by stratum, each by its number.
type strata struct {
	whole counts
	sums  []counts
	days  []dayOfStrata    // in order
	eras  map[int][]counts // of each era, by stratum
}

type dayOfStrata struct {
	day, era int
	of       []counts // by stratum
}

// strataOf puts the rates of two spans together by day, with the same numbers for strata.
func strataOf(now, before []DailyRate) (first, second strata) {
	numbers := make(map[string]int)
	for _, rates := range [][]DailyRate{now, before} {
		for _, rate := range rates {
			if rate.Of > 0 {
				numbers[rate.Stratum] = 0
			}
		}
	}
	for i, name := range slices.Sorted(maps.Keys(numbers)) {
		numbers[name] = i
	}
	return newStrata(now, numbers), newStrata(before, numbers)
}

func newStrata(rates []DailyRate, numbers map[string]int) strata {
	s := strata{sums: make([]counts, len(numbers)), eras: make(map[int][]counts)}
	at := make(map[int]int, len(rates)/max(1, len(numbers)))
	for _, rate := range rates {
		if rate.Of <= 0 {
			continue
		}
		rate.Taken = min(rate.Taken, rate.Of)
		i, there := at[rate.Day]
		if !there {
			i = len(s.days)
			at[rate.Day] = i
			s.days = append(s.days, dayOfStrata{rate.Day, rate.Era, make([]counts, len(numbers))})
		}
		if s.eras[rate.Era] == nil {
			s.eras[rate.Era] = make([]counts, len(numbers))
		}
		number := numbers[rate.Stratum]
		s.eras[rate.Era][number].add(rate)
		s.days[i].of[number].add(rate)
		s.sums[number].add(rate)
		s.whole.add(rate)
	}
	slices.SortFunc(s.days, func(a, b dayOfStrata) int { return a.day - b.day })
	return s
}

// mixOf is how much each stratum weighs; together 1. It is nil where none is on both sides.
func mixOf(first, second strata) []float64 {
	weights, sum := make([]float64, len(first.sums)), 0.0
	for i, a := range first.sums {
		if b := second.sums[i]; a.of > 0 && b.of > 0 {
			weights[i] = float64(a.of) * float64(b.of) / float64(a.of+b.of)
			sum += weights[i]
		}
	}
	if sum == 0 {
		return nil
	}
	for i := range weights {
		weights[i] /= sum
	}
	return weights
}

func (s strata) rate(weights []float64) (rate float64) {
	for i, weight := range weights {
		rate += weight * s.sums[i].rate()
	}
	return rate
}

// size is of how many visits of one stratum the rate would be as sure.
func (s strata) size(weights []float64) float64 {
	sum := 0.0
	for i, weight := range weights {
		if weight > 0 {
			sum += weight * weight / float64(s.sums[i].of)
		}
	}
	return 1 / sum
}

// chanceAlone is the variance of the difference if every visit chose by itself, with the rate of both sides together.
func chanceAlone(first, second strata, weights []float64) (variance float64) {
	for i, weight := range weights {
		if weight == 0 {
			continue
		}
		a, b := first.sums[i], second.sums[i]
		rate := (float64(a.taken+b.taken) + 0.5) / (float64(a.of+b.of) + 1)
		variance += weight * weight * rate * (1 - rate) * (1/float64(a.of) + 1/float64(b.of))
	}
	return variance
}
