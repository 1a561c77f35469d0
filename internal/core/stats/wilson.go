// Package stats holds how sure a figure is: intervals for rates, as published.
package stats

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// Interval is a range of values, both ends included.
type Interval struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// z95 is the two-sided 95 % point of the normal distribution.
var z95 = distuv.UnitNormal.Quantile(0.975)

// Wilson returns the 95 % score interval, without continuity correction, for a
// rate of which taken out of n were seen. With n = 0 nothing is known and the
// interval is 0 to 1.
//
// Source: Newcombe, Statistics in Medicine 17 (1998) 857-872, method 3.
func Wilson(taken, n int) Interval {
	if n <= 0 {
		return Interval{Low: 0, High: 1}
	}
	return wilson(float64(taken)/float64(n), float64(n))
}

// wilson is Wilson of a rate of as many as need not be whole.
func wilson(p, size float64) Interval {
	z2 := z95 * z95
	centre := 2*size*p + z2
	spread := z95 * math.Sqrt(z2+4*size*p*(1-p))
	low, high := (centre-spread)/(2*(size+z2)), (centre+spread)/(2*(size+z2))
	return Interval{Low: math.Max(0, low), High: math.Min(1, high)}
}
