package page

import (
	"cmp"
	"slices"
	"time"
)

// LiveShowing is when a block showed, on an edition that was live for a while.
type LiveShowing struct {
	Block   string
	Showing Showing
	// From and Until say when the edition was live; Until is zero while it is.
	From, Until time.Time
}

// WindowMark is a moment at which a block came to show or ceased to, by one of its windows.
type WindowMark struct {
	Block  string    `json:"block"`
	At     time.Time `json:"at"`
	Begins bool      `json:"begins"`
}

// WindowMarks are the moments in a span of time at which windows began or ended while their edition
// was live, in order. What repeats every week is the rhythm of the page and no mark.
func WindowMarks(showings []LiveShowing, from, to time.Time) []WindowMark {
	marks := []WindowMark{}
	for _, live := range showings {
		if live.Showing.When == nil {
			continue
		}
		mark := func(at time.Time, begins bool) {
			known := !at.IsZero() && !at.Before(from) && at.Before(to)
			if known && !at.Before(live.From) && (live.Until.IsZero() || at.Before(live.Until)) {
				marks = append(marks, WindowMark{live.Block, at, begins})
			}
		}
		for _, span := range live.Showing.When.Spans {
			mark(span.From, true)
			mark(span.To, false)
		}
	}
	slices.SortFunc(marks, func(a, b WindowMark) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Block, b.Block)) })
	return slices.Compact(marks)
}
