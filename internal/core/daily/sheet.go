// Package daily sums up what happened on a page in one UTC day. A visitor's key
// lasts for that day and no longer, so repeats, visits and visitors never reach
// from one day into the next: each day can be summed up by itself, and figures of
// any range are sums of days.
//
// A sheet is all that readings are made from. It can be kept and thrown away, and
// made again from the events to the same figures.
package daily

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// PageRow is what came to the page on a day from one source.
type PageRow struct {
	PageKey
	Views    int
	Visits   int // that began on the day
	Visitors int // whose first visit of the UTC day this was
	Clicks   int
	// ClickedVisits are visits with at least one click.
	ClickedVisits int
}

// PageKey tells rows of a page apart. Day is YYYY-MM-DD in the workspace's zone;
// Source is as in traffic.Event.
type PageKey struct {
	Day      string
	Source   string
	Evidence source.By
	Device   traffic.Device
}

// BlockRow is what one block was pressed on a day from one source.
type BlockRow struct {
	BlockKey
	Clicks int
	Takers int // visits that clicked it
	Reach  int // visits that were shown it
}

// BlockKey tells rows of blocks apart.
type BlockKey struct {
	Day    string
	Block  string
	Source string
	Device traffic.Device
}

// LeftOutRow is what was kept on a day and not counted, for one reason.
type LeftOutRow struct {
	LeftOutKey
	Views  int
	Clicks int
}

// LeftOutKey tells rows of what was left out apart.
type LeftOutKey struct {
	Day    string
	Reason string
}

// Sheet holds the rows of a day, or of several.
type Sheet struct {
	Pages   []PageRow
	Blocks  []BlockRow
	LeftOut []LeftOutRow
}

// Add takes over the rows of another sheet.
func (s *Sheet) Add(other Sheet) {
	s.Pages = append(s.Pages, other.Pages...)
	s.Blocks = append(s.Blocks, other.Blocks...)
	s.LeftOut = append(s.LeftOut, other.LeftOut...)
}

// Events of one page by UTC day, in the order of days.
func ByUTCDay(events []traffic.Event) [][]traffic.Event {
	days := make(map[int64][]traffic.Event)
	for _, event := range events {
		day := UTCDay(event.At).Unix()
		days[day] = append(days[day], event)
	}
	var sorted [][]traffic.Event
	for _, day := range slices.Sorted(maps.Keys(days)) {
		sorted = append(sorted, days[day])
	}
	return sorted
}

// UTCDay is the beginning of the UTC day a moment falls on.
func UTCDay(at time.Time) time.Time { return at.UTC().Truncate(24 * time.Hour) }

func comparePages(a, b PageRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Source, b.Source), cmp.Compare(a.Evidence, b.Evidence), cmp.Compare(a.Device, b.Device))
}

func compareBlocks(a, b BlockRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Block, b.Block), cmp.Compare(a.Source, b.Source), cmp.Compare(a.Device, b.Device))
}

func compareLeftOut(a, b LeftOutRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Reason, b.Reason))
}
