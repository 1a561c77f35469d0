package store

import (
	"fmt"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// adopt gives what an unlisted source of a page brought so far to one of its
// sources. The days that have events are summed up anew, which also keeps sums
// that are being made of them at the moment from being kept; of the others only
// the sums are left.
func adopt(tx *gorm.DB, pageID uuid.UUID, key string, to uuid.UUID) error {
	args := map[string]any{"page": pageID, "key": key, "to": to.String()}
	for _, change := range []string{
		`insert into counted_days (endpoint_id, utc_day, due)
			select distinct endpoint_id, (at at time zone 'UTC')::date as utc_day, true from events
			where endpoint_id = @page and source = @key order by utc_day
			on conflict (endpoint_id, utc_day) do update set version = excluded.version, due = true, due_from = excluded.due_from, failures = 0`,
		`update events set source = @to where endpoint_id = @page and source = @key`,
		`update daily_pages set source = @to where endpoint_id = @page and source = @key`,
		`update daily_blocks set source = @to where endpoint_id = @page and source = @key`,
		`update daily_items set source = @to where endpoint_id = @page and source = @key`,
		`update sources set seen_at = (
			select max(at) from events where endpoint_id = @page and source = @to and kind = 'view' and flags = 0
		) where id::text = @to`,
	} {
		if err := tx.Exec(change, args).Error; err != nil {
			return fmt.Errorf("hand visits over: %w", err)
		}
	}
	return nil
}
