// Package window holds the times in which something is in force: from-until, in
// the zone they were entered in.
package window

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"jundle/internal/core/invalid"
)

// Window is a span of time. From belongs to it and To does not; one that is zero
// leaves that end open.
type Window struct {
	From time.Time
	To   time.Time
	// Zone is the IANA name of the zone it was entered in; empty where nobody knows.
	Zone string `json:",omitempty"`
}

// Holds tells whether a moment is in the window.
func (w Window) Holds(at time.Time) bool {
	return !at.Before(w.From) && (w.To.IsZero() || at.Before(w.To))
}

// State is how a moment stands to a set of windows.
type State string

// The states. No windows at all are always in force.
const (
	InForce State = "in force"
	Before  State = "before" // none is in force, and one is to come
	Over    State = "over"   // none is in force, and none is to come
)

// StateAt tells how a moment stands to windows.
func StateAt(windows []Window, at time.Time) State {
	if len(windows) == 0 || slices.ContainsFunc(windows, func(w Window) bool { return w.Holds(at) }) {
		return InForce
	}
	if slices.ContainsFunc(windows, func(w Window) bool { return at.Before(w.From) }) {
		return Before
	}
	return Over
}

// Next is the next moment after at in which a window begins or ends; zero when
// there is none.
func Next(windows []Window, at time.Time) time.Time {
	var next time.Time
	for _, w := range windows {
		for _, edge := range []time.Time{w.From, w.To} {
			if edge.After(at) && (next.IsZero() || edge.Before(next)) {
				next = edge
			}
		}
	}
	return next
}

// Entered is a window as it is entered: wall-clock times of a zone, such as
// 2026-12-01T09:00, empty for an open end.
type Entered struct {
	From string `json:"from,omitempty" doc:"Wall-clock time in the zone, such as 2026-12-01T09:00; empty for always before."`
	To   string `json:"to,omitempty" doc:"Wall-clock time in the zone, the first that is no longer in it; empty for no end."`
}

// layout is a wall-clock time as browsers write it (HTML, local date and time
// string) to the minute.
const layout = "2006-01-02T15:04"

// In reads windows entered in a zone, and notes what is wrong with them. They
// come out in the order of time.
func In(zone *time.Location, entered []Entered, wrong *invalid.List, where string) []Window {
	windows := make([]Window, 0, len(entered))
	for i, local := range entered {
		place := fmt.Sprintf("%s/%d", where, i)
		w := Window{From: read(zone, local.From, wrong, place+"/from"), To: read(zone, local.To, wrong, place+"/to"), Zone: zone.String()}
		switch {
		case w.From.IsZero() && w.To.IsZero():
			continue
		case !w.To.IsZero() && !w.From.Before(w.To):
			wrong.Add(place+"/to", "This window ends before it begins.")
		}
		windows = append(windows, w)
	}
	slices.SortFunc(windows, func(a, b Window) int { return cmp.Or(a.From.Compare(b.From), a.To.Compare(b.To)) })
	return windows
}

func read(zone *time.Location, text string, wrong *invalid.List, where string) time.Time {
	if text == "" {
		return time.Time{}
	}
	wall, err := time.Parse(layout, text)
	if err != nil {
		wrong.Add(where, "“%s” is no date and time like 2026-12-01T09:00.", invalid.OneLine(text))
		return time.Time{}
	}
	return Resolve(wall, zone)
}

// Shown writes windows as they are entered in a zone.
func Shown(zone *time.Location, windows []Window) []Entered {
	shown := make([]Entered, len(windows))
	for i, w := range windows {
		shown[i] = Entered{From: wallClock(zone, w.From), To: wallClock(zone, w.To)}
	}
	return shown
}

func wallClock(zone *time.Location, at time.Time) string {
	if at.IsZero() {
		return ""
	}
	return at.In(zone).Format(layout)
}

// Resolve is the moment in which the clocks of a zone show a wall-clock time,
// whose own zone is of no account. A time that is skipped in spring moves
// forward by what is skipped; of a time that comes twice in autumn the first is
// meant.
func Resolve(wall time.Time, zone *time.Location) time.Time {
	year, month, day := wall.Date()
	asUTC := time.Date(year, month, day, wall.Hour(), wall.Minute(), wall.Second(), 0, time.UTC)
	// Offsets a day to either side: of a transition near, one is from before it and
	// one from after it.
	var first time.Time
	for i, nearby := range []time.Time{asUTC.AddDate(0, 0, -1), asUTC.AddDate(0, 0, 1)} {
		_, offset := nearby.In(zone).Zone()
		moment := asUTC.Add(-time.Duration(offset) * time.Second)
		if i == 0 {
			first = moment
		}
		if _, there := moment.In(zone).Zone(); there == offset {
			return moment // the clocks show it
		}
	}
	// Neither is shown by any clock: with the offset from before, it comes after the
	// gap by as much as it lay in it.
	return first
}
