package partner

import (
	"cmp"
	"maps"
	"slices"

	"gonum.org/v1/gonum/mathext"
)

const (
	// Tolerance is by what share of the larger count the two may differ before that is said, to
	// begin with: small gaps are normal (common practice).
	Tolerance = 0.10
	// enoughClicks is from how many clicks on, on the side that counted more, it is said that two counts agree: as many
	// as visits that a rate needs (readings.EnoughVisits).
	enoughClicks = 30
	// level is how unlikely a gap must be by chance alone.
	level = 0.01
)

// Pair is what was counted of one thing: by us, and by the partner.
type Pair struct {
	Ours   int `json:"ours"`
	Theirs int `json:"theirs"`
	// Share is the difference by the larger of the two.
	Share  float64 `json:"share" doc:"Difference, by the larger of the two; below 0 where they counted less."`
	TooFew bool    `json:"tooFew" doc:"Both counts are too small to say whether they differ."`
	Marked bool    `json:"marked" doc:"It passes the tolerance, and chance alone makes such a gap in less than one of a hundred cases."`
}

// NewPair compares two counts.
func NewPair(ours, theirs int, tolerance float64) Pair {
	pair := Pair{Ours: ours, Theirs: theirs}
	if larger := max(ours, theirs); larger > 0 {
		pair.Share = float64(theirs-ours) / float64(larger)
	}
	pair.Marked = max(pair.Share, -pair.Share) > tolerance && SameLaw(ours, theirs) < level
	pair.TooFew = !pair.Marked && max(ours, theirs) < enoughClicks
	return pair
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
// nothing of ours.
func Compare(counts []Count, ours Ours, tolerance float64) []ReportLine {
	theirs := make(map[string]map[string]int)
	for _, count := range counts {
		if theirs[count.Subject] == nil {
			theirs[count.Subject] = make(map[string]int)
		}
		theirs[count.Subject][count.Day] += count.Clicks
	}
	lines := []ReportLine{}
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
			pair := NewPair(ours.Clicks[subject][day], days[day], tolerance)
			line.Total.Ours, line.Total.Theirs = line.Total.Ours+pair.Ours, line.Total.Theirs+pair.Theirs
			line.Days = append(line.Days, ReportDay{day, pair})
		}
		line.Total = NewPair(line.Total.Ours, line.Total.Theirs, tolerance)
		lines = append(lines, line)
	}
	slices.SortFunc(lines, func(a, b ReportLine) int {
		return cmp.Or(cmp.Compare(b.gap(), a.gap()), cmp.Compare(a.Subject, b.Subject))
	})
	return lines
}

func (l ReportLine) gap() int { return max(l.Total.Ours-l.Total.Theirs, l.Total.Theirs-l.Total.Ours) }
