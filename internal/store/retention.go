package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
)

// Prune deletes the raw events that are older than their workspace keeps them,
// whole UTC days at a time, and returns how many. Days that are due are summed up
// first, by whoever does that; until then their events stay. Parts of the table that
// nobody keeps anything in are dropped. What fails for one page does not keep back
// the others.
func (s *Store) Prune(ctx context.Context, now time.Time) (int64, error) {
	rows, err := s.pool.Query(ctx, `
		select endpoints.id, workspaces.keep_days from endpoints join workspaces on workspaces.id = endpoints.workspace_id
		where exists (select from events where endpoint_id = endpoints.id
			and (at at time zone 'UTC')::date < (($1::timestamptz - workspaces.keep_days * interval '1 day') at time zone 'UTC')::date)
		order by endpoints.id`, now)
	if err != nil {
		return 0, err
	}
	type kept struct {
		ID   uuid.UUID
		Days int
	}
	pages, err := pgx.CollectRows(rows, pgx.RowToStructByPos[kept])
	if err != nil {
		return 0, err
	}
	var deleted int64
	var failed []error
	for _, page := range pages {
		n, err := s.prunePage(ctx, page.ID, daily.UTCDay(now.AddDate(0, 0, -page.Days)))
		if err != nil {
			failed = append(failed, fmt.Errorf("delete events of %s that are over: %w", page.ID, err))
		}
		deleted += n
	}
	failed = append(failed, s.dropPartitions(ctx, now), s.forgetBusyVisitors(ctx, now),
		s.forgetUserAgents(ctx, now))
	return deleted, errors.Join(failed...)
}

// forgetBusyVisitors forgets what busy visitors brought to days that are long over.
// Should anything of them still arrive, their day is summed up anew.
func (s *Store) forgetBusyVisitors(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from busy_visitors where utc_day < $1 and due is null", daily.UTCDay(now).AddDate(0, 0, -3))
	return err
}

func (s *Store) prunePage(ctx context.Context, pageID uuid.UUID, before time.Time) (deleted int64, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		// Nothing of these days is recorded from here on, so none becomes due.
		if _, err := tx.Exec(ctx, "update endpoints set pruned_before = greatest(pruned_before, $2) where id = $1", pageID, before); err != nil {
			return err
		}
		done, err := tx.Exec(ctx, `
			delete from events where endpoint_id = $1 and (at at time zone 'UTC')::date < $2 and at < $2
			and not exists (
				select from counted_days where due and counted_days.endpoint_id = $1 and utc_day = (events.at at time zone 'UTC')::date)`,
			pageID, before)
		deleted = done.RowsAffected()
		return err
	})
	return deleted, err
}

// KeepDays sets for how many days a workspace keeps raw events.
func (s *Store) KeepDays(ctx context.Context, workspace uuid.UUID, days int) error {
	return s.db.WithContext(ctx).Model(&Workspace{}).Where("id = ?", workspace).Update("keep_days", days).Error
}
