package store

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/pull"
	"jundle/internal/core/readings"
	"jundle/internal/core/traffic"
)

// withoutScrolls takes out of events those that tell how far an opening of a page got.
func withoutScrolls(events []Event) (others, scrolls []Event) {
	for _, event := range events {
		if event.Kind == traffic.Scroll {
			scrolls = append(scrolls, event)
		}
	}
	if len(scrolls) == 0 {
		return events, nil
	}
	others = slices.DeleteFunc(slices.Clone(events), func(event Event) bool { return event.Kind == traffic.Scroll })
	return others, scrolls
}

// addScrolls counts how far openings of pages got. There is nothing that tells one from another, so that one which is
// delivered twice, as after a process was killed, counts twice.
func addScrolls(ctx context.Context, tx pgx.Tx, scrolls []Event) error {
	if len(scrolls) == 0 {
		return nil
	}
	var pages []uuid.UUID
	var ats []time.Time
	var editions []int32
	var blocks []string
	for _, event := range scrolls {
		pages, ats = append(pages, event.EndpointID), append(ats, event.At)
		editions, blocks = append(editions, int32(event.Edition)), append(blocks, event.Block)
	}
	_, err := tx.Exec(ctx, `
		with there as (select id, workspace_id from endpoints where id = any($1) order by id for key share)
		insert into daily_scrolls (endpoint_id, day, edition, block, count)
		select there.id, (at at time zone zone)::date, edition, block, count(*)
		from unnest($1::uuid[], $2::timestamptz[], $3::int[], $4::text[]) as told (id, at, edition, block)
		join there using (id) join workspaces on workspaces.id = workspace_id
		group by 1, 2, 3, 4 order by 1, 2, 3, 4
		on conflict (endpoint_id, day, edition, block) do update set count = daily_scrolls.count + excluded.count`,
		pages, ats, editions, blocks)
	if err != nil {
		return fmt.Errorf("count how far visits got: %w", err)
	}
	return nil
}

// ScreenShares are the shares of openings of a page of a workspace that had each block on screen, by block, of those in a
// span that told how far they got.
func (s *Store) ScreenShares(ctx context.Context, workspace, id uuid.UUID, span readings.Span) (map[string]readings.Rate, error) {
	depths, standings, err := s.depths(ctx, workspace, id, span.Date(0), span.Date(span.Len()-1))
	return readings.ScreenShares(depths, standings), err
}

// Looks is how often each place of a page of a workspace was on screen since a day, from the first place on, whatever stood
// there; none where that was not measured.
func (s *Store) Looks(ctx context.Context, workspace, id uuid.UUID, since time.Time) ([]pull.Look, error) {
	depths, standings, err := s.depths(ctx, workspace, id, since.Format(time.DateOnly), "infinity")
	if err != nil || len(depths) == 0 {
		return nil, err
	}
	most := 0
	for i, standing := range standings {
		standings[i].Block = strconv.Itoa(standing.Place)
		most = max(most, standing.Place)
	}
	shares := readings.ScreenShares(depths, standings)
	looks := make([]pull.Look, most)
	for i := range looks {
		share := shares[strconv.Itoa(i+1)]
		looks[i] = pull.Look{Seen: share.Taken, Of: share.Of}
	}
	return looks, nil
}

// depths are how far openings of a page of a workspace got from a day to another, and where blocks stood on its editions of
// that time.
func (s *Store) depths(ctx context.Context, workspace, id uuid.UUID, from, to string) ([]readings.Depth, []readings.Standing, error) {
	rows, err := s.pool.Query(ctx, `
		select edition, place, sum(count)::int from daily_scrolls join endpoints on endpoints.id = endpoint_id
		join edition_rows using (edition) where page_id = endpoint_id and key = block and place > 0
			and workspace_id = $1 and endpoint_id = $2 and day between $3::date and $4::date
		group by 1, 2`, workspace, id, from, to)
	if err != nil {
		return nil, nil, err
	}
	depths, err := pgx.CollectRows(rows, pgx.RowToStructByPos[readings.Depth])
	if err != nil || len(depths) == 0 {
		return nil, nil, err
	}
	var editions []int32
	for _, depth := range depths {
		if number := int32(depth.Edition); !slices.Contains(editions, number) {
			editions = append(editions, number)
		}
	}
	rows, err = s.pool.Query(ctx, `
		select edition, place, key from edition_rows where page_id = $1 and edition = any($2) and place > 0`, id, editions)
	if err != nil {
		return nil, nil, err
	}
	standings, err := pgx.CollectRows(rows, pgx.RowToStructByPos[readings.Standing])
	return depths, standings, err
}
