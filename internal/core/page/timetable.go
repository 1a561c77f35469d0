package page

import (
	"slices"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/trial"
	"jundle/internal/core/window"
)

// Timetable is what can be pressed on a page, and when and by whom: all that reach goes
// by.
type Timetable struct {
	// Rows are what Document.Rows lists.
	Rows []TimedRow
	// Open are the times of the page as a whole; always when nil.
	Open      *window.Times
	Takeovers []Takeover
	// Trial is that which runs; nil for none.
	Trial *trial.Shown
	// Resting: nothing shows at all.
	Resting bool
}

// TimedRow is something that can be pressed; a nil Showing is always and to everybody.
type TimedRow struct {
	Key     string
	Showing *Showing
}

// Timetable is that of the page.
func (d Document) Timetable() Timetable {
	t := Timetable{Open: d.When, Takeovers: d.Takeovers, Resting: d.Resting != nil, Trial: d.Trial.Shown()}
	for _, row := range d.Rows() {
		timed := TimedRow{Key: row.Key}
		if block, found := d.Find(row.Key); found && block.Showing != (Showing{}) {
			timed.Showing = &block.Showing
		}
		t.Rows = append(t.Rows, timed)
	}
	return t
}

// IsConstant tells whether everybody can press the same at any time.
func (t Timetable) IsConstant() bool {
	timed := slices.ContainsFunc(t.Rows, func(row TimedRow) bool { return row.Showing != nil })
	return t.Resting || !timed && t.Open == nil && len(t.Takeovers) == 0
}

// Keys are those of what an audience can press, in order.
func (t Timetable) Keys(to audience.Audience) []string {
	if t.Resting {
		return []string{}
	}
	if latestOf(t.Takeovers, to, func(t Takeover) bool { return t.PassThrough != nil }) != nil {
		return []string{PassThroughKey}
	}
	keys := []string{}
	if t.Open != nil && !t.Open.Holds(to.At) {
		return keys
	}
	shown := make(map[string]bool, len(t.Rows))
	for _, row := range t.Rows {
		shown[row.Key] = row.Key != PassThroughKey && (row.Showing == nil || row.Showing.Holds(to))
	}
	solo := soloOf(t.Takeovers, to, func(key string) bool { return shown[key] })
	for _, row := range t.Rows {
		alone := solo == "" || row.Key == solo || row.Key == IconsKey || row.Key == FooterKey
		if shown[row.Key] && alone {
			keys = append(keys, row.Key)
		}
	}
	return keys
}

// Next is the next moment after at at which any of this changes; window.Ahead away at
// most.
func (t Timetable) Next(at time.Time) time.Time {
	times := []*window.Times{t.Open}
	for _, row := range t.Rows {
		if row.Showing != nil {
			times = append(times, row.Showing.When)
		}
	}
	return nextOf(times, t.Takeovers, at)
}

// nextOf is the next moment after at at which any of these begins or ends; window.Ahead
// away at most. Times that are nil never do.
func nextOf(times []*window.Times, takeovers []Takeover, at time.Time) time.Time {
	next := at.Add(window.Ahead)
	sooner := func(change time.Time) {
		if change.After(at) && change.Before(next) {
			next = change
		}
	}
	for _, each := range times {
		if each != nil {
			sooner(each.Next(at))
		}
	}
	for _, t := range takeovers {
		sooner(t.From)
		sooner(t.Until)
	}
	return next
}
