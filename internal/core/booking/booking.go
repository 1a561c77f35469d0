// Package booking holds the rules for times that visitors ask for: which are free, and what becomes of one
// that was asked for. It keeps nothing and knows no clock.
package booking

import (
	"errors"
	"slices"
	"time"

	"jundle/internal/core/window"
)

// Limits of Rules.
const (
	MinMinutes     = 5
	MaxMinutes     = 12 * 60
	MaxNoticeHours = 14 * 24
	MaxAheadDays   = 90
)

// apartMost is how far apart at most the times are that are offered.
const apartMost = time.Hour

// Span is a time from a moment on until another, which no longer belongs to it.
type Span struct{ From, To time.Time }

// Overlaps tells whether two have a moment in common.
func (s Span) Overlaps(other Span) bool { return s.From.Before(other.To) && other.From.Before(s.To) }

// Rules say which times can be asked for.
type Rules struct {
	// Hours are those within which one lies from beginning to end.
	Hours window.Times
	// Minutes is how long one takes.
	Minutes int
	// NoticeHours is how long before its beginning it is asked for at the latest, AheadDays how long before at
	// the earliest.
	NoticeHours, AheadDays int
}

// Span is what is asked for by its beginning.
func (r Rules) Span(from time.Time) Span { return Span{from, from.Add(r.length())} }

func (r Rules) length() time.Duration { return time.Duration(r.Minutes) * time.Minute }

// Free lists beginnings of times that can be asked for at a moment, in order: from one on, or the earliest there
// is, and no more than so many. They follow each other from where the hours begin on, as far apart as one takes and
// an hour at most. What overlaps one of those taken is not among them.
func (r Rules) Free(taken []Span, now, from time.Time, most int) []time.Time {
	if r.Minutes < MinMinutes {
		return nil
	}
	earliest, latest := now.Add(time.Duration(r.NoticeHours)*time.Hour), now.AddDate(0, 0, r.AheadDays)
	if from.After(earliest) {
		earliest = from
	}
	taken = merged(taken)
	var free []time.Time
	// Hours that began before count from where they began, and all round the clock they begin at midnight.
	year, month, day := r.Hours.In(earliest).Date()
	since := time.Date(year, month, day-2, 0, 0, 0, 0, r.Hours.In(earliest).Location())
	for _, hours := range r.Hours.Between(since, latest.Add(r.length())) {
		for span := r.Span(hours.From); len(free) < most && !span.To.After(hours.To) && !span.From.After(latest); {
			if !span.From.Before(earliest) && !overlapsAny(taken, span) {
				free = append(free, span.From)
			}
			span = r.Span(span.From.Add(min(r.length(), apartMost)))
		}
	}
	return free
}

// merged are spans in order, of which those that overlap are one.
func merged(spans []Span) []Span {
	spans = slices.SortedFunc(slices.Values(spans), func(a, b Span) int { return a.From.Compare(b.From) })
	var all []Span
	for _, span := range spans {
		if last := len(all) - 1; last >= 0 && span.From.Before(all[last].To) {
			if span.To.After(all[last].To) {
				all[last].To = span.To
			}
			continue
		}
		all = append(all, span)
	}
	return all
}

// overlapsAny tells whether one overlaps any of those merged.
func overlapsAny(merged []Span, span Span) bool {
	i, _ := slices.BinarySearchFunc(merged, span.From, func(each Span, from time.Time) int {
		if each.To.After(from) {
			return 1
		}
		return -1
	})
	return i < len(merged) && merged[i].Overlaps(span)
}

// Offers tells whether a time can be asked for at a moment.
func (r Rules) Offers(taken []Span, now, from time.Time) bool {
	free := r.Free(taken, now, from, 1)
	return len(free) == 1 && free[0].Equal(from)
}

// State is how a time that was asked for stands.
type State string

// States of times that were asked for.
const (
	Asked     State = "asked"     // nobody has answered yet
	Agreed    State = "agreed"    // the creator agreed
	Declined  State = "declined"  // the creator did not
	CalledOff State = "calledOff" // the creator agreed and took it back
	Withdrawn State = "withdrawn" // the visitor took it back
	Lapsed    State = "lapsed"    // it came before anybody had answered
)

// Act is what somebody does about one.
type Act string

// Acts: those of the creator, and Withdraw, which is the visitor's.
const (
	Agree    Act = "agree"
	Decline  Act = "decline"
	CallOff  Act = "callOff"
	Withdraw Act = "withdraw"
)

// Errors of After.
var (
	ErrAnswered = errors.New("this was answered or taken back meanwhile")
	ErrOver     = errors.New("this time has come")
	ErrTaken    = errors.New("another was agreed to at that time")
)

// next says what becomes of each state by each act.
var next = map[State]map[Act]State{
	Asked:  {Agree: Agreed, Decline: Declined, Withdraw: Withdrawn},
	Agreed: {CallOff: CalledOff, Withdraw: Withdrawn},
}

// StateAt is how one of a state stands at a moment, when its time is or was at from.
func (s State) StateAt(from, at time.Time) State {
	if s == Asked && !at.Before(from) {
		return Lapsed
	}
	return s
}

// After is what becomes of one of a state that begins at from by what somebody does about it at a moment. What was
// done before may be done again and changes nothing. Errors: ErrOver once its time has come, ErrAnswered for what
// does not follow on how it stands.
func (s State) After(act Act, from, at time.Time) (State, error) {
	for _, by := range next {
		if by[act] == s {
			return s, nil
		}
	}
	then, follows := next[s][act]
	switch {
	case !follows:
		return s, ErrAnswered
	case !at.Before(from):
		return s, ErrOver
	}
	return then, nil
}
