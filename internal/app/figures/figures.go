// Package figures reads figures and gives their keys the names people know: it is the
// one place that labels them, for the studio and for whom they are shared with.
package figures

import (
	"cmp"
	"context"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// Row names something of a page that has figures.
type Row struct {
	Key, Title string
	// Place counts from 1 among the blocks that are shown; 0 for all else.
	Place int
	// Plain: the page carries its plain address, so its clicks may be more than were
	// counted.
	Plain bool
	// Items are the several things to press on it, if there are several.
	Items []Item
	// OnPage: it can be pressed on the page now.
	OnPage bool
}

// Gone is what is called that is gone and whose name nobody knows.
const Gone = "(deleted)"

// Item names one of several things to press on a block.
type Item struct{ Key, Title string }

// Rows names what can be pressed on a page, hidden blocks too, and what has figures
// and is gone by what it was called before.
func Rows(of page.Document, former map[string]string, blocks []readings.BlockReading) []Row {
	var rows []Row
	known, plain := make(map[string]bool), make(map[string]bool)
	for _, block := range of.Blocks {
		plain[block.Key] = block.IsPlain()
	}
	add := func(row Row) {
		if !known[row.Key] {
			known[row.Key] = true
			row.Plain, row.Items = plain[row.Key], itemsOf(of, row.Key)
			rows = append(rows, row)
		}
	}
	for _, row := range of.Rows() {
		add(Row{Key: row.Key, Title: row.Title, Place: row.Place, OnPage: true})
	}
	for _, block := range of.Blocks {
		if len(block.Targets()) > 0 {
			add(Row{Key: block.Key, Title: block.Title()})
		}
	}
	for _, reading := range blocks {
		add(Row{Key: reading.Block, Title: cmp.Or(former[reading.Block], Gone)})
	}
	return rows
}

func itemsOf(of page.Document, key string) (items []Item) {
	for _, target := range of.TargetsOf(key) {
		if target.Item != "" {
			items = append(items, Item{target.Item, target.Name})
		}
	}
	return items
}

// RowsOf is Rows with the names that what is gone had in editions of a page of a
// workspace.
func RowsOf(ctx context.Context, s *store.Store, owner store.Page, blocks []readings.BlockReading) ([]Row, error) {
	there := make(map[string]bool)
	for _, row := range owner.Draft.Rows() {
		there[row.Key] = true
	}
	for _, block := range owner.Draft.Blocks {
		there[block.Key] = true
	}
	var gone []string
	for _, block := range blocks {
		if !there[block.Block] {
			gone = append(gone, block.Block)
		}
	}
	former, err := s.FormerTitles(ctx, owner.WorkspaceID, owner.ID, gone)
	return Rows(owner.Draft, former, blocks), err
}

// NamesOf are the names that the keys of figures stand for.
func NamesOf(ctx context.Context, s *store.Store, owner store.Page, blocks []readings.BlockReading) (readings.Names, error) {
	names := readings.Names{
		Blocks: map[string]string{}, Sources: map[string]string{readings.Unlisted: "Unlisted", readings.Untagged: "Untagged"},
		Items: map[[2]string]string{},
	}
	sources, err := s.Sources(ctx, owner.WorkspaceID, owner.ID)
	if err != nil {
		return names, err
	}
	for _, source := range sources {
		names.Sources[source.ID.String()] = source.Name
	}
	rows, err := RowsOf(ctx, s, owner, blocks)
	for _, row := range rows {
		names.Blocks[row.Key] = row.Title
		for _, item := range row.Items {
			names.Items[[2]string{row.Key, item.Key}] = item.Title
		}
	}
	return names, err
}

// Span reads a range of a page or a short link of a workspace, in the workspace's zone. The
// first day is that of the first figure. It answers a *readings.SpanError for a range that
// it does not understand.
func Span(ctx context.Context, s *store.Store, workspace, id uuid.UUID, text string, now time.Time) (readings.Span, error) {
	zone, err := s.Location(ctx, workspace)
	if err != nil {
		return readings.Span{}, err
	}
	first, err := s.FirstDay(ctx, workspace, id, now)
	if err != nil {
		return readings.Span{}, err
	}
	return readings.ParseSpan(text, now, first, zone)
}
