package window

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"jundle/internal/core/invalid"
)

// Limits of Times.
const (
	// MaxSpans is how many from-until times there may be.
	MaxSpans = 24
	// MaxWeekly is how many weekly rules there may be.
	MaxWeekly = 7
	// Ahead is how far Next looks: what is held until then is looked at once more.
	Ahead = 60 * 24 * time.Hour
)

// Times are when something is in force: in any of its spans, or whenever one of its
// weekly rules says so; with both, where both do, unless Either. Weekly rules keep to the
// clocks of the zone.
type Times struct {
	Zone   string   `json:"zone" doc:"IANA name of the zone the times were entered in."`
	Spans  []Span   `json:"spans,omitempty" doc:"From-until times. At most 24."`
	Weekly []Weekly `json:"weekly,omitempty" doc:"What repeats every week. At most 7."`
	Either bool     `json:"either,omitempty" doc:"With both spans and weekly: in force where either says so, and not only where both do."`
}

// Span is a span of time. From belongs to it and To does not; one that is zero leaves
// that end open.
type Span struct {
	From time.Time `json:"from,omitzero" required:"false" doc:"Left out for always before."`
	To   time.Time `json:"to,omitzero" required:"false" doc:"The first moment that is no longer in it; left out for no end."`
}

// Weekly is a rule that repeats by the clocks of a zone, as a weekly rule of RFC 5545
// (3.3.10, FREQ=WEEKLY;BYDAY=…) does across a change of the clocks: a time that is
// skipped moves forward by what is skipped, and of a time that comes twice the first
// is meant.
type Weekly struct {
	Days  []Weekday `json:"days" nullable:"false" doc:"On which days it begins."`
	From  string    `json:"from" doc:"Wall-clock time at which it begins, such as 09:00."`
	To    string    `json:"to" doc:"Wall-clock time at which it is over; one that is not after the beginning is of the next day."`
	First string    `json:"first,omitempty" doc:"The first day on which it may begin, YYYY-MM-DD."`
	Last  string    `json:"last,omitempty" doc:"The last one."`
}

// Weekday is a day of the week as RFC 5545 writes it.
type Weekday string

// weekdays are those of RFC 5545 in the order of time.Weekday.
var weekdays = []Weekday{"SU", "MO", "TU", "WE", "TH", "FR", "SA"}

// Holds tells whether a moment is in the times.
func (t Times) Holds(at time.Time) bool {
	holds := func(w Window) bool { return w.Holds(at) }
	if t.within() {
		return slices.ContainsFunc(t.spans(), holds) && slices.ContainsFunc(t.occurrences(at, at), holds)
	}
	return slices.ContainsFunc(t.spans(), holds) || slices.ContainsFunc(t.occurrences(at, at), holds)
}

// within tells whether the weekly rules hold within the spans only.
func (t Times) within() bool { return !t.Either && len(t.Spans) > 0 && len(t.Weekly) > 0 }

// windows are those that may have a part in a span of time.
func (t Times) windows(from, to time.Time) []Window {
	spans, weekly := t.spans(), t.occurrences(from, to)
	if !t.within() {
		return append(spans, weekly...)
	}
	var both []Window
	for _, span := range spans {
		for _, one := range weekly {
			if one.From.Before(span.From) {
				one.From = span.From
			}
			if !span.To.IsZero() && span.To.Before(one.To) {
				one.To = span.To
			}
			if one.From.Before(one.To) {
				both = append(both, one)
			}
		}
	}
	return both
}

// Count is how many windows and weekly rules these are; none when nil.
func (t *Times) Count() int {
	if t == nil {
		return 0
	}
	return len(t.Spans) + len(t.Weekly)
}

// Next is the next moment after at from which on something else holds; zero when there
// is none within Ahead.
func (t Times) Next(at time.Time) time.Time {
	// What repeats mostly changes within the week.
	if next := t.nextWithin(at, 8*24*time.Hour); !next.IsZero() {
		return next
	}
	return t.nextWithin(at, Ahead)
}

func (t Times) nextWithin(at time.Time, ahead time.Duration) time.Time {
	parts := t.Between(at, at.Add(ahead))
	switch {
	case len(parts) == 0:
		return time.Time{}
	case parts[0].From.After(at):
		return parts[0].From
	case parts[0].To.Equal(at.Add(ahead)):
		return time.Time{}
	}
	return parts[0].To
}

// Between lists the windows that have a part in a span of time, in order and merged
// where they touch. Open ends are those of the span.
func (t Times) Between(from, to time.Time) []Window {
	var parts []Window
	for _, w := range t.windows(from, to) {
		if w.From.Before(from) {
			w.From = from
		}
		if w.To.IsZero() || w.To.After(to) {
			w.To = to
		}
		if w.From.Before(w.To) {
			parts = append(parts, Window{From: w.From.UTC(), To: w.To.UTC()})
		}
	}
	slices.SortFunc(parts, func(a, b Window) int { return a.From.Compare(b.From) })
	var merged []Window
	for _, w := range parts {
		if last := len(merged) - 1; last >= 0 && !w.From.After(merged[last].To) {
			merged[last].To = later(merged[last].To, w.To)
			continue
		}
		merged = append(merged, w)
	}
	return merged
}

// StateAt tells how a moment stands to the times.
func (t Times) StateAt(at time.Time) State {
	isToCome := func(w Window) bool { return w.From.After(at) }
	switch {
	case t.Holds(at):
		return InForce
	case t.within():
		return t.stateWithin(at)
	case slices.ContainsFunc(t.spans(), isToCome):
		return Before
	}
	for _, rule := range t.Weekly {
		from := later(at, rule.first(t.zone()))
		// Of two weeks one has the day, whatever the clocks do with it.
		if slices.ContainsFunc(rule.occurrences(t.zone(), from, from.AddDate(0, 0, 14)), isToCome) {
			return Before
		}
	}
	return Over
}

// stateWithin is StateAt where weekly rules hold within spans and none does now.
func (t Times) stateWithin(at time.Time) State {
	for _, span := range t.Spans {
		for _, rule := range t.Weekly {
			from := later(later(at, span.From), rule.first(t.zone()))
			one := Times{Zone: t.Zone, Spans: []Span{span}, Weekly: []Weekly{rule}}
			// Of two weeks one has the day, whatever the clocks do with it.
			if len(one.Between(from, from.AddDate(0, 0, 14))) > 0 {
				return Before
			}
		}
	}
	return Over
}

func (t Times) zone() *time.Location { return zoneOf(t.Zone) }

func (t Times) spans() []Window {
	windows := make([]Window, len(t.Spans), len(t.Spans)+4*len(t.Weekly))
	for i, span := range t.Spans {
		windows[i] = Window{From: span.From, To: span.To}
	}
	return windows
}

// occurrences are those of the weekly rules that may have a part in a span of time.
func (t Times) occurrences(from, to time.Time) []Window {
	var all []Window
	for _, rule := range t.Weekly {
		all = append(all, rule.occurrences(t.zone(), from, to)...)
	}
	return all
}

func (w Weekly) occurrences(zone *time.Location, from, to time.Time) []Window {
	// One may have begun the day before, and the clocks may have skipped a day.
	year, month, day := from.In(zone).Date()
	date := time.Date(year, month, day-2, 0, 0, 0, 0, time.UTC)
	year, month, day = to.In(zone).Date()
	end := time.Date(year, month, day+1, 0, 0, 0, 0, time.UTC)
	var all []Window
	for ; !date.After(end); date = date.AddDate(0, 0, 1) {
		if one, ok := w.on(date, zone); ok {
			all = append(all, one)
		}
	}
	return all
}

// on is what begins on a day, given as midnight in UTC.
func (w Weekly) on(date time.Time, zone *time.Location) (Window, bool) {
	written := date.Format(time.DateOnly)
	if !slices.Contains(w.Days, weekdays[date.Weekday()]) || written < w.First || w.Last != "" && written > w.Last {
		return Window{}, false
	}
	from, to := date.Add(clock(w.From)), date.Add(clock(w.To))
	if !to.After(from) {
		to = to.AddDate(0, 0, 1)
	}
	one := Window{From: Resolve(from, zone), To: Resolve(to, zone)}
	return one, one.From.Before(one.To) // one that lies in a gap never comes
}

// first is the beginning of the first day of a rule; zero where there is none.
func (w Weekly) first(zone *time.Location) time.Time {
	date, err := time.Parse(time.DateOnly, w.First)
	if err != nil {
		return time.Time{}
	}
	return Resolve(date, zone)
}

const clockLayout = "15:04"

// clock reads a wall-clock time as the time since midnight.
func clock(text string) time.Duration {
	read, err := time.Parse(clockLayout, text)
	if err != nil {
		return 0
	}
	return time.Duration(read.Hour())*time.Hour + time.Duration(read.Minute())*time.Minute
}

func later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}

// zones are those that were found: finding one reads a file.
var zones sync.Map

// zoneOf finds a zone by its IANA name; UTC for one that is not known.
func zoneOf(name string) *time.Location {
	if zone, known := findZone(name); known {
		return zone
	}
	return time.UTC
}

// IsZone tells whether a name is that of a time zone (IANA).
func IsZone(name string) bool {
	_, known := findZone(name)
	return known
}

func findZone(name string) (*time.Location, bool) {
	if found, ok := zones.Load(name); ok {
		return found.(*time.Location), true
	}
	// One zone has one name here, however many ways there are to write a path.
	if name == "Local" || path.Clean(name) != name {
		return nil, false
	}
	zone, err := time.LoadLocation(name)
	if err != nil {
		return nil, false
	}
	zones.Store(name, zone)
	return zone, true
}

// Tidy puts times in order and notes what is wrong with them. Nil when nothing is left
// that says when.
func (t *Times) Tidy(wrong *invalid.List, where string) *Times {
	if t == nil {
		return nil
	}
	if !IsZone(t.Zone) {
		wrong.Add(where+"/zone", "“%s” is no time zone.", invalid.OneLine(t.Zone))
	}
	if len(t.Spans) > MaxSpans {
		wrong.Add(where+"/spans", "There can be at most %d windows here; these are %d.", MaxSpans, len(t.Spans))
		return t
	}
	if len(t.Weekly) > MaxWeekly {
		wrong.Add(where+"/weekly", "There can be at most %d weekly times here; these are %d.", MaxWeekly, len(t.Weekly))
		return t
	}
	for i := range t.Spans {
		t.Spans[i].tidy(wrong, fmt.Sprintf("%s/spans/%d", where, i))
	}
	t.Spans = slices.DeleteFunc(t.Spans, func(s Span) bool { return s.From.IsZero() && s.To.IsZero() })
	slices.SortFunc(t.Spans, func(a, b Span) int { return cmp.Or(a.From.Compare(b.From), a.To.Compare(b.To)) })
	for i := range t.Weekly {
		t.Weekly[i].tidy(wrong, fmt.Sprintf("%s/weekly/%d", where, i))
	}
	t.Weekly = slices.DeleteFunc(t.Weekly, func(w Weekly) bool { return len(w.Days) == 0 })
	if len(t.Spans)+len(t.Weekly) == 0 {
		return nil
	}
	t.Either = t.Either && len(t.Spans) > 0 && len(t.Weekly) > 0
	return t
}

// The years in which times may lie: what is beyond is a slip of the finger.
const earliest, latest = 2000, 2200

func (s *Span) tidy(wrong *invalid.List, where string) {
	for end, at := range map[string]*time.Time{"from": &s.From, "to": &s.To} {
		if at.IsZero() {
			continue
		}
		*at = at.UTC().Truncate(time.Minute)
		if at.Year() < earliest || at.Year() >= latest {
			wrong.Add(where+"/"+end, "The year %d is too far away.", at.Year())
		}
	}
	if !s.To.IsZero() && !s.From.Before(s.To) {
		wrong.Add(where+"/to", "This window ends before it begins.")
	}
}

func (w *Weekly) tidy(wrong *invalid.List, where string) {
	given := w.Days
	w.Days = []Weekday{}
	for _, day := range append(weekdays[1:], weekdays[0]) {
		if slices.Contains(given, day) {
			w.Days = append(w.Days, day)
		}
	}
	for field, text := range map[string]string{"from": w.From, "to": w.To} {
		if read, err := time.Parse(clockLayout, text); err != nil || read.Format(clockLayout) != text {
			wrong.Add(where+"/"+field, "“%s” is no time of day like 09:00.", invalid.OneLine(text))
		}
	}
	for field, text := range map[string]string{"first": w.First, "last": w.Last} {
		date, err := time.Parse(time.DateOnly, text)
		if text != "" && (err != nil || date.Year() < earliest || date.Year() >= latest) {
			wrong.Add(where+"/"+field, "“%s” is no day like 2026-12-01.", invalid.OneLine(text))
		}
	}
	if w.First != "" && w.Last != "" && w.Last < w.First {
		wrong.Add(where+"/last", "This ends before it begins.")
	}
}

// String is the times in words, by the clocks of their zone, like "4 Dec 2026 08:00 to
// 6 Dec 2026 18:00, and Fri, Sat 10:00 to 18:00 each week".
func (t Times) String() string {
	var words []string
	for _, span := range t.Spans {
		switch from, to := t.written(span.From), t.written(span.To); {
		case span.From.IsZero():
			words = append(words, "until "+to)
		case span.To.IsZero():
			words = append(words, "from "+from)
		default:
			words = append(words, from+" to "+to)
		}
	}
	weekly := make([]string, len(t.Weekly))
	for i, rule := range t.Weekly {
		weekly[i] = rule.String()
	}
	if t.within() {
		return strings.Join(words, ", and ") + ", and then only " + strings.Join(weekly, ", and ")
	}
	return strings.Join(append(words, weekly...), ", and ")
}

func (t Times) written(at time.Time) string { return t.In(at).Format("2 Jan 2006 15:04") }

// In is a moment by the clocks of the zone.
func (t Times) In(at time.Time) time.Time { return at.In(t.zone()) }

// On tells whether it begins on a day of the week, and at which times of day, on a day of no
// meaning.
func (w Weekly) On(day time.Weekday) (from, to time.Time, on bool) {
	from = time.Time{}.Add(clock(w.From))
	to = time.Time{}.Add(clock(w.To))
	return from, to, slices.Contains(w.Days, weekdays[day])
}

func (w Weekly) String() string {
	days := make([]string, len(w.Days))
	for i, day := range w.Days {
		days[i] = time.Weekday(slices.Index(weekdays, day)).String()[:3]
	}
	words := strings.Join(days, ", ") + " " + w.From + " to " + w.To + " each week"
	if w.First != "" {
		words += " from " + w.First
	}
	if w.Last != "" {
		words += " until " + w.Last
	}
	return words
}
