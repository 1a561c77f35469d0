package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/traffic"
)

// IncludeFlood takes the flag off events of a page of a workspace that were beyond the budget of one network, from a
// moment up to another, and leaves their days to be counted anew. It says how many there were. Those of days whose raw
// events are deleted stay as they are.
func (s *Store) IncludeFlood(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) (included int64, err error) {
	// Only days on which there was any: a range may be ten years.
	rows, err := s.pool.Query(ctx, `
		select distinct (at at time zone 'UTC')::date from events join endpoints on endpoints.id = endpoint_id
		where endpoint_id = $1 and workspace_id = $2 and at >= $3 and at < $4 and flags & $5::int <> 0 order by 1`,
		pageID, workspace, from, to, int(traffic.Flood))
	if err != nil {
		return 0, err
	}
	days, err := pgx.CollectRows(rows, pgx.RowTo[time.Time])
	if err != nil {
		return 0, fmt.Errorf("find visits that were beyond a budget: %w", err)
	}
	for _, day := range days {
		err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
			if err := markDue(ctx, tx, Day{pageID, day}); err != nil {
				return err
			}
			done, err := tx.Exec(ctx, `
				update events set flags = flags & ~$5::int
				where `+ofDay+` and at >= $3 and at < $4 and flags & $5::int <> 0`, pageID, day, from, to, int(traffic.Flood))
			included += done.RowsAffected()
			return err
		})
		if err != nil {
			return included, fmt.Errorf("include visits that were beyond a budget: %w", err)
		}
	}
	return included, nil
}
