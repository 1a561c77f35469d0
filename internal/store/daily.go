package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"jundle/internal/core/daily"
	"jundle/internal/core/traffic"
)

// Due is a UTC day of a page whose sums no longer hold.
type Due struct {
	PageID  uuid.UUID
	Unit    time.Time
	Version int64
}

// DueDays lists at most limit days that are due, oldest first.
func (s *Store) DueDays(ctx context.Context, limit int) ([]Due, error) {
	rows, err := s.pool.Query(ctx, "select page_id, unit, version from daily_due order by unit, page_id limit $1", limit)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Due])
}

// EventsOfDay returns the events of one page on one UTC day.
func (s *Store) EventsOfDay(ctx context.Context, pageID uuid.UUID, unit time.Time) ([]traffic.Event, error) {
	rows, err := s.pool.Query(ctx, selectEvents+"where page_id = $1 and at >= $2 and at < $3", pageID, unit, unit.AddDate(0, 0, 1))
	if err != nil {
		return nil, err
	}
	return collectEvents(rows)
}

// KeepDay keeps the sums of a day in place of those before, unless the day has
// changed since they were made: then it reports false and keeps nothing.
func (s *Store) KeepDay(ctx context.Context, due Due, sheet daily.Sheet) (kept bool, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		done, err := tx.Exec(ctx, "delete from daily_due where page_id = $1 and unit = $2 and version = $3", due.PageID, due.Unit, due.Version)
		if err != nil || done.RowsAffected() == 0 {
			return err
		}
		kept = true
		return replaceDay(ctx, tx, due.PageID, due.Unit, sheet)
	})
	return kept && err == nil, err
}

func replaceDay(ctx context.Context, tx pgx.Tx, pageID uuid.UUID, unit time.Time, sheet daily.Sheet) error {
	var batch pgx.Batch
	for _, table := range []string{"daily_pages", "daily_blocks", "daily_left_out"} {
		batch.Queue("delete from "+table+" where page_id = $1 and unit = $2", pageID, unit)
	}
	for _, row := range sheet.Pages {
		batch.Queue("insert into daily_pages values ($1, $2, $3::text::date, $4, $5, $6, $7, $8, $9, $10, $11)",
			pageID, unit, row.Day, row.Source, string(row.Evidence), string(row.Device), row.Views, row.Visits, row.Visitors, row.Clicks, row.ClickedVisits)
	}
	for _, row := range sheet.Blocks {
		batch.Queue("insert into daily_blocks values ($1, $2, $3::text::date, $4, $5, $6, $7, $8, $9)",
			pageID, unit, row.Day, row.Block, row.Source, string(row.Device), row.Clicks, row.Takers, row.Reach)
	}
	for _, row := range sheet.LeftOut {
		batch.Queue("insert into daily_left_out values ($1, $2, $3::text::date, $4, $5, $6)", pageID, unit, row.Day, row.Reason, row.Views, row.Clicks)
	}
	return tx.SendBatch(ctx, &batch).Close()
}

// Figures are what is known of a page or a short link over some days: sums that
// are kept, and the events of UTC days that are not summed up yet.
type Figures struct {
	Sheet daily.Sheet
	// Waiting holds the events of each day that is due.
	Waiting [][]traffic.Event
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
		if err := tx.QueryRow(ctx, "select count(*) from counted where workspace_id = $1 and id = any($2)", workspace, ids).Scan(&owned); err != nil {
			return err
		}
		if owned != len(figures) {
			return ErrNotFound
		}
		if err := keptSheets(ctx, tx, figures, ids, first, last); err != nil {
			return err
		}
		return waitingEvents(ctx, tx, figures, ids, first, last)
	})
	return figures, err
}

// keptDays limits rows to those of days that hold.
const keptDays = ` kept where page_id = any($1) and unit between $2 and $3
	and not exists (select from daily_due where daily_due.page_id = kept.page_id and daily_due.unit = kept.unit)`

func keptSheets(ctx context.Context, tx pgx.Tx, figures map[uuid.UUID]*Figures, ids []uuid.UUID, first, last time.Time) error {
	var id uuid.UUID
	var p daily.PageRow
	err := eachRow(ctx, tx, "select page_id, day::text, source, evidence, device, views, visits, visitors, clicks, clicked_visits from daily_pages"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &p.Day, &p.Source, (*string)(&p.Evidence), (*string)(&p.Device), &p.Views, &p.Visits, &p.Visitors, &p.Clicks, &p.ClickedVisits},
		func() { figures[id].Sheet.Pages = append(figures[id].Sheet.Pages, p) })
	if err != nil {
		return err
	}
	var b daily.BlockRow
	err = eachRow(ctx, tx, "select page_id, day::text, block, source, device, clicks, takers, reach from daily_blocks"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &b.Day, &b.Block, &b.Source, (*string)(&b.Device), &b.Clicks, &b.Takers, &b.Reach},
		func() { figures[id].Sheet.Blocks = append(figures[id].Sheet.Blocks, b) })
	if err != nil {
		return err
	}
	var l daily.LeftOutRow
	return eachRow(ctx, tx, "select page_id, day::text, reason, views, clicks from daily_left_out"+keptDays,
		[]any{ids, first, last},
		[]any{&id, &l.Day, &l.Reason, &l.Views, &l.Clicks},
		func() { figures[id].Sheet.LeftOut = append(figures[id].Sheet.LeftOut, l) })
}

func eachRow(ctx context.Context, tx pgx.Tx, query string, args, into []any, take func()) error {
	rows, err := tx.Query(ctx, query, args...)
	if err != nil {
		return err
	}
	_, err = pgx.ForEachRow(rows, into, func() error { take(); return nil })
	return err
}

func waitingEvents(ctx context.Context, tx pgx.Tx, figures map[uuid.UUID]*Figures, ids []uuid.UUID, first, last time.Time) error {
	rows, err := tx.Query(ctx, selectEvents+`
		join daily_due on daily_due.page_id = events.page_id and at >= daily_due.unit::timestamp at time zone 'UTC' and at < (daily_due.unit + 1)::timestamp at time zone 'UTC'
		where events.page_id = any($1) and unit between $2 and $3 and at >= $4::timestamptz and at < $5::timestamptz`, ids, first, last, first, last.AddDate(0, 0, 1))
	if err != nil {
		return err
	}
	byID, err := collectEventsByID(rows)
	if err != nil {
		return fmt.Errorf("read events that are not summed up: %w", err)
	}
	for id, events := range byID {
		figures[id].Waiting = daily.ByUTCDay(events)
	}
	return nil
}

// adopt gives what an unlisted source of a page brought so far to one of its
// sources. The days that have events are summed up anew, which also keeps sums
// that are being made of them at the moment from being kept; of the others only
// the sums are left.
func adopt(tx *gorm.DB, pageID uuid.UUID, key string, to uuid.UUID) error {
	args := map[string]any{"page": pageID, "key": key, "to": to.String()}
	for _, change := range []string{
		`insert into daily_due (page_id, unit)
			select distinct page_id, (at at time zone 'UTC')::date as unit from events where page_id = @page and source = @key order by unit
			on conflict (page_id, unit) do update set version = excluded.version`,
		`update events set source = @to where page_id = @page and source = @key`,
		`update daily_pages set source = @to where page_id = @page and source = @key`,
		`update daily_blocks set source = @to where page_id = @page and source = @key`,
		`update sources set seen_at = (select max(at) from events where page_id = @page and source = @to and kind = 'view' and flags = 0) where id::text = @to`,
	} {
		if err := tx.Exec(change, args).Error; err != nil {
			return fmt.Errorf("hand visits over: %w", err)
		}
	}
	return nil
}
