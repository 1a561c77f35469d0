package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// DaysWithEvents lists every day of every page and short link that has raw events,
// page by page.
func (s *Store) DaysWithEvents(ctx context.Context) ([]Day, error) {
	rows, err := s.pool.Query(ctx, `
		select distinct endpoint_id, (at at time zone 'UTC')::date as utc_day from events
		join endpoints on endpoints.id = events.endpoint_id order by endpoint_id, utc_day`)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Day])
}

// recountedTogether is how many events are held at one time while a day is decided
// anew.
const recountedTogether = 5000

// RecountDay puts every event of a day through decide, stores what that changed,
// and leaves the day due.
func (s *Store) RecountDay(ctx context.Context, day Day, decide func(Event) Event) (changed int, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if err := markDue(ctx, tx, day); err != nil {
			return err
		}
		var after uuid.UUID
		for {
			events, err := eventsToRecount(ctx, tx, day, after)
			if err != nil || len(events) == 0 {
				return err
			}
			after = events[len(events)-1].ID
			var batch pgx.Batch
			for _, before := range events {
				if now := decide(before); now != before {
					changed++
					batch.Queue(
						"update events set source = $3, evidence = $4, flags = $5, rules = $6, paid = $7 where id = $1 and at = $2",
						now.ID,
						now.At,
						now.Source,
						string(now.By),
						int(now.Flags),
						now.Rules,
						now.Paid,
					)
				}
			}
			if err := tx.SendBatch(ctx, &batch).Close(); err != nil {
				return err
			}
		}
	})
	return changed, err
}

// eventsToRecount reads some events of a day, by their IDs, after one.
func eventsToRecount(ctx context.Context, tx pgx.Tx, day Day, after uuid.UUID) ([]Event, error) {
	rows, err := tx.Query(ctx, `
		select events.id, at, endpoint_id, source, evidence, tag, utm_source, utm_medium, utm_campaign, utm_term, utm_content, referrer,
			coalesce(user_agents.text, ''), flags, rules, paid
		from events left join user_agents on user_agents.id = user_agent_id
		where `+ofDay+` and events.id > $3 order by events.id limit $4`, day.EndpointID, day.UTCDay, after, recountedTogether)
	if err != nil {
		return nil, err
	}
	events, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (e Event, err error) {
		return e, row.Scan(&e.ID, &e.At, &e.EndpointID, &e.Source, (*string)(&e.By), &e.Tag, &e.Campaign.Source, &e.Campaign.Medium,
			&e.Campaign.Campaign, &e.Campaign.Term, &e.Campaign.Content, &e.Referrer, &e.UserAgent, &e.Flags, &e.Rules, &e.Paid)
	})
	if err != nil {
		return nil, fmt.Errorf("read events to be decided anew: %w", err)
	}
	return events, nil
}
