// Package daily sums up what happened on a page in one UTC day. A visitor's key
// lasts for that day and no longer, so repeats, visits and visitors never reach
// from one day into the next: each day can be summed up by itself, and figures of
// any range are sums of days.
//
// Sums are all that readings are made from. They can be kept and thrown away, and
// made again from the events to the same figures.
package daily

import (
	"cmp"
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

// HourRow is what came to the page in one hour of a day, from everywhere. There
// are as many of a day as it has hours in which anything happened.
type HourRow struct {
	HourKey
	Views  int
	Visits int // that began in the hour
	Clicks int
}

// HourKey tells rows of hours apart. Hour is 0 to 23 by the workspace's clock; an
// hour that a clock shows twice is one.
type HourKey struct {
	Day  string
	Hour int
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

// Sums holds the rows of a day, or of several.
type Sums struct {
	Pages   []PageRow
	Blocks  []BlockRow
	Hours   []HourRow
	LeftOut []LeftOutRow
}

// UTCDay is the beginning of the UTC day a moment falls on.
func UTCDay(at time.Time) time.Time { return at.UTC().Truncate(24 * time.Hour) }

func comparePages(a, b PageRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Source, b.Source), cmp.Compare(a.Evidence, b.Evidence),
		cmp.Compare(a.Device, b.Device))
}

func compareBlocks(a, b BlockRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Block, b.Block), cmp.Compare(a.Source, b.Source), cmp.Compare(a.Device, b.Device))
}

func compareHours(a, b HourRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Hour, b.Hour))
}

func compareLeftOut(a, b LeftOutRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Reason, b.Reason))
}
