package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
)

// Unit is one UTC day of a page.
type Unit struct {
	PageID uuid.UUID
	Day    time.Time
}

// UnitsWithEvents lists every day of every page that has raw events, page by
// page.
func (s *Store) UnitsWithEvents(ctx context.Context) ([]Unit, error) {
	rows, err := s.pool.Query(ctx, `
		select distinct page_id, (at at time zone 'UTC')::date as day from events
		join counted on counted.id = events.page_id order by page_id, day`)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Unit])
}

// RecountUnit puts every event of a day through decide, stores what that
// changed, and leaves the day due.
func (s *Store) RecountUnit(ctx context.Context, unit Unit, decide func(Event) Event) (changed int, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		rows, err := tx.Query(ctx, `
			select id, at, page_id, source, evidence, tag, utm_source, utm_medium, utm_campaign, utm_term, utm_content, referrer, user_agent, flags, rules
			from events where page_id = $1 and at >= $2 and at < $3 for update`, unit.PageID, unit.Day, unit.Day.AddDate(0, 0, 1))
		if err != nil {
			return err
		}
		events, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (e Event, err error) {
			return e, row.Scan(&e.ID, &e.At, &e.PageID, &e.Source, (*string)(&e.By), &e.Tag, &e.Campaign.Source, &e.Campaign.Medium, &e.Campaign.Campaign,
				&e.Campaign.Term, &e.Campaign.Content, &e.Referrer, &e.UserAgent, &e.Flags, &e.Rules)
		})
		if err != nil {
			return err
		}
		var batch pgx.Batch
		for _, before := range events {
			if after := decide(before); after != before {
				changed++
				batch.Queue("update events set source = $3, evidence = $4, flags = $5, rules = $6 where id = $1 and at = $2",
					after.ID, after.At, after.Source, string(after.By), int(after.Flags), after.Rules)
			}
		}
		if err := tx.SendBatch(ctx, &batch).Close(); err != nil {
			return err
		}
		return markDue(ctx, tx, []Event{{PageID: unit.PageID, At: daily.UTCDay(unit.Day)}})
	})
	return changed, err
}
