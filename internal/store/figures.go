package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
)

// Figures are what is known of a page or a short link over some days.
type Figures struct {
	Sums daily.Sums
	// Due is how many of the days are to be summed up anew.
	Due int
}

// Figures reads what is known of pages and short links of a workspace from one
// moment up to another, all as of one moment. Rows of UTC days that the span only
// touches are among it.
func (s *Store) Figures(ctx context.Context, workspace uuid.UUID, ids []uuid.UUID, from, to time.Time) (map[uuid.UUID]*Figures, error) {
	figures := make(map[uuid.UUID]*Figures, len(ids))
	for _, id := range ids {
		figures[id] = &Figures{}
	}
	first, last := daily.UTCDay(from), daily.UTCDay(to)
	err := pgx.BeginTxFunc(ctx, s.pool, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}, func(tx pgx.Tx) error {
		var owned int
		if err := tx.QueryRow(ctx, "select count(*) from endpoints where workspace_id = $1 and id = any($2)", workspace,
			ids).Scan(&owned); err != nil {
			return err
		}
		if owned != len(figures) {
			return ErrNotFound
		}
		if err := keptSheets(ctx, tx, figures, ids, first, last); err != nil {
			return err
		}
		return daysDue(ctx, tx, figures, ids, first, last)
	})
	return figures, err
}

// VisitsByDay reads how many visits there were on each day of pages and short links of a workspace, of UTC days that the
// span touches but for that on which it ends: as rows with a day, visits and visits with a click, and nothing else.
func (s *Store) VisitsByDay(ctx context.Context, workspace uuid.UUID, ids []uuid.UUID, from, to time.Time) (
	map[uuid.UUID][]daily.PageRow, error,
) {
	rows, err := s.pool.Query(ctx, `
		select endpoint_id, day::text, sum(visits), sum(clicked_visits) from daily_pages join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and endpoint_id = any($2) and utc_day >= $3 and utc_day < $4 group by 1, 2`,
		workspace, ids, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	visits := make(map[uuid.UUID][]daily.PageRow, len(ids))
	var id uuid.UUID
	var row daily.PageRow
	_, err = pgx.ForEachRow(rows, []any{&id, &row.Day, &row.Visits, &row.ClickedVisits}, func() error {
		visits[id] = append(visits[id], row)
		return nil
	})
	return visits, err
}

// keptDays limits rows to those of pages and short links in a span.
const keptDays = " where endpoint_id = any($1) and utc_day between $2 and $3"

func keptSheets(ctx context.Context, tx pgx.Tx, figures map[uuid.UUID]*Figures, ids []uuid.UUID, first, last time.Time) error {
	var id uuid.UUID
	var p daily.PageRow
	err := eachRow(ctx, tx, `
		select endpoint_id, day::text, source, evidence, device, views, visits, visitors, clicks, clicked_visits from daily_pages`+keptDays,
		[]any{ids, first, last},
		[]any{
			&id, &p.Day, &p.Source, (*string)(&p.Evidence), (*string)(&p.Device), &p.Views, &p.Visits, &p.Visitors, &p.Clicks,
			&p.ClickedVisits,
		},
		func() { figures[id].Sums.Pages = append(figures[id].Sums.Pages, p) })
	if err != nil {
		return err
	}
	var b daily.BlockRow
	err = eachRow(ctx, tx, "select endpoint_id, day::text, block, source, device, clicks, takers, reach from daily_blocks"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &b.Day, &b.Block, &b.Source, (*string)(&b.Device), &b.Clicks, &b.Takers, &b.Reach},
		func() { figures[id].Sums.Blocks = append(figures[id].Sums.Blocks, b) })
	if err != nil {
		return err
	}
	var n daily.ItemRow
	err = eachRow(ctx, tx, "select endpoint_id, day::text, block, item, source, clicks, takers from daily_items"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &n.Day, &n.Block, &n.Item, &n.Source, &n.Clicks, &n.Takers},
		func() { figures[id].Sums.Items = append(figures[id].Sums.Items, n) })
	if err != nil {
		return err
	}
	var t daily.TraitRow
	err = eachRow(ctx, tx, "select endpoint_id, day::text, trait, value, visits, clicked_visits from daily_traits"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &t.Day, (*string)(&t.Trait), &t.Value, &t.Visits, &t.ClickedVisits},
		func() { figures[id].Sums.Traits = append(figures[id].Sums.Traits, t) })
	if err != nil {
		return err
	}
	var l daily.LeftOutRow
	return eachRow(ctx, tx, "select endpoint_id, day::text, reason, views, clicks from daily_left_out"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &l.Day, &l.Reason, &l.Views, &l.Clicks},
		func() { figures[id].Sums.LeftOut = append(figures[id].Sums.LeftOut, l) })
}

func eachRow(ctx context.Context, tx pgx.Tx, query string, args, into []any, take func()) error {
	rows, err := tx.Query(ctx, query, args...)
	if err != nil {
		return err
	}
	_, err = pgx.ForEachRow(rows, into, func() error { take(); return nil })
	return err
}

// FiguresVersion stands for the figures of a page or a short link of a workspace in
// a span: it is another once they have changed.
func (s *Store) FiguresVersion(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) (version int64, err error) {
	err = s.pool.QueryRow(ctx, `
		select coalesce(max(version), 0) from counted_days join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and endpoint_id = $2 and utc_day between $3 and $4`,
		workspace, id, daily.UTCDay(from), daily.UTCDay(to)).Scan(&version)
	return version, err
}

// CountedSince is the first UTC day with figures of a page or a short link of a workspace; zero
// when there is none.
func (s *Store) CountedSince(ctx context.Context, workspace, id uuid.UUID) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select min(utc_day) from counted_days join endpoints on endpoints.id = endpoint_id where workspace_id = $1 and endpoint_id = $2`,
		workspace, id).Scan(&first)
	if err != nil || first == nil {
		return time.Time{}, err
	}
	return *first, nil
}

// Hours reads the sums by hour of a page or a short link of a workspace, of UTC
// days that the span touches.
func (s *Store) Hours(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]daily.HourRow, error) {
	rows, err := s.pool.Query(ctx, `
		select day::text, hour, views, visits, clicks from daily_hours join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and endpoint_id = $2 and utc_day between $3 and $4`, workspace, id, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	var row daily.HourRow
	var hours []daily.HourRow
	_, err = pgx.ForEachRow(rows, []any{&row.Day, &row.Hour, &row.Views, &row.Visits, &row.Clicks}, func() error {
		hours = append(hours, row)
		return nil
	})
	return hours, err
}

// HourShares reads the parts of the hours of a page or a short link of a workspace, of UTC days
// that the span touches. There are many of a day: a span of months is not read by them.
func (s *Store) HourShares(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]daily.HourShareRow, error) {
	rows, err := s.pool.Query(ctx, `
		select day::text, hour, split, of_key, count from daily_hour_shares join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and endpoint_id = $2 and utc_day between $3 and $4`, workspace, id, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	var row daily.HourShareRow
	var shares []daily.HourShareRow
	_, err = pgx.ForEachRow(rows, []any{&row.Day, &row.Hour, (*string)(&row.Split), &row.Of, &row.Count}, func() error {
		shares = append(shares, row)
		return nil
	})
	return shares, err
}
