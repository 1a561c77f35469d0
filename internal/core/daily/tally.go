package daily

import (
	"slices"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/traffic"
	"jundle/internal/core/trial"
)

// Tally adds up the events of one page on one UTC day, visitor by visitor. Every
// rule of counting holds within one visitor's day, so the sums of a day are those
// of its visitors, and what a visitor brought can be taken out again when more of
// their events arrive.
//
// A tally tells all places apart; see Sums.Join.
type Tally struct {
	zone    *time.Location
	had     Editions
	sign    int
	pages   map[PageKey]*PageRow
	blocks  map[BlockKey]*BlockRow
	hours   map[HourKey]*HourRow
	shares  map[HourShareKey]*HourShareRow
	leftOut map[LeftOutKey]*LeftOutRow
	items   map[ItemKey]*ItemRow
	targets map[TargetKey]*TargetRow
	traits  map[TraitKey]*TraitRow
	trials  map[TrialKey]*TrialRow
	tried   map[triedBy]*trialShare // of the visitors that are being counted

	// Most events are of the minute of the one before.
	minute int64
	known  HourKey
}

// Editions knows what visitors of the editions of a page had before them.
type Editions interface {
	// Shown lists the keys of what an audience could press on an edition.
	Shown(edition int, to audience.Audience) []string
	// Trial is that which ran on an edition; nil for none.
	Trial(edition int) *trial.Shown
}

// Shown is Editions on which no trial ran.
type Shown func(edition int, to audience.Audience) []string

// Shown implements Editions.
func (s Shown) Shown(edition int, to audience.Audience) []string { return s(edition, to) }

// Trial implements Editions.
func (Shown) Trial(int) *trial.Shown { return nil }

// NewTally makes an empty one. Days and hours are those of the zone.
func NewTally(zone *time.Location, had Editions) *Tally {
	return &Tally{
		zone: zone, had: had, pages: make(map[PageKey]*PageRow), blocks: make(map[BlockKey]*BlockRow),
		hours: make(map[HourKey]*HourRow), shares: make(map[HourShareKey]*HourShareRow), leftOut: make(map[LeftOutKey]*LeftOutRow),
		items: make(map[ItemKey]*ItemRow), targets: make(map[TargetKey]*TargetRow), traits: make(map[TraitKey]*TraitRow),
		trials: make(map[TrialKey]*TrialRow),
	}
}

// Add adds what visitors brought, whatever order their events come in. All that
// is known of each of these visitors has to be among the events; what is flagged
// is nobody's and may come by itself. Repeats are marked and clicks joined to
// visits; the slice is left in order and so marked.
func (t *Tally) Add(events []traffic.Event) { t.count(events, 1) }

// Subtract takes out again what Add added for the same events.
func (t *Tally) Subtract(events []traffic.Event) { t.count(events, -1) }

func (t *Tally) count(events []traffic.Event, sign int) {
	t.sign = sign
	traffic.InOrder(events)
	traffic.MarkRepeats(events)
	traffic.JoinVisits(events)
	for _, event := range events {
		t.event(event)
	}
	known := make(map[traffic.VisitorKey]bool)
	t.tried = make(map[triedBy]*trialShare)
	for _, visit := range traffic.Visits(events) {
		t.visit(visit, !known[visit.Visitor])
		known[visit.Visitor] = true
	}
	t.squares()
}

// triedBy is a visitor of a trial, and trialShare what they did in it.
type (
	triedBy struct {
		trial   string
		visitor traffic.VisitorKey
	}
	trialShare struct {
		key           TrialKey // with the day of the first visit
		reach, takers int
	}
)

// squares adds up what visitors did in trials, visitor by visitor: they are what variants are shared out among, so that
// how far rates vary by chance is seen in how far visitors differ.
func (t *Tally) squares() {
	for _, one := range t.tried {
		row := rowOf(t.trials, one.key, newTrialRow)
		row.Visitors += t.sign
		row.ReachSquared += t.sign * one.reach * one.reach
		row.ReachTakers += t.sign * one.reach * one.takers
		row.TakersSquared += t.sign * one.takers * one.takers
	}
}

func (t *Tally) day(at time.Time) string { return t.clock(at).Day }

// clock says on which day and in which hour of the zone a moment is.
func (t *Tally) clock(at time.Time) HourKey {
	if minute := at.Unix() / 60; minute != t.minute || t.known.Day == "" {
		local := at.In(t.zone)
		t.minute, t.known = minute, HourKey{local.Format(time.DateOnly), local.Hour()}
	}
	return t.known
}

func (t *Tally) event(event traffic.Event) {
	day := t.day(event.At)
	if reason := event.Flags.Reason(); reason != "" {
		row := rowOf(t.leftOut, LeftOutKey{day, reason}, func(key LeftOutKey) LeftOutRow { return LeftOutRow{LeftOutKey: key} })
		if event.Kind == traffic.View {
			row.Views += t.sign
		} else {
			row.Clicks += t.sign
		}
		return
	}
	row := rowOf(t.pages, PageKey{day, event.Source, event.Evidence, event.Device}, newPageRow)
	hour := t.hour(event.At)
	if event.Kind == traffic.View {
		row.Views += t.sign
		hour.Views += t.sign
		return
	}
	row.Clicks += t.sign
	hour.Clicks += t.sign
	t.hourShare(event.At, ByBlock, event.Block).Count += t.sign
	rowOf(t.blocks, BlockKey{day, event.Block, event.Source, event.Device}, newBlockRow).Clicks += t.sign
	if event.Item != "" {
		// On its own day, as that of its block: a visit may go on after midnight.
		rowOf(t.items, ItemKey{day, event.Block, event.Item, event.Source}, newItemRow).Clicks += t.sign
	}
	if event.Target != 0 {
		rowOf(t.targets, TargetKey{day, event.Target, event.Block, event.Item}, newTargetRow).Clicks += t.sign
	}
}

func (t *Tally) visit(visit traffic.Visit, first bool) {
	day := t.day(visit.Start)
	row := rowOf(t.pages, PageKey{day, visit.Source, visit.Evidence, visit.Device}, newPageRow)
	row.Visits += t.sign
	t.hour(visit.Start).Visits += t.sign
	t.hourShare(visit.Start, BySource, togetherIfUnlisted(visit.Source)).Count += t.sign
	if first {
		row.Visitors += t.sign
	}
	if len(visit.Clicks) > 0 {
		row.ClickedVisits += t.sign
	}
	reached := t.reached(visit)
	t.trial(visit, day, reached)
	for _, block := range reached {
		row := rowOf(t.blocks, BlockKey{day, block, visit.Source, visit.Device}, newBlockRow)
		row.Reach += t.sign
		if visit.Clicks[block] > 0 {
			row.Takers += t.sign
		}
	}
	for item := range visit.Items {
		rowOf(t.items, ItemKey{day, item.Block, item.Item, visit.Source}, newItemRow).Takers += t.sign
	}
	t.traitsOf(visit, day)
}

// trial counts a visit for the variant that it had before it, of the first trial that ran on any
// edition it saw.
func (t *Tally) trial(visit traffic.Visit, day string, reached []string) {
	for _, seen := range visit.Seen {
		ran := t.had.Trial(seen.Edition)
		if ran == nil || !ran.Holds(seen.At) {
			continue
		}
		among := func(key string) bool { return slices.Contains(ran.Keys, key) }
		if !slices.ContainsFunc(reached, among) {
			return
		}
		key := TrialKey{day, ran.ID, trial.Share(ran.ID, visit.Visitor[:], ran.Variants)}
		row := rowOf(t.trials, key, newTrialRow)
		row.Reach += t.sign
		share := t.tried[triedBy{ran.ID, visit.Visitor}]
		if share == nil {
			share = &trialShare{key: key}
			t.tried[triedBy{ran.ID, visit.Visitor}] = share
		}
		share.reach++
		for block := range visit.Clicks {
			if among(block) {
				row.Takers += t.sign
				share.takers++
				return
			}
		}
		return
	}
}

func (t *Tally) traitsOf(visit traffic.Visit, day string) {
	payment := Unpaid
	if visit.Paid {
		payment = Paid
	}
	for _, key := range [...]TraitKey{{day, Country, visit.Country}, {day, Language, visit.Language}, {day, Payment, payment}} {
		row := rowOf(t.traits, key, newTraitRow)
		row.Visits += t.sign
		if len(visit.Clicks) > 0 {
			row.ClickedVisits += t.sign
		}
	}
}

// reached lists the blocks a visit was shown: those of its editions. A block it
// clicked was shown to it whatever the editions say.
func (t *Tally) reached(visit traffic.Visit) []string {
	var blocks []string
	add := func(block string) {
		if !slices.Contains(blocks, block) {
			blocks = append(blocks, block)
		}
	}
	to := audience.Audience{Source: visit.Source}
	for _, seen := range visit.Seen {
		to.At = seen.At
		for _, block := range t.had.Shown(seen.Edition, to) {
			add(block)
		}
	}
	for block := range visit.Clicks {
		add(block)
	}
	return blocks
}

func (t *Tally) hour(at time.Time) *HourRow {
	return rowOf(t.hours, t.clock(at), func(key HourKey) HourRow { return HourRow{HourKey: key} })
}

func (t *Tally) hourShare(at time.Time, split HourSplit, of string) *HourShareRow {
	return rowOf(t.shares, HourShareKey{t.clock(at), split, of}, newHourShareRow)
}

// AddSums adds rows that were summed up before, and SubtractSums takes them out.
func (t *Tally) AddSums(sums Sums) { t.take(sums, 1) }

// SubtractSums takes out rows that were summed up before.
func (t *Tally) SubtractSums(sums Sums) { t.take(sums, -1) }

func (t *Tally) take(sums Sums, sign int) {
	for _, row := range sums.Pages {
		rowOf(t.pages, row.PageKey, newPageRow).add(row, sign)
	}
	for _, row := range sums.Blocks {
		rowOf(t.blocks, row.BlockKey, newBlockRow).add(row, sign)
	}
	for _, row := range sums.Hours {
		kept := rowOf(t.hours, row.HourKey, func(key HourKey) HourRow { return HourRow{HourKey: key} })
		kept.Views += sign * row.Views
		kept.Visits += sign * row.Visits
		kept.Clicks += sign * row.Clicks
	}
	for _, row := range sums.HourShares {
		rowOf(t.shares, row.HourShareKey, newHourShareRow).Count += sign * row.Count
	}
	for _, row := range sums.LeftOut {
		kept := rowOf(t.leftOut, row.LeftOutKey, func(key LeftOutKey) LeftOutRow { return LeftOutRow{LeftOutKey: key} })
		kept.Views += sign * row.Views
		kept.Clicks += sign * row.Clicks
	}
	for _, row := range sums.Items {
		kept := rowOf(t.items, row.ItemKey, newItemRow)
		kept.Clicks += sign * row.Clicks
		kept.Takers += sign * row.Takers
	}
	for _, row := range sums.Targets {
		rowOf(t.targets, row.TargetKey, newTargetRow).Clicks += sign * row.Clicks
	}
	for _, row := range sums.Trials {
		kept := rowOf(t.trials, row.TrialKey, newTrialRow)
		kept.Reach += sign * row.Reach
		kept.Takers += sign * row.Takers
		kept.Visitors += sign * row.Visitors
		kept.ReachSquared += sign * row.ReachSquared
		kept.ReachTakers += sign * row.ReachTakers
		kept.TakersSquared += sign * row.TakersSquared
	}
	for _, row := range sums.Traits {
		kept := rowOf(t.traits, row.TraitKey, newTraitRow)
		kept.Visits += sign * row.Visits
		kept.ClickedVisits += sign * row.ClickedVisits
	}
}

// Sums is what was added and not taken out again, in order. Rows that came to
// nothing are not among it.
func (t *Tally) Sums() Sums {
	var sums Sums
	sums.Pages = rows(t.pages, comparePages, func(row PageRow) bool { return row == PageRow{PageKey: row.PageKey} })
	sums.Blocks = rows(t.blocks, compareBlocks, func(row BlockRow) bool { return row == BlockRow{BlockKey: row.BlockKey} })
	sums.Hours = rows(t.hours, compareHours, func(row HourRow) bool { return row == HourRow{HourKey: row.HourKey} })
	sums.HourShares = rows(t.shares, compareHourShares, func(row HourShareRow) bool { return row.Count == 0 })
	sums.LeftOut = rows(t.leftOut, compareLeftOut, func(row LeftOutRow) bool { return row == LeftOutRow{LeftOutKey: row.LeftOutKey} })
	sums.Items = rows(t.items, compareItems, func(row ItemRow) bool { return row == ItemRow{ItemKey: row.ItemKey} })
	sums.Targets = rows(t.targets, compareTargets, func(row TargetRow) bool { return row.Clicks == 0 })
	sums.Traits = rows(t.traits, compareTraits, func(row TraitRow) bool { return row == TraitRow{TraitKey: row.TraitKey} })
	sums.Trials = rows(t.trials, compareTrials, func(row TrialRow) bool { return row == TrialRow{TrialKey: row.TrialKey} })
	return sums
}

func rows[K comparable, R any](kept map[K]*R, compare func(a, b R) int, nothing func(R) bool) []R {
	var sorted []R
	for _, row := range kept {
		if !nothing(*row) {
			sorted = append(sorted, *row)
		}
	}
	slices.SortFunc(sorted, compare)
	return sorted
}

func rowOf[K comparable, R any](kept map[K]*R, key K, empty func(K) R) *R {
	row := kept[key]
	if row == nil {
		made := empty(key)
		row = &made
		kept[key] = row
	}
	return row
}

func newPageRow(key PageKey) PageRow       { return PageRow{PageKey: key} }
func newBlockRow(key BlockKey) BlockRow    { return BlockRow{BlockKey: key} }
func newItemRow(key ItemKey) ItemRow       { return ItemRow{ItemKey: key} }
func newTargetRow(key TargetKey) TargetRow { return TargetRow{TargetKey: key} }
func newTrialRow(key TrialKey) TrialRow    { return TrialRow{TrialKey: key} }
func newTraitRow(key TraitKey) TraitRow    { return TraitRow{TraitKey: key} }

func newHourShareRow(key HourShareKey) HourShareRow { return HourShareRow{HourShareKey: key} }
