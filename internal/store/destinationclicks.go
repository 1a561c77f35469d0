package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/page"
)

// DestinationClicks are clicks on a day that led to a destination: of a block of a page, or of a short
// link, whose block is empty.
type DestinationClicks struct {
	EndpointID uuid.UUID
	Block      string
	// Item is one of several things to press on the block; empty for all of it.
	Item   string
	Title  string // of the block in its edition, or of the item
	Day    string
	Clicks int
}

// ClicksOfDestination are the clicks on what leads to a destination of a workspace, or to one that it stands
// for, from one moment up to another: on blocks that led there in the latest edition that had them, and on
// short links that lead there, and on those of several things on a block that lead there.
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
		select endpoint_id, blocks.key, '', blocks.title, day::text, sum(clicks)::int from daily_blocks
		join blocks on blocks.id = endpoint_id and blocks.key = block
		where utc_day between $3 and $4 group by 1, 2, 4, 5 having sum(clicks) > 0
		union all
		select endpoint_id, '', '', '', day::text, sum(clicks)::int from daily_pages join short_links on short_links.id = endpoint_id
		where workspace_id = $1 and destinations && ids_of_destination($2) and utc_day between $3 and $4
		group by 1, 5 having sum(clicks) > 0`, workspace, id, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	clicks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[DestinationClicks])
	if err != nil {
		return nil, fmt.Errorf("count clicks that led to a destination: %w", err)
	}
	items, err := s.clicksOfItems(ctx, workspace, id, from, to)
	if err != nil {
		return nil, fmt.Errorf("count clicks that led to a destination: %w", err)
	}
	return append(clicks, items...), nil
}

// usedItem is one of several things to press on a block that leads to a destination.
type usedItem struct {
	Endpoint uuid.UUID `json:"endpoint"`
	Block    string    `json:"block"`
	Item     string    `json:"item"`
	Title    string    `json:"title"`
}

// clicksOfItems are the clicks on those of several things on a block that lead to a destination,
// where not all of them do.
func (s *Store) clicksOfItems(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]DestinationClicks, error) {
	used, err := s.usedItems(ctx, workspace, id)
	if err != nil || len(used) == 0 {
		return nil, err
	}
	list, err := json.Marshal(used)
	if err != nil {
		return nil, err
	}
	rows, err := s.pool.Query(ctx, `
		select endpoint_id, daily_items.block, daily_items.item, used.title, day::text, sum(clicks)::int from daily_items
		join jsonb_to_recordset($1) as used (endpoint uuid, block text, item text, title text)
			on used.endpoint = endpoint_id and used.block = daily_items.block and used.item = daily_items.item
		where utc_day between $2 and $3 group by 1, 2, 3, 4, 5 having sum(clicks) > 0`, list, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[DestinationClicks])
}

// usedItems looks through the live editions that lead to a destination, one at a time.
func (s *Store) usedItems(ctx context.Context, workspace, id uuid.UUID) (used []usedItem, err error) {
	var ids []string
	if err := s.pool.QueryRow(ctx, `select ids_of_destination($2) from destinations where workspace_id = $1 and id = $2`, workspace, id).
		Scan(&ids); err != nil {
		if errors.Is(err, pgx.ErrNoRows) {
			return nil, nil
		}
		return nil, err
	}
	rows, err := s.pool.Query(ctx, `
		select pages.id, document from pages join editions on page_id = pages.id and number = live_edition
		where workspace_id = $1 and editions.destinations && $2 limit 100`, workspace, ids)
	if err != nil {
		return nil, err
	}
	var endpoint uuid.UUID
	var document []byte
	_, err = pgx.ForEachRow(rows, []any{&endpoint, &document}, func() error {
		var live page.Document
		if err := json.Unmarshal(document, &live); err != nil {
			return err
		}
		keys := []string{page.IconsKey, page.FooterKey}
		for _, block := range live.Blocks {
			keys = append(keys, block.Key)
		}
		for _, key := range keys {
			for _, target := range leadingThere(live.TargetsOf(key), ids, key != page.IconsKey && key != page.FooterKey) {
				used = append(used, usedItem{endpoint, key, target.Item, target.Name})
			}
		}
		return nil
	})
	return used, err
}

// leadingThere are those of several targets that lead to one of some destinations. Where all do and
// the block is counted as a whole, there are none.
func leadingThere(targets []page.Target, ids []string, whole bool) (some []page.Target) {
	others := false
	for _, target := range targets {
		switch {
		case slices.Contains(ids, target.DestinationID):
			if target.Item != "" {
				some = append(some, target)
			}
		case target.DestinationID != "":
			others = true
		}
	}
	if whole && !others {
		return nil
	}
	return some
}
