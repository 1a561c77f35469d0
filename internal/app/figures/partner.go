package figures

import (
	"context"
	"errors"
	"maps"
	"slices"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/partner"
	"jundle/internal/core/readings"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// AgainstPartner holds the counts of a partner of a page of a workspace in a span against our clicks. A
// thing in the report is a button by its key, which clicks carry as utm_content, or an address: then all
// clicks of the workspace count that led there when they were made, those on short links too. Hours is by how many hours the
// partner's days seem to begin later.
func AgainstPartner(ctx context.Context, s *store.Store, owner store.Page, with store.Partner, span readings.Span) (
	lines []partner.ReportLine, hours int, err error,
) {
	counts, err := s.PartnerCounts(ctx, with.ID, span.Date(0), span.Date(span.Len()-1))
	if err != nil {
		return nil, 0, err
	}
	reading, err := rollup.Read(ctx, s, owner.WorkspaceID, owner.ID, span)
	if err != nil {
		return nil, 0, err
	}
	live, err := s.LiveEdition(ctx, owner.WorkspaceID, owner.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, 0, err
	}
	led, err := s.ClicksOfAddresses(ctx, owner.WorkspaceID, keysOf(counts), span.From(), span.To())
	if err != nil {
		return nil, 0, err
	}
	lines, hours = partner.Compare(counts, oursOf(counts, reading, led, owner.Draft, live.Document), with.Tolerance)
	return lines, hours, nil
}

// keysOf are the keys of the addresses that a report may name, each once.
func keysOf(counts []partner.Count) []string {
	seen := make(map[string]bool)
	for _, count := range counts {
		seen[address.Key(count.Subject)] = true
	}
	return slices.Collect(maps.Keys(seen))
}

// oursOf are our clicks on the things of a report.
func oursOf(counts []partner.Count, reading readings.Reading, led []store.ClicksOfAddress, documents ...page.Document) partner.Ours {
	ours := partner.Ours{Clicks: map[string]map[string]int{}, Titles: map[string]string{}}
	byAddress, titles := map[string]string{}, map[string]string{}
	for _, document := range documents {
		for _, row := range document.Rows() {
			if titles[row.Key] != "" {
				continue
			}
			titles[row.Key] = row.Title
			if targets := document.TargetsOf(row.Key); len(targets) == 1 && targets[0].Address != "" {
				byAddress[address.Key(targets[0].Address)] = row.Title
			}
		}
	}
	daily := make(map[string][]int, len(reading.Blocks))
	for _, block := range reading.Blocks {
		daily[block.Block] = block.Daily
	}
	within := make(map[string]bool, len(reading.Days))
	for _, day := range reading.Days {
		within[day.Date] = true
	}
	ledThere := make(map[string]map[string]int)
	for _, each := range led {
		if !within[each.Day] {
			continue
		}
		if ledThere[each.Key] == nil {
			ledThere[each.Key] = make(map[string]int)
		}
		ledThere[each.Key][each.Day] += each.Clicks
	}
	for _, count := range counts {
		if ours.Clicks[count.Subject] != nil {
			continue
		}
		if titles[count.Subject] == "" {
			leads := address.Key(count.Subject)
			ours.Clicks[count.Subject], ours.Titles[count.Subject] = ledThere[leads], byAddress[leads]
			continue
		}
		days := make(map[string]int)
		ours.Clicks[count.Subject], ours.Titles[count.Subject] = days, titles[count.Subject]
		for i, clicks := range daily[count.Subject] {
			if clicks > 0 {
				days[reading.Days[i].Date] += clicks
			}
		}
	}
	return ours
}
