package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
)

// DestinationClicks are clicks on a day that led to a destination: of a block of a page, or of a short
// link, whose block is empty.
type DestinationClicks struct {
	EndpointID uuid.UUID
	Block      string
	Title      string // of the block in its edition
	Day        string
	Clicks     int
}

// ClicksOfDestination are the clicks on what leads to a destination of a workspace, or to one that it stands
// for, from one moment up to another: on blocks that led there in the latest edition that had them, and on
// short links that lead there. Blocks with several targets are left out: their sums are of all of them.
func (s *Store) ClicksOfDestination(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]DestinationClicks, error) {
	rows, err := s.pool.Query(ctx, `
		with used as (
			select pages.id, number from pages join editions on page_id = pages.id and number = live_edition
			where workspace_id = $1 and editions.destinations && ids_of_destination($2) and exists (
				select from destinations where workspace_id = $1 and id = $2) limit 100),
		blocks as (
			select used.id, block->>'key' as key, coalesce(title, '') as title
			from used join editions on editions.page_id = used.id and editions.number = used.number
			cross join lateral jsonb_array_elements(document->'blocks') as listed (block)
			left join edition_rows on edition_rows.page_id = used.id and edition = editions.number and key = block->>'key'
			where destinations_in(block - 'to') <> '{}' and destinations_in(block - 'to') <@ ids_of_destination($2))
		select endpoint_id, blocks.key, blocks.title, day::text, sum(clicks)::int from daily_blocks
		join blocks on blocks.id = endpoint_id and blocks.key = block
		where utc_day between $3 and $4 group by 1, 2, 3, 4 having sum(clicks) > 0
		union all
		select endpoint_id, '', '', day::text, sum(clicks)::int from daily_pages join short_links on short_links.id = endpoint_id
		where workspace_id = $1 and destinations && ids_of_destination($2) and utc_day between $3 and $4
		group by 1, 4 having sum(clicks) > 0`, workspace, id, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	clicks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[DestinationClicks])
	if err != nil {
		return nil, fmt.Errorf("count clicks that led to a destination: %w", err)
	}
	return clicks, nil
}
