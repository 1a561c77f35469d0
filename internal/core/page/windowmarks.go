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

// OpenWindow is a time in which a block was to show by one of its windows.
type OpenWindow struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// OpenWindows are the times within a span in which a block was to show by its windows, while their
// edition was live, in order. What repeats every week is the rhythm of the page and is left out.
func OpenWindows(showings []LiveShowing, block string, from, to time.Time) []OpenWindow {
	open := []OpenWindow{}
	for _, live := range showings {
		if live.Block != block || live.Showing.When == nil {
			continue
		}
		begin, end := later(from, live.From), to
		if !live.Until.IsZero() && live.Until.Before(end) {
			end = live.Until
		}
		for _, span := range live.Showing.When.Spans {
			one := OpenWindow{later(begin, span.From), end}
			if !span.To.IsZero() && span.To.Before(end) {
				one.To = span.To
			}
			if one.From.Before(one.To) {
				open = append(open, one)
			}
		}
	}
	slices.SortFunc(open, func(a, b OpenWindow) int { return cmp.Or(a.From.Compare(b.From), a.To.Compare(b.To)) })
	return joined(open)
}

// joined are times in order, with those that touch made one: an edition that changes nothing about a
// window does not end it.
func joined(open []OpenWindow) []OpenWindow {
	whole := open[:0]
	for _, one := range open {
		if n := len(whole); n > 0 && !one.From.After(whole[n-1].To) {
			whole[n-1].To = later(whole[n-1].To, one.To)
			continue
		}
		whole = append(whole, one)
	}
	return whole
}

func later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}
