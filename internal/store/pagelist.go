package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/core/readings"
	"jundle/internal/core/window"
)

// ListedPage is a page without what stands on it.
type ListedPage struct {
	ID          uuid.UUID
	Address     string
	Name        string
	Picture     *picture.Picture
	Labels      []string
	LiveEdition int
	// Edited: the working copy was saved after it was published last.
	Edited bool
	// Empty: it has no block and was never published.
	Empty bool
	// Resting and Open are those of what visitors see.
	Resting   *page.Resting
	Open      *window.Times
	Takeovers []page.Takeover
	DeleteAt  *time.Time
	// Visits and Clicks are those counted in a span of days.
	Visits, Clicks int
}

// ListPages lists the pages of a workspace, oldest first, with what was counted in a span.
// Documents are left in the database, and so are the rows of sums.
func (s *Store) ListPages(ctx context.Context, workspace uuid.UUID, span readings.Span) ([]ListedPage, error) {
	rows, err := s.pool.Query(ctx, `
		select pages.id, address, coalesce(draft->'header'->>'name', ''), draft->'header'->'picture', labels, live_edition,
			revision > published_revision, jsonb_array_length(draft->'blocks') = 0 and live_edition = 0,
			timetable->'resting', timetable->'open', takeovers, delete_at, coalesce(counted.visits, 0), coalesce(counted.clicks, 0)
		from pages join addresses on addresses.endpoint_id = pages.id and present
			left join editions on editions.page_id = pages.id and number = live_edition
			left join lateral (
				select sum(visits)::int as visits, sum(clicks)::int as clicks from daily_pages
				where daily_pages.endpoint_id = pages.id and utc_day between $2 and $3 and day between $4::date and $5::date
			) counted on true
		where workspace_id = $1 order by created_at, pages.id`,
		workspace, daily.UTCDay(span.From()), daily.UTCDay(span.To()), span.Date(0), span.Date(span.Len()-1))
	if err != nil {
		return nil, err
	}
	var listed []ListedPage
	var one ListedPage
	_, err = pgx.ForEachRow(rows, []any{
		&one.ID, &one.Address, &one.Name, &one.Picture, &one.Labels, &one.LiveEdition, &one.Edited, &one.Empty,
		&one.Resting, &one.Open, &one.Takeovers, &one.DeleteAt, &one.Visits, &one.Clicks,
	}, func() error {
		listed, one = append(listed, one), ListedPage{}
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("list pages: %w", err)
	}
	return listed, nil
}

// SetPageLabels replaces the labels of a page of a workspace.
func (s *Store) SetPageLabels(ctx context.Context, workspace, id uuid.UUID, labels []string) error {
	done := s.db.WithContext(ctx).Model(&Page{}).Where("id = ? and workspace_id = ?", id, workspace).
		Select("labels").Updates(&Page{Labels: labels})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}
