package store

import (
	"context"
	"encoding/json"
	"fmt"
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
	// Item is one of several things to press on the block; empty where there is but one.
	Item  string
	Title string // of the block in the latest edition that had it, or of the item where it is still on the page
	// Address is where they led at that moment.
	Address string
	Day     string
	Clicks  int
}

// ClicksOfDestination are the clicks that led to a destination of a workspace, or to one that it stands for, from one
// moment up to another: each led there when it was made, wherever what was pressed leads now.
func (s *Store) ClicksOfDestination(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]DestinationClicks, error) {
	rows, err := s.pool.Query(ctx, `
		select endpoint_id, case when short_links.id is null then block else '' end, item, coalesce(title, ''), address, day::text,
			sum(clicks)::int
		from daily_targets join click_targets on click_targets.id = click_target_id left join short_links on short_links.id = endpoint_id
		left join lateral (
			select title from edition_rows where page_id = endpoint_id and key = block order by edition desc limit 1) latest on true
		where click_targets.workspace_id = $1 and utc_day between $3 and $4 and destination_id in (
			select id from destinations where workspace_id = $1 and $2 in (id, merged_into))
		group by 1, 2, 3, 4, 5, 6 having sum(clicks) > 0`, workspace, id, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	clicks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[DestinationClicks])
	if err != nil {
		return nil, fmt.Errorf("count clicks that led to a destination: %w", err)
	}
	return clicks, s.nameItems(ctx, clicks)
}

// nameItems calls items what the live editions of their pages call them, which are read one at a time.
func (s *Store) nameItems(ctx context.Context, clicks []DestinationClicks) error {
	var ids []uuid.UUID
	for _, each := range clicks {
		if each.Item != "" {
			ids = append(ids, each.EndpointID)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	rows, err := s.pool.Query(ctx, `
		select pages.id, document from pages join editions on page_id = pages.id and number = live_edition where pages.id = any($1)`, ids)
	if err != nil {
		return err
	}
	var endpoint uuid.UUID
	var text []byte
	_, err = pgx.ForEachRow(rows, []any{&endpoint, &text}, func() error {
		var live page.Document
		if err := json.Unmarshal(text, &live); err != nil {
			return err
		}
		for i := range clicks {
			each := &clicks[i]
			if each.EndpointID != endpoint || each.Item == "" {
				continue
			}
			for _, target := range live.TargetsOf(each.Block) {
				if target.Item == each.Item {
					each.Title = target.Name
				}
			}
		}
		return nil
	})
	if err != nil {
		return fmt.Errorf("name what led to a destination: %w", err)
	}
	return nil
}

// ClicksOfAddress are the clicks of a workspace on a day that led to where an address leads.
type ClicksOfAddress struct {
	Key    string // of the address, as address.Key writes it
	Day    string
	Clicks int
}

// ClicksOfAddresses are the clicks of all pages and short links of a workspace that led to addresses, by their keys, from
// one moment up to another. They led there when they were made.
func (s *Store) ClicksOfAddresses(ctx context.Context, workspace uuid.UUID, keys []string, from, to time.Time) ([]ClicksOfAddress, error) {
	rows, err := s.pool.Query(ctx, `
		select address_key, day::text, sum(clicks)::int from click_targets join daily_targets on click_target_id = click_targets.id
		where workspace_id = $1 and md5(address_key) in (select md5(key) from unnest($2::text[]) as key) and utc_day between $3 and $4
		group by 1, 2 having sum(clicks) > 0`, workspace, keys, daily.UTCDay(from), daily.UTCDay(to))
	if err != nil {
		return nil, err
	}
	clicks, err := pgx.CollectRows(rows, pgx.RowToStructByPos[ClicksOfAddress])
	if err != nil {
		return nil, fmt.Errorf("count clicks by where they led: %w", err)
	}
	return clicks, nil
}
