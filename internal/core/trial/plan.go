package trial

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

const (
	// power is how often an effect of the size that is said is found.
	power = 0.8
	// mostDays is how long a trial may last.
	mostDays = 90
)

// Days are how long a trial may last: at least and at most.
func Days() (least, most int) { return leastDays, mostDays }

// Plan is what a trial can find.
type Plan struct {
	PerArm int     `json:"perArm" doc:"How many visits each variant is shown to in that time, at the pace of the last four weeks."`
	Rate   float64 `json:"rate" doc:"Takers of reach in the last four weeks."`
	// Fixed is what one look at the end would find; Findable what looking every day does.
	Fixed    float64 `json:"fixed" doc:"Difference that a single look at the end finds in 80 of 100 trials; 1 where none would."`
	Findable float64 `json:"findable" doc:"The same with looking at any day; 1 where none would be found."`
}

// NewPlan says what can be found of a thing that is pressed at a rate, by so many visits an arm. Each is how many visits
// a visitor makes on a day, on average. Who comes back does as before, and the numbers of visits are taken to be geometric,
// which is many visitors who come once and few who come often: both make the answer smaller, not larger.
func NewPlan(rate float64, perArm, variants int, each float64) Plan {
	pairs := float64(variants * (variants - 1) / 2)
	alpha := level / math.Max(1, pairs)
	plan := Plan{PerArm: perArm, Rate: rate, Fixed: 1, Findable: 1}
	if perArm < 1 {
		return plan
	}
	// Of geometric numbers, the mean of the squares is 2 m^2 - m; divided by m it is how much wider visitors make it.
	visitors := float64(perArm) / (2*math.Max(1, each) - 1)
	plan.Fixed = smallest(func(d float64) bool { return PerArm(rate, rate+d, alpha) <= visitors }, rate)
	beta := quantile(power)
	plan.Findable = smallest(func(d float64) bool {
		v := (rate*(1-rate) + (rate+d)*(1-rate-d)) / visitors
		return d >= Radius(v, plan.Tau(), alpha)+beta*math.Sqrt(v)
	}, rate)
	return plan
}

// Tau is the size of difference at which the comparison is to be narrowest: what one look at the
// end would find.
func (p Plan) Tau() float64 { return math.Max(p.Fixed, 0.001) }

// PerArm is how many observations of each of two proportions are needed to tell them apart in a
// two-sided test of a level with a power of 80 %. Source: Fleiss, Levin, Paik, Statistical Methods
// for Rates and Proportions, 3rd edition (2003), equation 4.14, without continuity correction.
func PerArm(first, second, alpha float64) float64 {
	mean := (first + second) / 2
	a := quantile(1-alpha/2) * math.Sqrt(2*mean*(1-mean))
	b := quantile(power) * math.Sqrt(first*(1-first)+second*(1-second))
	return (a + b) * (a + b) / ((first - second) * (first - second))
}

func quantile(p float64) float64 { return distuv.UnitNormal.Quantile(p) }

// smallest is the smallest difference above a rate for which something holds, to a hundredth of a
// point; 1 when it holds for none.
func smallest(holds func(float64) bool, rate float64) float64 {
	low, high := 0.0, 1-rate-1e-6
	if high <= 0 || !holds(high) {
		return 1
	}
	for high-low > 1e-4 {
		if middle := (low + high) / 2; holds(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	return high
}
