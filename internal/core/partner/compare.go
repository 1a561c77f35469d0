package partner

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/mathext"

	"jundle/internal/core/stats"
)

const (
	// Tolerance is by what share of the larger count the two may differ before that is said, to
	// begin with: small gaps are normal (common practice).
	Tolerance = 0.10
	// enoughClicks is from how many clicks on, on the side that counted more, it is said that two counts agree: as many
	// as visits that a rate needs (readings.EnoughVisits).
	enoughClicks = 30
	// level is how often any total of a report is marked by chance alone, and how often any of its days is.
	level = 0.01
)

// Pair is what was counted of one thing: by us, and by the partner.
type Pair struct {
	Ours   int `json:"ours"`
	Theirs int `json:"theirs"`
	// Share is the difference by the larger of the two.
	Share  float64 `json:"share" doc:"Difference, by the larger of the two; below 0 where they counted less."`
	TooFew bool    `json:"tooFew" doc:"Both counts are too small to say whether they differ."`
	Marked bool    `json:"marked" doc:"It passes the tolerance, and chance alone makes any such gap in less than one of a hundred reports."`
}

// NewPair puts two counts side by side; Compare judges them.
func NewPair(ours, theirs int) Pair {
	pair := Pair{Ours: ours, Theirs: theirs, TooFew: max(ours, theirs) < enoughClicks}
	if larger := max(ours, theirs); larger > 0 {
		pair.Share = float64(theirs-ours) / float64(larger)
	}
	return pair
}

// chance is the p-value of the gap, and 1 where it is within the tolerance.
func (p Pair) chance(tolerance float64) float64 {
	if max(p.Share, -p.Share) <= tolerance {
		return 1
	}
	return SameLaw(p.Ours, p.Theirs)
}

// mark judges counts together: all of them are wrong in one of a hundred cases.
func mark(pairs []*Pair, chances []float64) {
	for i, rejected := range stats.Holm(chances, level) {
		if rejected {
			pairs[i].Marked, pairs[i].TooFew = true, false
		}
	}
}

// SameLaw is the two-sided p-value of two counts being of one Poisson law: given their sum, the first is
// of a binomial law with one half (Przyborowski, Wilenski, Biometrika 31 (1940) 313-323; from memory).
func SameLaw(first, second int) float64 {
	n, least := first+second, min(first, second)
	if n == 0 || first == second {
		return 1
	}
	// P(X <= k) of n and one half is I_(1/2)(n - k, k + 1).
	return min(1, 2*mathext.RegIncBeta(float64(n-least), float64(least)+1, 0.5))
}

// ReportLine is one thing of a report against our figures.
type ReportLine struct {
	Subject string      `json:"subject" doc:"As it stands in the report."`
	Title   string      `json:"title,omitempty" doc:"Of what it is on the page; empty for what is not known here."`
	Total   Pair        `json:"total"`
	Days    []ReportDay `json:"days" nullable:"false" doc:"Days on which either counted any."`
}

// ReportDay is one day of it.
type ReportDay struct {
	Date string `json:"date"`
	Pair
}

// Ours are our clicks on things, by their subject and day, and what they are called.
type Ours struct {
	Clicks map[string]map[string]int
	Titles map[string]string
}

// Compare holds a report against our figures, the largest gap first. Of what is not known here there is
// nothing of ours. Hours is by how many hours their days seem to begin later than ours, below 0 for earlier.
func Compare(counts []Count, ours Ours, tolerance float64) (lines []ReportLine, hours int) {
	theirs := make(map[string]map[string]int)
	for _, count := range counts {
		if theirs[count.Subject] == nil {
			theirs[count.Subject] = make(map[string]int)
		}
		theirs[count.Subject][count.Day] += count.Clicks
	}
	lines = []ReportLine{}
	for subject, days := range theirs {
		line := ReportLine{Subject: subject, Title: ours.Titles[subject], Days: []ReportDay{}}
		all := make(map[string]bool)
		for day := range days {
			all[day] = true
		}
		for day := range ours.Clicks[subject] {
			all[day] = true
		}
		for _, day := range slices.Sorted(maps.Keys(all)) {
			pair := NewPair(ours.Clicks[subject][day], days[day])
			line.Total.Ours, line.Total.Theirs = line.Total.Ours+pair.Ours, line.Total.Theirs+pair.Theirs
			line.Days = append(line.Days, ReportDay{day, pair})
		}
		line.Total = NewPair(line.Total.Ours, line.Total.Theirs)
		lines = append(lines, line)
	}
	shift := shiftOf(lines)
	judge(lines, shift, tolerance)
	slices.SortFunc(lines, func(a, b ReportLine) int {
		return cmp.Or(cmp.Compare(b.gap(), a.gap()), cmp.Compare(a.Subject, b.Subject))
	})
	return lines, int(math.Round(24 * shift))
}

// judge marks totals, and then days: all totals of a report are wrong in one of a hundred, and so are all days. Days are held
// against what was counted here in days that begin when theirs do.
func judge(lines []ReportLine, shift, tolerance float64) {
	var totals, days []*Pair
	var ofTotals, ofDays []float64
	for i := range lines {
		totals, ofTotals = append(totals, &lines[i].Total), append(ofTotals, lines[i].Total.chance(tolerance))
		for j := range lines[i].Days {
			expected, known := lines[i].expected(j, shift)
			if !known {
				continue
			}
			one := NewPair(int(math.Round(expected)), lines[i].Days[j].Theirs)
			days, ofDays = append(days, &lines[i].Days[j].Pair), append(ofDays, one.chance(tolerance))
		}
	}
	mark(totals, ofTotals)
	mark(days, ofDays)
}

// expected is how many clicks were counted here on a day of theirs, if it begins by that part of a day later than ours;
// known is false where that reaches into a day that the report does not have.
func (l ReportLine) expected(at int, shift float64) (clicks float64, known bool) {
	own := float64(l.Days[at].Ours)
	if shift == 0 {
		return own, true
	}
	beside := at + 1
	if shift < 0 {
		beside = at - 1
	}
	if beside < 0 || beside >= len(l.Days) {
		return 0, false
	}
	day, errDay := time.Parse(time.DateOnly, l.Days[at].Date)
	other, errOther := time.Parse(time.DateOnly, l.Days[beside].Date)
	if errDay != nil || errOther != nil {
		return 0, false
	}
	part := math.Abs(shift)
	if gap := other.Sub(day).Abs(); gap > 24*time.Hour {
		return own * (1 - part), true // on the day between, neither counted any
	}
	return own*(1-part) + part*float64(l.Days[beside].Ours), true
}

const (
	// mostShift is by what part of a day their days begin later or earlier than ours at most: zones are up to half of the
	// earth apart, and visitors come by day.
	mostShift = 0.7
	// A shift is looked for in reports of so many days, and has to explain so much more: in units of chi-squared.
	shiftFromDays = 7
	shiftExplains = 20.0
)

// shiftOf finds by what part of a day the partner's days begin later than ours: that with which the counts of days fit best.
// It is 0 where none fits much better.
func shiftOf(lines []ReportLine) (best float64) {
	off := func(shift float64) (sum float64) {
		for _, line := range lines {
			for j := 1; j+1 < len(line.Days); j++ { // the same days for every shift
				expected, _ := line.expected(j, shift)
				theirs := float64(line.Days[j].Theirs)
				sum += (theirs - expected) * (theirs - expected) / max(1, theirs+expected)
			}
		}
		return sum
	}
	days := 0
	for _, line := range lines {
		days = max(days, len(line.Days))
	}
	if days < shiftFromDays {
		return 0
	}
	plain := off(0)
	least := plain
	for step := -14; step <= 14; step++ {
		shift := float64(step) * mostShift / 14
		if sum := off(shift); sum < least && plain-sum > shiftExplains && sum < plain/2 {
			best, least = shift, sum
		}
	}
	return best
}

func (l ReportLine) gap() int { return max(l.Total.Ours-l.Total.Theirs, l.Total.Theirs-l.Total.Ours) }
