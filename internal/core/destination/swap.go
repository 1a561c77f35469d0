package destination

import (
	"fmt"
	"slices"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
)

// MaxSwaps is how many swaps a destination has at most.
const MaxSwaps = 6

// Swap is a window in which a destination leads somewhere else. From belongs to it and
// To does not.
type Swap struct {
	From    time.Time `json:"from"`
	To      time.Time `json:"to,omitzero" required:"false" doc:"When it leads back; left out where it leads there for good."`
	Address string    `json:"address" maxLength:"2048" doc:"Where it leads then."`
}

// Swaps are those of one destination, in the order in which they begin.
type Swaps []Swap

// Lead is where a destination leads: to its own address, but for swaps.
type Lead struct {
	// ID is that of the destination itself, where it was asked for by one that was merged
	// with it.
	ID      string
	Address string
	Swaps   Swaps
}

// Target is where a click led: a destination, and the address that it had at that moment. It is zero for what is no
// destination.
type Target struct{ ID, Address string }

// At is where it leads at a moment. Of swaps that overlap the one that began last holds.
func (l Lead) At(at time.Time) string {
	for _, swap := range slices.Backward(l.Swaps) {
		if swap.holds(at) {
			return swap.Address
		}
	}
	return l.Address
}

func (s Swap) holds(at time.Time) bool {
	return !at.Before(s.From) && (s.To.IsZero() || at.Before(s.To))
}

// Next is the next moment after at at which a swap begins or ends; zero when there is
// none.
func (s Swaps) Next(at time.Time) (next time.Time) {
	for _, swap := range s {
		for _, edge := range []time.Time{swap.From, swap.To} {
			if edge.After(at) && (next.IsZero() || edge.Before(next)) {
				next = edge
			}
		}
	}
	return next
}

// Equal tells whether two lists of swaps lead to the same at all times that they name.
func (s Swaps) Equal(other Swaps) bool {
	return slices.EqualFunc(s, other, func(a, b Swap) bool {
		return a.Address == b.Address && a.From.Equal(b.From) && a.To.Equal(b.To)
	})
}

// tidy checks swaps and puts them in the order in which they begin.
func (s Swaps) tidy(wrong *invalid.List) Swaps {
	if len(s) > MaxSwaps {
		wrong.Add("swaps", "A destination has at most %d swaps; this one has %d.", MaxSwaps, len(s))
		return s
	}
	for i := range s {
		where := fmt.Sprintf("swaps/%d", i)
		if link, err := address.ParseTyped(s[i].Address); err != nil {
			wrong.Add(where+"/address", "%s", err)
		} else {
			s[i].Address = link.URL
		}
		s[i].From, s[i].To = s[i].From.UTC(), s[i].To.UTC()
		switch {
		case s[i].From.IsZero():
			wrong.Add(where+"/from", "Say when it leads there.")
		case !s[i].To.IsZero() && !s[i].From.Before(s[i].To):
			wrong.Add(where+"/to", "It leads back before it begins.")
		}
	}
	slices.SortStableFunc(s, func(a, b Swap) int { return a.From.Compare(b.From) })
	return s
}

// Led is where a destination led from a moment on.
type Led struct {
	Address string
	Since   time.Time
}

// Settle takes up what swaps have come to: one that has begun for good is where the
// destination leads, and of one that is over only its history is left. What it led to
// meanwhile is returned, in order.
func (l Lead) Settle(now time.Time) (Lead, []Led) {
	settled, over := Lead{ID: l.ID, Address: l.Address}, []Swap{}
	forGood := -1 // the last that has begun for good; none before it comes back
	for i, swap := range l.Swaps {
		if swap.To.IsZero() && !swap.From.After(now) {
			forGood = i
		}
	}
	for i, swap := range l.Swaps {
		if i > forGood && (swap.From.After(now) || swap.To.After(now)) {
			settled.Swaps = append(settled.Swaps, swap)
			continue
		}
		over = append(over, swap)
	}
	var led []Led
	for _, edge := range edgesOf(over) {
		if edge.After(now) {
			break
		}
		led = append(led, Led{Lead{Address: l.Address, Swaps: over}.At(edge), edge})
	}
	if len(led) > 0 {
		settled.Address = led[len(led)-1].Address
	}
	return settled, slices.CompactFunc(led, func(a, b Led) bool { return a.Address == b.Address })
}

// edgesOf are the moments at which swaps begin and end, in order.
func edgesOf(swaps []Swap) []time.Time {
	var edges []time.Time
	for _, swap := range swaps {
		edges = append(edges, swap.From)
		if !swap.To.IsZero() {
			edges = append(edges, swap.To)
		}
	}
	slices.SortFunc(edges, time.Time.Compare)
	return slices.CompactFunc(edges, time.Time.Equal)
}

// NextSettled is when Settle has something to do; zero for never.
func (s Swaps) NextSettled() (next time.Time) {
	for _, swap := range s {
		at := swap.To
		if at.IsZero() {
			at = swap.From
		}
		if next.IsZero() || at.Before(next) {
			next = at
		}
	}
	return next
}
