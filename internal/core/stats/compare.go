package stats

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Difference returns the 95 % hybrid score interval, without continuity correction, for
// the difference of two rates: taken of n, less other of m. With nothing seen on one side
// it is all that can be.
//
// Source: Newcombe, Statistics in Medicine 17 (1998) 873-890, method 10.
func Difference(taken, n, other, m int) Interval {
	if n <= 0 || m <= 0 {
		return Interval{Low: -1, High: 1}
	}
	p, q := float64(taken)/float64(n), float64(other)/float64(m)
	first, second := Wilson(taken, n), Wilson(other, m)
	return Interval{
		Low:  p - q - math.Hypot(p-first.Low, second.High-q),
		High: p - q + math.Hypot(first.High-p, q-second.Low),
	}
}

// Excludes tells whether a value lies outside the interval.
func (i Interval) Excludes(value float64) bool { return value < i.Low || value > i.High }

// fewExpected is how many are expected at least, in each cell of a 2 x 2 table, where the normal distribution stands
// for the counts: Cochran's rule, common practice.
const fewExpected = 5

// SameRate is the two-sided p-value of two rates being the same: the score test with the
// rate of both together, and where few are expected the exact one. It is 1 where nothing can be said.
//
// Source: Agresti, An Introduction to Categorical Data Analysis (2nd ed., 2007), section
// 2.4.2: its square is the chi-squared of the 2 x 2 table (from memory).
func SameRate(taken, n, other, m int) float64 {
	if n <= 0 || m <= 0 || taken+other == 0 || taken+other == n+m {
		return 1
	}
	if few(taken, n, other, m) {
		return midP(taken, n, other, m)
	}
	both := float64(taken+other) / float64(n+m)
	z := (float64(taken)/float64(n) - float64(other)/float64(m)) / math.Sqrt(both*(1-both)*(1/float64(n)+1/float64(m)))
	return 2 * distuv.UnitNormal.CDF(-math.Abs(z))
}

// few tells whether fewer than fewExpected are expected in a cell of a 2 x 2 table.
func few(taken, n, other, m int) bool {
	return float64(min(n, m))*float64(min(taken+other, n+m-taken-other))/float64(n+m) < fewExpected
}

// midP is the two-sided p-value of Fisher's exact test by the mid-p: what is as far off as what was seen counts half.
// It is twice the smaller of the one-sided ones.
//
// Source: Agresti, the same book, sections 2.6.2 and 2.6.3 (from memory).
func midP(taken, n, other, m int) float64 {
	both := taken + other
	// How likely it is that x of both are of the first, where both rates are the same (hypergeometric).
	likely := func(x int) float64 {
		return math.Exp(choose(n, x) + choose(m, both-x) - choose(n+m, both))
	}
	var below, above float64
	for x := max(0, both-m); x < taken; x++ {
		below += likely(x)
	}
	for x := min(n, both); x > taken; x-- {
		above += likely(x)
	}
	return min(1, 2*min(below, above)+likely(taken))
}

// choose is the logarithm of how many ways there are to take k of n.
func choose(n, k int) float64 {
	logFactorial := func(n int) float64 {
		value, _ := math.Lgamma(float64(n) + 1)
		return value
	}
	return logFactorial(n) - logFactorial(k) - logFactorial(n-k)
}

// Holm tells which of several hypotheses are rejected when all of them together are to be
// wrong at most so often: the step-down procedure.
//
// Source: Holm, Scandinavian Journal of Statistics 6 (1979) 65-70.
func Holm(p []float64, level float64) []bool {
	order := make([]int, len(p))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case p[a] < p[b]:
			return -1
		case p[a] > p[b]:
			return 1
		}
		return 0
	})
	rejected := make([]bool, len(p))
	for step, i := range order {
		if p[i] > level/float64(len(p)-step) {
			break
		}
		rejected[i] = true
	}
	return rejected
}
