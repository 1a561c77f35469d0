package daily

import (
	"time"

	"jundle/internal/core/traffic"
)

// Sum sums up all events of one page on one UTC day, with PlacesADay places told
// apart; see Tally for the other arguments.
func Sum(events []traffic.Event, zone *time.Location, shown Shown) Sums {
	tally := NewTally(zone, shown)
	tally.Add(events)
	sums := tally.Sums()
	return sums.Join(MostVisited(sums))
}
