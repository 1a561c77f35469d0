// Package trial compares variants of one thing that are shown to fair shares of visitors. Its
// answer may be looked at any day without spoiling it: the comparison holds for all times at
// once.
package trial

import (
	"crypto/sha256"
	"encoding/binary"
	"math"

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

// Arm is what came of one variant: in how many visits it was shown, and how many of these
// pressed it.
type Arm struct {
	Reach  int `json:"reach"`
	Takers int `json:"takers"`
}

// rate is a little drawn to one half, so that no variance is nothing.
func (a Arm) rate() float64 { return (float64(a.Takers) + 0.5) / (float64(a.Reach) + 1) }

func (a Arm) plainRate() float64 {
	if a.Reach == 0 {
		return 0
	}
	return float64(a.Takers) / float64(a.Reach)
}

// variance is that of the difference of two rates.
func variance(a, b Arm) float64 {
	return a.rate()*(1-a.rate())/float64(max(1, a.Reach)) + b.rate()*(1-b.rate())/float64(max(1, b.Reach))
}

// enough is how many takers each of two arms must have before anything is said of them: below, the
// normal law that the comparison rests on is too far from what counts do.
const enough = 10

// Difference is between what b has more than a, at any time: with a chance of 1 - alpha the truth
// is in every such interval that is ever looked at. It is the two-sided normal mixture of Howard,
// Ramdas, McAuliffe, Sekhon, Annals of Statistics 49 (2021) 1055-1080, equation 14, over the
// difference of two rates; the same as the mixture of Johari, Pekelis, Walsh (2017). Tau is the
// size of a difference at which it is to be narrowest.
func Difference(a, b Arm, tau, alpha float64) stats.Interval {
	if a.Takers < enough || b.Takers < enough {
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
)

// Result is what a trial says at a moment.
type Result struct {
	Verdict Verdict `json:"verdict" enum:"better,none,notYet"`
	// Best is the variant that is better, or that leads so far.
	Best int `json:"best"`
	// Differences are those of each variant from the first, the thing as it is.
	Differences []stats.Interval `json:"differences" nullable:"false" doc:"Of each variant from the page as it is; the first is of itself."`
}

// level is how often it may happen that a trial of equals is ever called.
const level = 0.05

// Judge says how a trial stands. Worth is the smallest difference that would be worth having. All
// pairs together are wrong in no more than 5 % of trials, however often they are looked at.
func Judge(arms []Arm, tau, worth float64) Result {
	pairs := len(arms) * (len(arms) - 1) / 2
	alpha := level / float64(max(1, pairs))
	result := Result{Verdict: NotYet, Differences: make([]stats.Interval, len(arms))}
	alike := true
	for i := range arms {
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
	case best:
		result.Verdict = Better
	case alike:
		result.Verdict = NoDifference
	}
	return result
}
