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

// LeftOutEvent is an event that is kept and not counted.
type LeftOutEvent struct {
	At        time.Time
	Kind      traffic.Kind
	Block     string
	Source    string
	UserAgent string
	Flags     traffic.Flags
}

// leftOutDays is how many UTC days are looked through for events that were left out.
const leftOutDays = 7

// LeftOut lists events of a page of a workspace that were left out for what stands with them, latest
// first, in the last days before a time; repeats are found as figures are made, and are not among them.
func (s *Store) LeftOut(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time, most int) ([]LeftOutEvent, error) {
	all := []LeftOutEvent{}
	last, first := daily.UTCDay(to.Add(-time.Nanosecond)), daily.UTCDay(from)
	if earliest := last.AddDate(0, 0, 1-leftOutDays); first.Before(earliest) {
		first = earliest
	}
	for day := last; len(all) < most && !day.Before(first); day = day.AddDate(0, 0, -1) {
		rows, err := s.pool.Query(ctx, `
			select at, kind, block, source, coalesce(user_agents.text, ''), flags from events
			join endpoints on endpoints.id = events.endpoint_id left join user_agents on user_agents.id = user_agent_id
			where `+ofDay+` and workspace_id = $3 and flags <> 0 and at >= $4 and at < $5 order by at desc, events.id limit $6`,
			pageID, day, workspace, from, to, most-len(all))
		if err != nil {
			return nil, err
		}
		some, err := pgx.CollectRows(rows, pgx.RowToStructByPos[LeftOutEvent])
		if err != nil {
			return nil, fmt.Errorf("list what was left out: %w", err)
		}
		all = append(all, some...)
	}
	return all, nil
}
