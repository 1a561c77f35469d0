package figures

import (
	"context"
	"errors"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/partner"
	"jundle/internal/core/readings"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// AgainstPartner holds the counts of a partner of a page of a workspace in a span against our clicks. A
// thing in the report is a button by its key, which clicks carry as utm_content, or by where it leads.
func AgainstPartner(ctx context.Context, s *store.Store, owner store.Page, with store.Partner, span readings.Span) (
	[]partner.ReportLine, error,
) {
	counts, err := s.PartnerCounts(ctx, with.ID, span.Date(0), span.Date(span.Len()-1))
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s, owner.WorkspaceID, owner.ID, span)
	if err != nil {
		return nil, err
	}
	live, err := s.LiveEdition(ctx, owner.WorkspaceID, owner.ID)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	return partner.Compare(counts, oursOf(counts, reading, owner.Draft, live.Document), with.Tolerance), nil
}

// oursOf are our clicks on the things of a report.
func oursOf(counts []partner.Count, reading readings.Reading, documents ...page.Document) partner.Ours {
	ours := partner.Ours{Clicks: map[string]map[string]int{}, Titles: map[string]string{}}
	byAddress, titles := map[string][]string{}, map[string]string{}
	for _, document := range documents {
		for _, row := range document.Rows() {
			if titles[row.Key] != "" {
				continue
			}
			titles[row.Key] = row.Title
			if targets := document.TargetsOf(row.Key); len(targets) == 1 && targets[0].Address != "" {
				leads := address.Key(targets[0].Address)
				byAddress[leads] = append(byAddress[leads], row.Key)
			}
		}
	}
	daily := make(map[string][]int, len(reading.Blocks))
	for _, block := range reading.Blocks {
		daily[block.Block] = block.Daily
	}
	for _, count := range counts {
		if ours.Clicks[count.Subject] != nil {
			continue
		}
		days := make(map[string]int)
		ours.Clicks[count.Subject] = days
		keys := byAddress[address.Key(count.Subject)]
		if titles[count.Subject] != "" {
			keys = []string{count.Subject}
		}
		for _, key := range keys {
			ours.Titles[count.Subject] = titles[key]
			for i, clicks := range daily[key] {
				if clicks > 0 {
					days[reading.Days[i].Date] += clicks
				}
			}
		}
	}
	return ours
}
