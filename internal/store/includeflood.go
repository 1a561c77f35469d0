package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/traffic"
)

// IncludeFlood takes the flag off events of a page of a workspace that were beyond the budget of one network, from a
// moment up to another, and leaves their days to be counted anew. It says how many there were. Those of days whose raw
// events are deleted stay as they are.
func (s *Store) IncludeFlood(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) (included int64, err error) {
	for day := daily.UTCDay(from); day.Before(to); day = day.AddDate(0, 0, 1) {
		err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
			var any bool
			err := tx.QueryRow(ctx, `
				select exists (select from counted_days join endpoints on endpoints.id = endpoint_id
					where endpoint_id = $1 and utc_day = $2 and workspace_id = $3)`, pageID, day, workspace).Scan(&any)
			if err != nil || !any {
				return err
			}
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
