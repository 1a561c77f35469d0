package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/page"
)

// BlockRows are the sums of one block of a page of a workspace on UTC days from one moment up to
// another.
func (s *Store) BlockRows(ctx context.Context, workspace, pageID uuid.UUID, block string, from, to time.Time) ([]daily.BlockRow, error) {
	rows, err := s.pool.Query(ctx, `
		select day::text, block, source, device, clicks, takers, reach from daily_blocks join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and endpoint_id = $2 and utc_day between $3 and $4 and block = $5`,
		workspace, pageID, daily.UTCDay(from), daily.UTCDay(to), block)
	if err != nil {
		return nil, err
	}
	var row daily.BlockRow
	var all []daily.BlockRow
	_, err = pgx.ForEachRow(rows, []any{
		&row.Day, &row.Block, &row.Source, (*string)(&row.Device), &row.Clicks, &row.Takers, &row.Reach,
	}, func() error {
		all = append(all, row)
		return nil
	})
	return all, err
}

// Placement is where a block stood on a page from a time on.
type Placement struct {
	Edition int
	At      time.Time
	// Place is 0 while it was not on the page, or beside the blocks.
	Place  int
	OnPage bool
	Title  string
}

// placementsRead bounds how many editions are looked at for where a block stood.
const placementsRead = 1000

// Placements are where a block stood on the editions of a page of a workspace, the one that was
// live at a time and those since, latest last; the latest thousand.
func (s *Store) Placements(ctx context.Context, workspace, pageID uuid.UUID, block string, since time.Time) ([]Placement, error) {
	rows, err := s.pool.Query(ctx, `
		select number, published_at, coalesce(place, 0), key is not null, coalesce(title, '')
		from editions join pages on pages.id = editions.page_id
		left join edition_rows on edition_rows.page_id = editions.page_id and edition = number and key = $3
		where workspace_id = $1 and pages.id = $2 and published_at >= coalesce(
			(select max(published_at) from editions where page_id = $2 and published_at <= $4), '-infinity')
		order by published_at desc, number desc limit $5`, workspace, pageID, block, since, placementsRead)
	if err != nil {
		return nil, err
	}
	all, err := pgx.CollectRows(rows, pgx.RowToStructByPos[Placement])
	if err != nil {
		return nil, fmt.Errorf("read where a block stood: %w", err)
	}
	var joined []Placement
	for i := len(all) - 1; i >= 0; i-- {
		if last := len(joined) - 1; last >= 0 && joined[last].Place == all[i].Place && joined[last].OnPage == all[i].OnPage {
			joined[last].Title = all[i].Title
			continue
		}
		joined = append(joined, all[i])
	}
	return joined, nil
}

// FirstShown is when a block of a page of a workspace was first on an edition that went live; zero
// when it never was.
func (s *Store) FirstShown(ctx context.Context, workspace, pageID uuid.UUID, block string) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select min(published_at) from edition_rows join editions on editions.page_id = edition_rows.page_id and number = edition
		join pages on pages.id = editions.page_id
		where workspace_id = $1 and pages.id = $2 and key = $3`, workspace, pageID, block).Scan(&first)
	if err != nil || first == nil {
		return time.Time{}, err
	}
	return *first, nil
}

// Edit is an edition with which something changed for one block.
type Edit struct {
	Edition int
	At      time.Time
	Changes []page.Change
}

// editsRead bounds how many edits of a block are read.
const editsRead = 50

// Edits are the editions of a page of a workspace with which something changed for a block, latest
// first; the latest fifty.
func (s *Store) Edits(ctx context.Context, workspace, pageID uuid.UUID, block string) ([]Edit, error) {
	about, err := json.Marshal([]map[string]string{{"key": block}})
	if err != nil {
		return nil, err
	}
	rows, err := s.pool.Query(ctx, `
		select number, published_at, changes from editions join pages on pages.id = page_id
		where workspace_id = $1 and page_id = $2 and changes::jsonb @> $3::jsonb
		order by published_at desc, number desc limit $4`, workspace, pageID, string(about), editsRead)
	if err != nil {
		return nil, err
	}
	edits, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (edit Edit, err error) {
		var changes []page.Change
		if err := row.Scan(&edit.Edition, &edit.At, &changes); err != nil {
			return edit, err
		}
		for _, change := range changes {
			if change.Key == block {
				edit.Changes = append(edit.Changes, change)
			}
		}
		return edit, nil
	})
	if err != nil {
		return nil, fmt.Errorf("read the edits of a block: %w", err)
	}
	return edits, nil
}
