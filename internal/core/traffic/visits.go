package traffic

import (
	"cmp"
	"slices"
	"time"

	"jundle/internal/core/source"
)

const (
	// RepeatWithin is the time within which the same action of the same visitor
	// counts once. Source: COUNTER Code of Practice, double-click filtering.
	RepeatWithin = 30 * time.Second
	// VisitGap ends a visit when nothing happens for longer (common practice).
	VisitGap = 30 * time.Minute
)

// InOrder sorts events by time, and by ID where times are equal, so that every
// rule below gives the same answer whatever order events arrived in.
func InOrder(events []Event) {
	slices.SortFunc(events, func(a, b Event) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID))
	})
}

// MarkRepeats sets Repeat on every event that the same visitor repeated on the
// same target within RepeatWithin: the earlier is flagged and the latest kept,
// pair by pair. Events with another flag take no part. The slice must hold the
// events of one page, in order.
func MarkRepeats(events []Event) {
	type target struct {
		visitor VisitorKey
		kind    Kind
		block   string
		item    string
	}
	last := make(map[target]int)
	for i := range events {
		events[i].Flags &^= Repeat
		if !events[i].Counted() {
			continue
		}
		key := target{events[i].Visitor, events[i].Kind, events[i].Block, events[i].Item}
		if before, ok := last[key]; ok && events[i].At.Sub(events[before].At) <= RepeatWithin {
			events[before].Flags |= Repeat
		}
		last[key] = i
	}
}

// JoinVisits gives each click the source of the visit it belongs to: that of the
// view the visitor had before it, unless VisitGap has passed. Only a click that
// carries a tag of its own keeps its source: the address of a click has nothing
// else to tell, and the page it came from is our own. A view that came from a page of
// our own, without a tag, goes on with the visit in the same way: somebody came back from a
// form, or chose a language. The slice must hold the events of one page, in order, with
// their repeats marked.
func JoinVisits(events []Event) {
	type latest struct {
		view int
		at   time.Time
	}
	seen := make(map[VisitorKey]latest)
	for i := range events {
		event := &events[i]
		if event.Flags&^Repeat != 0 {
			continue
		}
		before, ok := seen[event.Visitor]
		goesOn := ok && event.At.Sub(before.at) <= VisitGap
		joins := event.Evidence == source.Onward || event.Kind != View && event.Evidence != source.ByTag
		switch {
		case goesOn && joins:
			event.Source, event.Evidence = events[before.view].Source, events[before.view].Evidence
		case event.Evidence == source.Onward:
			event.Evidence = source.Untagged
		}
		if event.Kind == View {
			before.view = i
		} else if !goesOn {
			continue
		}
		before.at = event.At
		seen[event.Visitor] = before
	}
}

// Visit is a run of counted events of one visitor from one source on one page.
type Visit struct {
	Source   string
	Evidence source.By
	Device   Device
	Visitor  VisitorKey
	Start    time.Time
	Views    int
	// Clicks counts clicks by block.
	Clicks map[string]int
	// Items counts clicks on what is one of several things to press on a block.
	Items map[Item]int
	// Traits are those of its first event.
	Traits
	// Seen is what the visitor had before them, each minute of an edition once.
	Seen []Seen
}

// Item is one of several things to press on a block.
type Item struct{ Block, Item string }

// Seen is an edition at a moment: what it shows may change from one minute to the
// next.
type Seen struct {
	Edition int
	At      time.Time
}

// Visits groups the counted events of one page, which must be in order. A gap
// of more than VisitGap starts a new visit, and so does a different source; a
// visitor who has the page open from two sources is in two visits at once.
// Visits come out in the order in which they began.
func Visits(events []Event) []Visit {
	type side struct {
		visitor VisitorKey
		source  string
	}
	type running struct {
		visit int
		last  time.Time
	}
	var visits []Visit
	open := make(map[side]running)
	for _, event := range events {
		if !event.Counted() {
			continue
		}
		key := side{event.Visitor, event.Source}
		current, ok := open[key]
		if !ok || event.At.Sub(current.last) > VisitGap {
			current = running{visit: len(visits)}
			visits = append(visits, Visit{
				Source: event.Source, Evidence: event.Evidence, Device: event.Device, Visitor: event.Visitor,
				Start: event.At, Traits: event.Traits,
			})
		}
		current.last = event.At
		open[key] = current
		visits[current.visit].add(event)
	}
	return visits
}

func (v *Visit) add(event Event) {
	seen := Seen{event.Edition, event.At.Truncate(time.Minute)}
	if len(v.Seen) == 0 || v.Seen[len(v.Seen)-1] != seen {
		v.Seen = append(v.Seen, seen)
	}
	if event.Kind == View {
		v.Views++
		return
	}
	if v.Clicks == nil {
		v.Clicks = make(map[string]int)
	}
	v.Clicks[event.Block]++
	if event.Item == "" {
		return
	}
	if v.Items == nil {
		v.Items = make(map[Item]int)
	}
	v.Items[Item{event.Block, event.Item}]++
}
