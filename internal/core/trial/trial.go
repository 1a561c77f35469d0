// Package trial compares variants of one thing that are shown to fair shares of visitors. Its
// answer may be looked at any day without spoiling it: the comparison holds for all times at
// once.
package trial

import (
	"crypto/sha256"
	"encoding/binary"
	"math"
	"time"

	"jundle/internal/core/stats"
)

// MostVariants is how many there may be, with the thing as it is.
const MostVariants = 3

// Share is the variant, from 0, that a visitor is shown of a trial: shares are fair, and the same
// visitor has the same one for as long as their key lasts.
func Share(id string, visitor []byte, variants int) int {
	sum := sha256.Sum256(append([]byte(id+"\x00"), visitor...))
	return int(binary.BigEndian.Uint64(sum[:8]) % uint64(max(1, variants)))
}

// Arm is what one variant brought: in how many visits it was shown, and how many of these pressed it. Visitors of a day
// made these visits; the rest are sums over them.
type Arm struct {
	Reach  int `json:"reach"`
	Takers int `json:"takers"`
	// Visitors are counted each day anew.
	Visitors int `json:"visitors"`
	// ReachSquared adds up the squares of their visits, TakersSquared those of their visits that pressed, and ReachTakers
	// the one times the other.
	ReachSquared  int `json:"reachSquared"`
	ReachTakers   int `json:"reachTakers"`
	TakersSquared int `json:"takersSquared"`
}

// Add adds what the same variant brought at another time. No visitor is in both.
func (a *Arm) Add(other Arm) {
	a.Reach += other.Reach
	a.Takers += other.Takers
	a.Visitors += other.Visitors
	a.ReachSquared += other.ReachSquared
	a.ReachTakers += other.ReachTakers
	a.TakersSquared += other.TakersSquared
}

// Visited adds a visitor of a day, with so many visits, of which so many pressed it.
func (a *Arm) Visited(visits, pressed int) {
	a.Add(Arm{visits, pressed, 1, visits * visits, visits * pressed, pressed * pressed})
}

// rate is a little drawn to one half, so that no variance is nothing.
func (a Arm) rate() float64 { return (float64(a.Takers) + 0.5) / (float64(a.Reach) + 1) }

func (a Arm) plainRate() float64 {
	if a.Reach == 0 {
		return 0
	}
	return float64(a.Takers) / float64(a.Reach)
}

// Variance is that of the rate, which is a ratio of two sums over visitors: who comes back the same day sees the same
// variant, and presses it again or again does not. It is never less than that of as many visitors who come once.
//
// Source: Deng, Knoblich, Lu, Applying the Delta Method in Metric Analytics, KDD 2018, section 3; the ratio estimator of
// Cochran, Sampling Techniques (3rd ed., 1977), equation 2.46 (from memory).
func (a Arm) Variance() float64 {
	plain := a.rate() * (1 - a.rate()) / float64(max(1, a.Reach))
	if a.Visitors < 2 {
		return plain
	}
	p, n := a.plainRate(), float64(a.Visitors)
	squares := float64(a.TakersSquared) - 2*p*float64(a.ReachTakers) + p*p*float64(a.ReachSquared)
	return math.Max(plain, squares/float64(a.Reach)/float64(a.Reach)*n/(n-1))
}

// variance is that of the difference of two rates.
func variance(a, b Arm) float64 { return a.Variance() + b.Variance() }

// enough is how many takers each of two arms must have before anything is said of them: below, the
// normal law that the comparison rests on is too far from what counts do.
const enough = 10

// takers are as how many visitors who press once those weigh who pressed: one who presses ten times is not ten.
//
// Source: Kish, Survey Sampling (1965), effective number under weights (from memory).
func (a Arm) takers() float64 {
	return float64(a.Takers) * float64(a.Takers) / float64(max(1, a.TakersSquared))
}

// Difference is between what b has more than a, at any time: with a chance of 1 - alpha the truth
// is in every such interval that is ever looked at. It is the two-sided normal mixture of Howard,
// Ramdas, McAuliffe, Sekhon, Annals of Statistics 49 (2021) 1055-1080, equation 14, over the
// difference of two rates; the same as the mixture of Johari, Pekelis, Walsh (2017). Tau is the
// size of a difference at which it is to be narrowest.
func Difference(a, b Arm, tau, alpha float64) stats.Interval {
	if a.takers() < enough || b.takers() < enough {
		return stats.Interval{Low: -1, High: 1}
	}
	d, radius := b.plainRate()-a.plainRate(), Radius(variance(a, b), tau, alpha)
	return stats.Interval{Low: math.Max(-1, d-radius), High: math.Min(1, d+radius)}
}

// Radius is how far from an estimate of a given variance the truth may be, at any time.
func Radius(variance, tau, alpha float64) float64 {
	v, t := variance, tau*tau
	return math.Sqrt(v * (v + t) / t * (2*math.Log(1/alpha) + math.Log((v+t)/v)))
}

// Verdict is how a trial stands.
type Verdict string

// Verdicts.
const (
	// Better: one variant is pressed more than every other.
	Better Verdict = "better"
	// NoDifference: no two differ by as much as would be worth having.
	NoDifference Verdict = "none"
	NotYet       Verdict = "notYet"
	// Early: one variant is pressed more so far, in less time than it takes to choose.
	Early Verdict = "early"
)

const leastDays = 14

// Least is how long a trial runs before one of its variants is suggested: every weekday twice. What is new is often
// pressed more in its first days than afterwards.
const Least = leastDays * 24 * time.Hour

// Result is what a trial says at a moment.
type Result struct {
	Verdict Verdict `json:"verdict" enum:"better,none,notYet,early" doc:"early: one is pressed more, but before two whole weeks."`
	// Best is the variant that is better, or that leads so far.
	Best int `json:"best"`
	// Differences are those of each variant from the first, the thing as it is.
	Differences []stats.Interval `json:"differences" nullable:"false" doc:"Of each variant from the page as it is; the first is of itself."`
	// LastWeek is between what each differs from the first in the last seven days, looked at once (95 %).
	LastWeek []stats.Interval `json:"lastWeek" nullable:"false" doc:"The same in the last seven days; from -1 to 1 where there is too little."`
}

// Recent is the difference of two arms of a span that is looked at once, with its 95 % interval; all that can be where
// either has too few takers.
func Recent(a, b Arm) stats.Interval {
	if a.takers() < enough || b.takers() < enough {
		return stats.Interval{Low: -1, High: 1}
	}
	d, radius := b.plainRate()-a.plainRate(), quantile(0.975)*math.Sqrt(variance(a, b))
	return stats.Interval{Low: math.Max(-1, d-radius), High: math.Min(1, d+radius)}
}

// level is how often it may happen that a trial of equals is ever called.
const level = 0.05

// Judge says how a trial stands that ran for so long. Worth is the smallest difference that would be worth having. All
// pairs together are wrong in no more than 5 % of trials, however often they are looked at. LastWeek is what
// each variant brought in the last seven days.
func Judge(arms, lastWeek []Arm, tau, worth float64, ran time.Duration) Result {
	pairs := len(arms) * (len(arms) - 1) / 2
	alpha := level / float64(max(1, pairs))
	result := Result{Verdict: NotYet, Differences: make([]stats.Interval, len(arms)), LastWeek: make([]stats.Interval, len(arms))}
	alike := true
	for i := range arms {
		if i > 0 && i < len(lastWeek) {
			result.LastWeek[i] = Recent(lastWeek[0], lastWeek[i])
		}
		if arms[i].plainRate() > arms[result.Best].plainRate() {
			result.Best = i
		}
		if i > 0 {
			result.Differences[i] = Difference(arms[0], arms[i], tau, alpha)
		}
		for j := range i {
			between := Difference(arms[j], arms[i], tau, alpha)
			alike = alike && between.Low > -worth && between.High < worth
		}
	}
	best := true
	for i := range arms {
		best = best && (i == result.Best || Difference(arms[i], arms[result.Best], tau, alpha).Low > 0)
	}
	switch {
	case len(arms) < 2:
	case best && ran < Least:
		result.Verdict = Early
	case best:
		result.Verdict = Better
	case alike:
		result.Verdict = NoDifference
	}
	return result
}
