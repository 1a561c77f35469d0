package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// ChangeZone gives a workspace another time zone. Days whose raw events are there
// are summed up anew by it; the others stay as they were counted.
func (s *Store) ChangeZone(ctx context.Context, workspace uuid.UUID, zone string) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		// Nobody adds to sums by the zone of before from here on.
		if _, err := tx.Exec(ctx, "select from endpoints where workspace_id = $1 order by id for no key update", workspace); err != nil {
			return err
		}
		// Seven in the morning stays seven in the morning.
		_, err := tx.Exec(ctx, `
			update memberships set weekly_letter_at = (weekly_letter_at at time zone workspaces.zone) at time zone $2
			from workspaces where workspaces.id = workspace_id and workspace_id = $1`, workspace, zone)
		if err != nil {
			return err
		}
		changed, err := tx.Exec(ctx, "update workspaces set zone = $2 where id = $1 and zone <> $2", workspace, zone)
		if err != nil || changed.RowsAffected() == 0 {
			return err
		}
		_, err = tx.Exec(ctx, `
			update counted_days set due = true, due_from = now(), failures = 0, version = nextval('daily_versions')
			from endpoints where endpoints.id = endpoint_id and workspace_id = $1 and exists (
				select from events where events.endpoint_id = counted_days.endpoint_id and (at at time zone 'UTC')::date = utc_day)`, workspace)
		if err != nil {
			return fmt.Errorf("have days counted by another zone: %w", err)
		}
		return nil
	})
}

// EventsFrom is the first UTC day of which a workspace has raw events; zero when it
// has none.
func (s *Store) EventsFrom(ctx context.Context, workspace uuid.UUID) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select min(day) from endpoints cross join lateral (
			select (at at time zone 'UTC')::date as day from events where endpoint_id = endpoints.id order by 1 limit 1
		) first where workspace_id = $1`, workspace).Scan(&first)
	if err != nil || first == nil {
		return time.Time{}, err
	}
	return *first, nil
}
