package stats

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Daily is the count of a day. Days are numbered one after the other, so that those of one weekday differ by sevens.
type Daily struct {
	Day   int
	Count int
}

// DaysToCompare is how many days there must be in all before counts of two spans are told apart: three weeks.
const DaysToCompare = 21

// What is taken for known of how days hang together before there is anything to see of it: as much as so many days would
// say of such a correlation from one day to the next.
const (
	usualInertia  = 0.3
	inertiaWeighs = 12
	mostInertia   = 0.97
)

// ChangeOfCounts is how counts of a span stand to those of another.
type ChangeOfCounts struct {
	// Share is by what part they rose or fell: between -1 and infinity, 95 %.
	Share Interval
	// P is the two-sided p-value of no change; 1 where nothing can be said.
	P float64
}

// CompareCounts holds the days of one span against those of another. History are days before both, which show how far
// days vary, how the week runs and how days hang together. A single day on either side is never told from another.
//
// Counts are quasi-Poisson with the weekdays as factors. What is left of each day is an autoregression of the first order,
// whose inertia widens the variance of the difference; degrees of freedom are those of as many independent days.
//
// Sources: McCullagh and Nelder, Generalized Linear Models (2nd ed., 1989), section 6.2.3 (dispersion); Box, Jenkins,
// Reinsel, Time Series Analysis (4th ed., 2008), section 2.1 (the variance of a mean of days that hang together); Kendall,
// Biometrika 41 (1954) 403-404 (the bias of the correlation from one day to the next). All from memory.
func CompareCounts(now, before, history []Daily) ChangeOfCounts {
	nothing := ChangeOfCounts{Share: Interval{Low: -1, High: math.Inf(1)}, P: 1}
	if len(now) < 2 || len(before) < 2 || total(now) == 0 || total(before) == 0 || len(now)+len(before)+len(history) < DaysToCompare {
		return nothing
	}
	// What was before shows how days vary; of the two spans the later may be at another level.
	earlier := slices.Concat(history, before)
	week := weekFactors([][]Daily{now, earlier})
	p, reach, log := 0.0, 0.0, 0.0
	for _, level := range []float64{math.Inf(1), farOff} {
		day := fit(now, earlier, week, level)
		change, spread := day.change(now, before)
		law := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: day.freedom}
		if chance := 2 * law.CDF(-math.Abs(change)/spread); chance >= p {
			p, reach, log = chance, law.Quantile(0.975)*spread, change
		}
	}
	return ChangeOfCounts{Share: Interval{Low: math.Exp(log-reach) - 1, High: math.Exp(log+reach) - 1}, P: p}
}

// farOff is how many times as far off as days usually are a day counts as far off at most, in the second of two looks: a
// few days on which very many came are no change of what is usual.
const farOff = 3

// days are the days of two spans as far as level and weekday explain them.
type days struct {
	week [7]float64
	// share is by what part of what is expected each day is more or less; level what is expected of an average day.
	share map[int]float64
	level map[int]float64
	order []int
	noise
}

func fit(now, earlier []Daily, week [7]float64, most float64) days {
	d := days{week: week, share: make(map[int]float64), level: make(map[int]float64)}
	var off []float64
	for _, span := range [][]Daily{now, earlier} {
		level := float64(total(span)) / load(span, week)
		for _, day := range span {
			d.level[day.Day] = level
			d.share[day.Day] = float64(day.Count)/(level*week[weekday(day.Day)]) - 1
			d.order = append(d.order, day.Day)
			off = append(off, math.Abs(d.share[day.Day]))
		}
	}
	slices.Sort(d.order)
	slices.Sort(off)
	// 1.4826 times the median is the standard deviation of normal numbers.
	limit := most * 1.4826 * off[len(off)/2]
	for day, share := range d.share {
		d.share[day] = min(share, limit)
	}
	d.noise = d.noiseOf(2)
	return d
}

// change is the logarithm of what now is of before, day by day, and its standard error.
func (d days) change(now, before []Daily) (log, spread float64) {
	weights := make(map[int]float64, len(now)+len(before))
	mean := func(span []Daily, sign float64) (sum float64) {
		whole := load(span, d.week)
		for _, day := range span {
			weight := d.week[weekday(day.Day)] / whole
			weights[day.Day] += sign * weight
			sum += weight * d.level[day.Day] * (1 + d.share[day.Day])
		}
		return sum
	}
	log = math.Log(mean(now, 1) / mean(before, -1))
	// No less than what chance alone does to the two sums.
	least := 1/float64(total(now)) + 1/float64(total(before))
	return log, math.Sqrt(math.Max(d.variance(weights), least))
}

func total(days []Daily) (sum int) {
	for _, day := range days {
		sum += day.Count
	}
	return sum
}

func weekday(day int) int { return (day%7 + 7) % 7 }

// load is how many average days some days are.
func load(days []Daily, week [7]float64) (sum float64) {
	for _, day := range days {
		sum += week[weekday(day.Day)]
	}
	return sum
}

// weekFactors are how much of an average day each weekday has, whatever the level of each span: the maximum likelihood of
// levels times weekdays, by fitting either in turn. They are 1 where there is less than a week twice.
func weekFactors(spans [][]Daily) [7]float64 {
	week := [7]float64{1, 1, 1, 1, 1, 1, 1}
	days := 0
	for _, span := range spans {
		days += len(span)
	}
	if days < 14 {
		return week
	}
	for range 20 {
		var had, expected [7]float64
		for _, span := range spans {
			level := float64(total(span)) / load(span, week)
			for _, day := range span {
				had[weekday(day.Day)] += float64(day.Count)
				expected[weekday(day.Day)] += level
			}
		}
		sum := 0.0
		for i := range week {
			week[i] = (had[i] + 0.5) / (expected[i] + 0.5)
			sum += week[i]
		}
		for i := range week {
			week[i] *= 7 / sum
		}
	}
	return week
}

// inertiaOf is the correlation from one day to the next, out of that which is seen in so many days around so many means. It
// is as sure as if it were seen in so many days.
func inertiaOf(seen, days, means, sure float64) float64 {
	// The mean of each span goes with its days, which hides some of it.
	each := days / means
	seen = (seen + 1/each) / (1 - min(0.6, 4/each))
	// Where there surely is some, it is taken to be as large as it may well be: too little calls what is none.
	if seen > 1.5/math.Sqrt(sure) {
		return min(mostInertia, seen+2*math.Sqrt(max(0.05, 1-seen*seen)/days))
	}
	return min(mostInertia, max(0, (seen*sure+usualInertia*inertiaWeighs)/(sure+inertiaWeighs)))
}

// noise is how days vary: by how much, how far they hang together, and how sure that is.
type noise struct{ variance1, inertia, freedom float64 }

// noiseOf is worked out from what is left of days after so many levels were fitted. Days count as they do in a sum.
func (d days) noiseOf(levels float64) noise {
	var squares, weights, products, pairs float64
	n := float64(len(d.order))
	fitted := levels
	if len(d.order) >= 14 {
		fitted += 6
	}
	for i, day := range d.order {
		weight := d.week[weekday(day)]
		squares += weight * weight * d.share[day] * d.share[day]
		weights += weight * weight
		if i > 0 && day == d.order[i-1]+1 {
			before := d.week[weekday(day-1)]
			products += weight * before * d.share[day] * d.share[day-1]
			pairs += weight * before
		}
	}
	inertia := usualInertia
	if squares > 0 && pairs > 0 {
		inertia = inertiaOf((products/pairs)/(squares/weights), n, levels, n)
	}
	free := n - fitted
	// For the same reason they seem to vary less than they do.
	lost := min(0.8, (6+levels*(1+inertia)/(1-inertia))/n)
	if len(d.order) < 14 {
		lost = min(0.8, levels*(1+inertia)/(1-inertia)/n)
	}
	freedom := max(1, free*(1-inertia*inertia)/(1+inertia*inertia))
	return noise{squares / weights / (1 - lost), inertia, freedom}
}

// variance is that of a weighted sum of days.
func (e noise) variance(weights map[int]float64) (sum float64) {
	for day, weight := range weights {
		hangs := 1.0
		for lag := 0; lag < 200 && hangs > 1e-4; lag++ {
			if other, there := weights[day+lag]; there {
				if lag == 0 {
					sum += weight * other
				} else {
					sum += 2 * weight * other * hangs
				}
			}
			hangs *= e.inertia
		}
	}
	return sum * e.variance1
}
