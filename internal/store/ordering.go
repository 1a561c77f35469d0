package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
	"jundle/internal/core/pull"
)

// orderedEvery is how often a page is put in order by pull.
const orderedEvery = 24 * time.Hour

// TakePagesToOrder takes at most so many published pages on which something is kept in
// order by pull and that were not put in order for a day. Each comes again a day later.
func (s *Store) TakePagesToOrder(ctx context.Context, most int, now time.Time) ([]Page, error) {
	rows, err := s.pool.Query(ctx, `
		update pages set ordered_at = $1 where id in (
			select id from pages where by_pull and live_edition > 0 and delete_at is null and (ordered_at is null or ordered_at <= $2)
			order by ordered_at nulls first limit $3 for update skip locked)
		returning id, workspace_id`, now, now.Add(-orderedEvery), most)
	if err != nil {
		return nil, err
	}
	var one Page
	var pages []Page
	_, err = pgx.ForEachRow(rows, []any{&one.ID, &one.WorkspaceID}, func() error {
		pages = append(pages, one)
		return nil
	})
	return pages, err
}

// PullCells counts how often blocks of a page of a workspace were shown and clicked at
// their places, by source with all that are unlisted together, since a day, on the days (UTC) on which one edition was live throughout.
func (s *Store) PullCells(ctx context.Context, workspace, id uuid.UUID, since time.Time) ([]pull.Cell, error) {
	rows, err := s.pool.Query(ctx, `
		with days as (
			select day as begins, (
				select number from editions where page_id = $2 and published_at <= day at time zone 'UTC'
				order by published_at desc, number desc limit 1) as edition
			from (select distinct utc_day::timestamp as day from daily_blocks where endpoint_id = $2 and utc_day >= $3::date) known
			where not exists (select from editions where page_id = $2
				and published_at > day at time zone 'UTC' and published_at < (day + interval '1 day') at time zone 'UTC'))
		select days.edition, place, block, case when source like '%:%' then 'unlisted' else source end, sum(reach)::int, sum(takers)::int
		from days join daily_blocks on endpoint_id = $2 and utc_day = begins::date
		join edition_rows on edition_rows.page_id = $2 and edition_rows.edition = days.edition and key = block
		where place > 0 and not exists (select from editions where page_id = $2 and number = days.edition and trial is not null)
			and exists (select from pages where id = $2 and workspace_id = $1)
		group by 1, 2, 3, 4`, workspace, id, since)
	if err != nil {
		return nil, err
	}
	cells, err := pgx.CollectRows(rows, pgx.RowToStructByPos[pull.Cell])
	if err != nil {
		return nil, fmt.Errorf("count clicks by place: %w", err)
	}
	return cells, nil
}

// PutInOrder puts what headings of a page of a workspace keep in order by pull in order.
// It is live at once, as an edition of what is live otherwise, and in the working copy,
// where what waits goes on waiting.
func (s *Store) PutInOrder(ctx context.Context, workspace, id uuid.UUID, pulls map[string]float64, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var locked Page
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).
			Select("id", "draft", "revision", "published_revision", "live_edition", "takeovers").
			Where("id = ? and workspace_id = ?", id, workspace).
			Take(&locked).
			Error
		if err != nil {
			return found(err)
		}
		if len(locked.Draft.ByPull(pulls)) > 0 {
			if locked.PublishedRevision == locked.Revision {
				locked.PublishedRevision++
			}
			locked.Revision++
			if err := tx.Select("draft", "revision", "published_revision").Updates(&locked).Error; err != nil {
				return err
			}
		}
		live, err := liveDocument(tx, workspace, id, locked.LiveEdition)
		if err != nil || live == nil {
			return err
		}
		words := live.ByPull(pulls)
		if len(words) == 0 {
			return nil
		}
		live.Takeovers = page.OfLater(locked.Takeovers, now)
		changes := make([]page.Change, len(words))
		for i, each := range words {
			changes[i] = page.Change{Sentence: each}
		}
		return goLive(tx, Edition{PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, Changes: changes})
	})
}
