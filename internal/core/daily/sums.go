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

// HourShareRow is the part of an hour that came from one source, or that one block was pressed.
type HourShareRow struct {
	HourShareKey
	Count int // visits that began in the hour for BySource, clicks for ByBlock
}

// HourShareKey tells rows of parts of hours apart. Of is a source as in traffic.Event, with all
// places that are on nobody's list together, or a block.
type HourShareKey struct {
	HourKey
	Split HourSplit
	Of    string
}

// HourSplit is what hours are split by.
type HourSplit string

// Splits of hours.
const (
	BySource HourSplit = "source"
	ByBlock  HourSplit = "block"
)

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

// ItemRow is what one of several things on a block was pressed on a day from one source.
type ItemRow struct {
	ItemKey
	Clicks int
	Takers int // visits that clicked it
}

// ItemKey tells rows of items apart.
type ItemKey struct {
	Day    string
	Block  string
	Item   string
	Source string
}

// TargetRow is how often what is pressed led to a destination on a day.
type TargetRow struct {
	TargetKey
	Clicks int
}

// TargetKey tells rows of targets apart. Target is as in traffic.Event; Item is empty where there is but one thing to
// press.
type TargetKey struct {
	Day    string
	Target int64
	Block  string
	Item   string
}

// TraitRow is how many visits of a day had a trait.
type TraitRow struct {
	TraitKey
	Visits int
	// ClickedVisits are those with at least one click.
	ClickedVisits int
}

// TraitKey tells rows of traits apart. Every visit has one value of each trait, which
// may be empty for what is not known.
type TraitKey struct {
	Day   string
	Trait Trait
	Value string
}

// Trait is something that is known of visits beside where they came from.
type Trait string

// Traits.
const (
	Country  Trait = "country"
	Language Trait = "language"
	// Payment has the values Paid and Unpaid.
	Payment Trait = "payment"
)

// Whether an advertisement brought a visit.
const (
	Paid   = "paid"
	Unpaid = "unpaid"
)

// TrialRow is what came of one variant of a trial on a day.
type TrialRow struct {
	TrialKey
	Reach  int // visits that had it before them
	Takers int // of these, that pressed what is compared
	// Visitors made these visits. The rest are sums over them, of the UTC day: the square of the visits of each, those
	// times how many of them pressed, and the square of that. All are on the day of the visitor's first such visit.
	Visitors      int
	ReachSquared  int
	ReachTakers   int
	TakersSquared int
}

// TrialKey tells rows of trials apart.
type TrialKey struct {
	Day     string
	Trial   string
	Variant int
}

// Sums holds the rows of a day, or of several.
type Sums struct {
	Pages  []PageRow
	Blocks []BlockRow
	Hours  []HourRow
	// HourShares are the parts of the hours.
	HourShares []HourShareRow
	LeftOut    []LeftOutRow
	Items      []ItemRow
	Targets    []TargetRow
	Traits     []TraitRow
	Trials     []TrialRow
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

func compareHourShares(a, b HourShareRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Hour, b.Hour), cmp.Compare(a.Split, b.Split), cmp.Compare(a.Of, b.Of))
}

func compareLeftOut(a, b LeftOutRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Reason, b.Reason))
}

func compareItems(a, b ItemRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Block, b.Block), cmp.Compare(a.Item, b.Item), cmp.Compare(a.Source, b.Source))
}

func compareTargets(a, b TargetRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Target, b.Target), cmp.Compare(a.Block, b.Block), cmp.Compare(a.Item, b.Item))
}

func compareTraits(a, b TraitRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Trait, b.Trait), cmp.Compare(a.Value, b.Value))
}

func compareTrials(a, b TrialRow) int {
	return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.Trial, b.Trial), cmp.Compare(a.Variant, b.Variant))
}
