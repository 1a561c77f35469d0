package daily

import (
	"slices"
	"time"

	"jundle/internal/core/traffic"
)

// Sum sums up the events of one page on one UTC day, whatever order they come
// in. It marks repeats and joins clicks to visits itself; the slice is left in
// order and so marked. Shown lists the keys of what visitors of an edition could
// press.
func Sum(events []traffic.Event, zone *time.Location, shown func(edition int) []string) Sheet {
	traffic.InOrder(events)
	traffic.MarkRepeats(events)
	traffic.JoinVisits(events)
	s := summing{
		zone: zone, shown: shown, pages: make(map[PageKey]*PageRow), blocks: make(map[BlockKey]*BlockRow), leftOut: make(map[LeftOutKey]*LeftOutRow),
	}
	for _, event := range events {
		s.event(event)
	}
	known := make(map[traffic.VisitorKey]bool)
	for _, visit := range traffic.Visits(events) {
		s.visit(visit, !known[visit.Visitor])
		known[visit.Visitor] = true
	}
	s.joinPlaces()
	return s.sheet()
}

type summing struct {
	zone    *time.Location
	shown   func(edition int) []string
	pages   map[PageKey]*PageRow
	blocks  map[BlockKey]*BlockRow
	leftOut map[LeftOutKey]*LeftOutRow
}

func (s *summing) day(at time.Time) string { return at.In(s.zone).Format(time.DateOnly) }

func (s *summing) event(event traffic.Event) {
	day := s.day(event.At)
	if reason := event.Flags.Reason(); reason != "" {
		row := s.leftOutRow(LeftOutKey{day, reason})
		if event.Kind == traffic.View {
			row.Views++
		} else {
			row.Clicks++
		}
		return
	}
	row := s.pageRow(PageKey{day, event.Source, event.Evidence, event.Device})
	if event.Kind == traffic.View {
		row.Views++
		return
	}
	row.Clicks++
	s.blockRow(BlockKey{day, event.Block, event.Source, event.Device}).Clicks++
}

func (s *summing) visit(visit traffic.Visit, first bool) {
	day := s.day(visit.Start)
	row := s.pageRow(PageKey{day, visit.Source, visit.Evidence, visit.Device})
	row.Visits++
	if first {
		row.Visitors++
	}
	if len(visit.Clicks) > 0 {
		row.ClickedVisits++
	}
	for _, block := range s.reached(visit) {
		row := s.blockRow(BlockKey{day, block, visit.Source, visit.Device})
		row.Reach++
		if visit.Clicks[block] > 0 {
			row.Takers++
		}
	}
}

// reached lists the blocks a visit was shown: those of its editions. A block it
// clicked was shown to it whatever the editions say.
func (s *summing) reached(visit traffic.Visit) []string {
	var blocks []string
	add := func(block string) {
		if !slices.Contains(blocks, block) {
			blocks = append(blocks, block)
		}
	}
	for _, edition := range visit.Editions {
		for _, block := range s.shown(edition) {
			add(block)
		}
	}
	for block := range visit.Clicks {
		add(block)
	}
	return blocks
}

func (s *summing) pageRow(key PageKey) *PageRow {
	if s.pages[key] == nil {
		s.pages[key] = &PageRow{PageKey: key}
	}
	return s.pages[key]
}

func (s *summing) blockRow(key BlockKey) *BlockRow {
	if s.blocks[key] == nil {
		s.blocks[key] = &BlockRow{BlockKey: key}
	}
	return s.blocks[key]
}

func (s *summing) leftOutRow(key LeftOutKey) *LeftOutRow {
	if s.leftOut[key] == nil {
		s.leftOut[key] = &LeftOutRow{LeftOutKey: key}
	}
	return s.leftOut[key]
}

func (s *summing) sheet() Sheet {
	var sheet Sheet
	for _, row := range s.pages {
		sheet.Pages = append(sheet.Pages, *row)
	}
	for _, row := range s.blocks {
		sheet.Blocks = append(sheet.Blocks, *row)
	}
	for _, row := range s.leftOut {
		sheet.LeftOut = append(sheet.LeftOut, *row)
	}
	slices.SortFunc(sheet.Pages, comparePages)
	slices.SortFunc(sheet.Blocks, compareBlocks)
	slices.SortFunc(sheet.LeftOut, compareLeftOut)
	return sheet
}
