package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/page"
)

// EditionMark is when an edition went live.
type EditionMark struct {
	Number int
	At     time.Time
	// Changes is how many things it changed, in words.
	Changes int
}

// mostMarks bounds how many editions, and how many rows with windows, are looked at.
const mostMarks = 400

// EditionMarks are the editions of a page of a workspace that went live in a span of time, earliest
// first; the latest 400.
func (s *Store) EditionMarks(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]EditionMark, error) {
	rows, err := s.pool.Query(ctx, `
		select number, published_at, changes from (
			select number, published_at, coalesce(jsonb_array_length(changes), 0) as changes
			from editions join pages on pages.id = page_id
			where workspace_id = $1 and page_id = $2 and published_at >= $3 and published_at < $4
			order by published_at desc, number desc limit $5) latest
		order by published_at, number`, workspace, id, from, to, mostMarks)
	if err != nil {
		return nil, err
	}
	marks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[EditionMark])
	if err != nil {
		return nil, fmt.Errorf("read when editions went live: %w", err)
	}
	return marks, nil
}

// LiveShowings are the blocks with windows on the editions of a page of a workspace that were live
// in a span of time, each with when that edition was.
func (s *Store) LiveShowings(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]page.LiveShowing, error) {
	rows, err := s.pool.Query(ctx, `
		select key, showing, published_at, until from (
			select page_id, number, published_at, lead(published_at) over (order by published_at, number) as until
			from editions join pages on pages.id = page_id where workspace_id = $1 and page_id = $2) live
		join edition_rows on edition_rows.page_id = live.page_id and edition = number
		where published_at < $4 and (until is null or until > $3) and showing ? 'when'
		order by published_at desc, position limit $5`, workspace, id, from, to, mostMarks)
	if err != nil {
		return nil, err
	}
	showings, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (one page.LiveShowing, err error) {
		var until *time.Time
		if err := row.Scan(&one.Block, &one.Showing, &one.From, &until); err != nil {
			return one, err
		}
		if until != nil {
			one.Until = *until
		}
		return one, nil
	})
	if err != nil {
		return nil, fmt.Errorf("read the windows of blocks: %w", err)
	}
	return showings, nil
}
