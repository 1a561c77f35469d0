// Package alarm notices that something is off with a page: a button or a source that fell silent, or
// one that took off. It holds the counts of the last days against what the eight weeks before lead
// one to expect, by day of the week, with a negative binomial law, because visits come in bursts.
//
// On a quiet page it is wrong on at most one day in a hundred: that chance is shared out among all
// series that are looked at (Bonferroni), and among the lengths of silence.
package alarm

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mathext"
)

const (
	// Weeks is how long before the days that are judged is looked back.
	Weeks = 8
	// Judged is how many days at the end are judged, at most.
	Judged = 7
	// Days is how many a series has: those that are judged, and the weeks before.
	Days = Judged + 7*Weeks
	// falseAlarms is on how many days of a quiet page anything is called at most.
	falseAlarms = 0.01
	// nothing is up to what part of what is expected something has fallen to nothing.
	nothing = 0.1
)

// silences are the lengths, in days, over which silence is looked for.
var silences = [...]int{1, 2, 3, 5, Judged}

// Series is what came day by day, the last finished day last.
type Series struct {
	Key string
	// Counts are clicks of a button, or visits from a source.
	Counts []int
	// Exposure is what the counts are expected to follow: reach of a button; of a source, the rhythm
	// of the week. Days without any take no part.
	Exposure []float64
}

// Kind is what is off.
type Kind string

// Kinds.
const (
	Silent Kind = "silent"
	Spike  Kind = "spike"
)

// Alarm is one thing that is off.
type Alarm struct {
	Kind Kind
	Key  string
	// Days is over how many days, up to the last, it was seen.
	Days     int
	Came     int
	Expected float64
	// Chance is how likely as much, or as little, is if nothing is off.
	Chance float64
}

// Cost is how much is lost, or came more.
func (a Alarm) Cost() float64 { return math.Abs(a.Expected - float64(a.Came)) }

// Find looks through series and lists what is off, the most costly
// first; silence before what took off.
func Find(series []Series) []Alarm {
	var found []Alarm
	level := falseAlarms / float64(2*max(1, len(series)))
	most, least := level, level
	for _, each := range series {
		if len(each.Counts) == Days && len(each.Exposure) == Days {
			high, low := each.unlikeliest()
			most, least = min(most, high/beyondBefore), min(least, low/beyondBefore)
		}
	}
	for _, each := range series {
		if len(each.Counts) != Days || len(each.Exposure) != Days {
			continue
		}
		if alarm, off := each.silence(level, least); off {
			found = append(found, alarm)
		} else if alarm, off := each.spike(most); off {
			found = append(found, alarm)
		}
	}
	slices.SortStableFunc(found, func(a, b Alarm) int {
		return cmp.Or(cmp.Compare(a.rank(), b.rank()), cmp.Compare(b.Cost(), a.Cost()), cmp.Compare(a.Key, b.Key))
	})
	return found
}

func (a Alarm) rank() int {
	if a.Kind == Silent {
		return 0
	}
	return 1
}

// silence looks for a silence of days, and for one of a day only where that is as unlikely as oneDay.
func (s Series) silence(level, oneDay float64) (Alarm, bool) {
	for _, days := range slices.Backward(silences[:]) {
		law, expected, came := s.expect(days)
		if expected == 0 || float64(came) > nothing*expected {
			continue
		}
		if days == 1 {
			level = oneDay
		}
		if chance := law.atMost(came); chance < level/float64(len(silences)) {
			return Alarm{Silent, s.Key, days, came, expected, chance}, true
		}
	}
	return Alarm{}, false
}

func (s Series) spike(level float64) (Alarm, bool) {
	law, expected, came := s.expect(1)
	if expected == 0 || float64(came) <= expected {
		return Alarm{}, false
	}
	chance := 1 - law.atMost(came-1)
	return Alarm{Spike, s.Key, 1, came, expected, chance}, chance < level
}

// beyondBefore is how many times as unlikely as anything of the weeks before a spike has to be, or a day on which something
// is silent. On some pages many more come now and then, or many fewer, than any law of the others has it; there it is
// nothing that is off.
const beyondBefore = 1000

// unlikeliest are the chances of the least likely of the weeks before: of as many, and of as few.
func (s Series) unlikeliest() (most, least float64) {
	past := len(s.Counts) - 1
	from := max(0, past-7*Weeks)
	most, least = 1, 1
	for i := from; i < past; i++ {
		if s.Exposure[i] <= 0 {
			continue
		}
		// By all other days, as a day that is judged is none of those that it is judged by.
		counts, exposure := slices.Concat(s.Counts[from:i], s.Counts[i+1:past]), slices.Concat(s.Exposure[from:i], s.Exposure[i+1:past])
		rate, spread := fit(counts, exposure)
		if mean := rate * s.Exposure[i]; mean > 0 {
			law := negativeBinomial{mean, spread}
			most, least = min(most, 1-law.atMost(s.Counts[i]-1)), min(least, law.atMost(s.Counts[i]))
		}
	}
	return most, least
}

// expect is the law of what comes in the last days, by the weeks before them.
func (s Series) expect(days int) (law negativeBinomial, expected float64, came int) {
	past := len(s.Counts) - days
	from := max(0, past-7*Weeks)
	rate, spread := fit(s.Counts[from:past], s.Exposure[from:past])
	variance := 0.0
	for i := past; i < len(s.Counts); i++ {
		mean := rate * s.Exposure[i]
		expected += mean
		variance += mean + mean*mean*spread
		came += s.Counts[i]
	}
	return negativeBinomial{expected, math.Max(0, (variance-expected)/math.Max(expected*expected, 1e-12))}, expected, came
}

// leastSpread keeps the law from being narrower than days of people ever are: what eight weeks do not
// show may still be there.
const leastSpread = 0.05

// fit finds the rate of counts for their exposure, and how much more they spread than a Poisson law:
// the variance of a count is mean + spread x mean^2, by moments, with what is left of the estimate's
// own error added.
func fit(counts []int, exposure []float64) (rate, spread float64) {
	sum, exposed, days := 0.0, 0.0, 0.0
	for i, n := range counts {
		if exposure[i] > 0 {
			sum, exposed, days = sum+float64(n), exposed+exposure[i], days+1
		}
	}
	if days < 14 || sum == 0 {
		return 0, 0 // too little is known
	}
	rate = sum / exposed
	over, squares := 0.0, 0.0
	for i, n := range counts {
		if mean := rate * exposure[i]; mean > 0 {
			over += (float64(n)-mean)*(float64(n)-mean) - mean
			squares += mean * mean
		}
	}
	spread = math.Max(over/squares*days/(days-1), leastSpread)
	return rate, spread * (1 + 2/math.Sqrt(days))
}

// negativeBinomial has a mean and a variance of mean + spread x mean^2.
type negativeBinomial struct{ mean, spread float64 }

// atMost is the chance of that many or fewer.
func (l negativeBinomial) atMost(n int) float64 {
	if n < 0 {
		return 0
	}
	if l.spread < 1e-9 {
		return 1 - mathext.GammaIncReg(float64(n)+1, l.mean) // Poisson
	}
	size := 1 / l.spread
	return mathext.RegIncBeta(size, float64(n)+1, size/(size+l.mean))
}
