package stats

import (
	"math"

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
	first, second := newStrata(now), newStrata(before)
	change := ChangeOfRate{Points: Interval{Low: -1, High: 1}, P: 1}
	weights := mixOf(first, second)
	if len(weights) == 0 {
		return change
	}
	p, q := first.rate(weights), second.rate(weights)
	change.Difference, change.Plain = p-q, first.plain()-second.plain()
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
	if a, b := first.all(), second.all(); few(a.Taken, a.Of, b.Taken, b.Of) {
		change.P = math.Max(change.P, midP(a.Taken, a.Of, b.Taken, b.Of))
	}
	return change
}

// strata are the days of a span by stratum.
type strata struct {
	sums map[string]DailyRate
	days map[int]map[string]DailyRate
	// eras are the sums of each era, and eraOf in which each day is.
	eras  map[int]map[string]DailyRate
	eraOf map[int]int
}

func newStrata(rates []DailyRate) strata {
	s := strata{
		sums: make(map[string]DailyRate), days: make(map[int]map[string]DailyRate),
		eras: make(map[int]map[string]DailyRate), eraOf: make(map[int]int),
	}
	for _, rate := range rates {
		if rate.Of <= 0 {
			continue
		}
		rate.Taken = min(rate.Taken, rate.Of)
		if s.days[rate.Day] == nil {
			s.days[rate.Day] = make(map[string]DailyRate)
		}
		if s.eras[rate.Era] == nil {
			s.eras[rate.Era] = make(map[string]DailyRate)
		}
		s.eraOf[rate.Day] = rate.Era
		add(s.eras[rate.Era], rate)
		add(s.days[rate.Day], rate)
		add(s.sums, rate)
	}
	return s
}

func add(to map[string]DailyRate, rate DailyRate) {
	sum := to[rate.Stratum]
	sum.Taken, sum.Of = sum.Taken+rate.Taken, sum.Of+rate.Of
	to[rate.Stratum] = sum
}

func (s strata) all() (sum DailyRate) {
	for _, each := range s.sums {
		sum.Taken, sum.Of = sum.Taken+each.Taken, sum.Of+each.Of
	}
	return sum
}

func (s strata) plain() float64 {
	all := s.all()
	return float64(all.Taken) / float64(max(1, all.Of))
}

// mixOf is how much each stratum weighs; together 1.
func mixOf(first, second strata) map[string]float64 {
	weights, sum := make(map[string]float64), 0.0
	for name, a := range first.sums {
		if b := second.sums[name]; b.Of > 0 {
			weights[name] = float64(a.Of) * float64(b.Of) / float64(a.Of+b.Of)
			sum += weights[name]
		}
	}
	for name := range weights {
		weights[name] /= sum
	}
	return weights
}

func (s strata) rate(weights map[string]float64) (rate float64) {
	for name, weight := range weights {
		rate += weight * float64(s.sums[name].Taken) / float64(s.sums[name].Of)
	}
	return rate
}

// size is of how many visits of one stratum the rate would be as sure.
func (s strata) size(weights map[string]float64) float64 {
	sum := 0.0
	for name, weight := range weights {
		sum += weight * weight / float64(s.sums[name].Of)
	}
	return 1 / sum
}

// influence is by how much a day moves the rate of its span, by how much it would that of its era, and the variance that
// chance alone gives to that.
type influence struct {
	moved, within, chance float64
	era                   int
}

func (s strata) influences(weights map[string]float64) map[int]influence {
	moved := make(map[int]influence, len(s.days))
	for day, of := range s.days {
		one := influence{era: s.eraOf[day]}
		for name, weight := range weights {
			sum, era := s.sums[name], s.eras[one.era][name]
			rate, share := float64(sum.Taken)/float64(sum.Of), weight/float64(sum.Of)
			taken, reached := float64(of[name].Taken), float64(of[name].Of)
			one.moved += share * (taken - rate*reached)
			one.within += share * (taken - float64(era.Taken)/float64(max(1, era.Of))*reached)
			one.chance += share * share * rate * (1 - rate) * reached
		}
		moved[day] = one
	}
	return moved
}

// chanceAlone is the variance of the difference if every visit chose by itself, with the rate of both sides together.
func chanceAlone(first, second strata, weights map[string]float64) (variance float64) {
	for name, weight := range weights {
		a, b := first.sums[name], second.sums[name]
		rate := (float64(a.Taken+b.Taken) + 0.5) / (float64(a.Of+b.Of) + 1)
		variance += weight * weight * rate * (1 - rate) * (1/float64(a.Of) + 1/float64(b.Of))
	}
	return variance
}

// spread are the influences of the days of two spans.
type spread struct{ first, second map[int]influence }

// RateInertia is by how much rates of days hang together, from 0 to 1, out of the days of two spans.
func RateInertia(first, second []DailyRate) float64 {
	a, b := newStrata(first), newStrata(second)
	weights := mixOf(a, b)
	return spread{a.influences(weights), b.influences(weights)}.inertia()
}

// inertia is how far days of an era hang together beyond chance, which makes each day differ from the next by itself.
func (s spread) inertia() float64 {
	var squares, chance, products float64
	n, pairs, eras := 0, 0, 0
	for _, span := range []map[int]influence{s.first, s.second} {
		// A day of the longer span moves its rate less.
		scale := float64(len(span)) * float64(len(span))
		seen := make(map[int]bool)
		for day, one := range span {
			seen[one.era] = true
			squares += scale * one.within * one.within
			chance += scale * one.chance
			n++
			if before, there := span[day-1]; there && before.era == one.era {
				products += scale * one.within * before.within
				pairs++
			}
		}
		eras += len(seen)
	}
	own := squares - chance
	if pairs == 0 || own <= squares/10 {
		return usualInertia // there is as good as nothing that could hang together
	}
	// What chance does to each day hides how its own part hangs together.
	sure := float64(n) * math.Pow(min(1, own/squares), 2)
	return inertiaOf(min(1, products/float64(pairs)/(own/float64(n))), float64(n), float64(eras), sure)
}

// variance is that of the difference of the two rates: of what chance does to each day by itself, and of the rest, which
// hangs together.
func (s spread) variance(inertia float64) (sum float64) {
	for _, span := range []map[int]influence{s.first, s.second} {
		days, squares, chance := float64(len(span)), 0.0, 0.0
		for _, one := range span {
			squares += one.moved * one.moved
			chance += one.chance
		}
		wider, hangs := 1.0, 1.0
		for lag := 1; lag < len(span); lag++ {
			hangs *= inertia
			wider += 2 * (1 - float64(lag)/days) * hangs
		}
		// Days that hang together go with their mean, so that they seem to differ less from it.
		sum += chance + max(0, squares-chance)*wider/(1-min(0.8, wider/days))
	}
	return sum
}
