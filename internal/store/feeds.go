package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"jundle/internal/core/feed"
	"jundle/internal/core/page"
)

const (
	// FeedsKept is how many feeds a workspace can take in.
	FeedsKept = 20
	// unusedAgain is when a feed that no page shows is looked at again, and unusedKept for
	// how long it is kept.
	unusedAgain = 6 * time.Hour
	unusedKept  = 30 * 24 * time.Hour
	// justKept is for how long a picture stays that somebody may be about to use.
	justKept = 10 * time.Minute
	// feedTaken is for how long a feed is left to who took it to be asked.
	feedTaken = 10 * time.Minute
)

// Feed is a feed that a workspace takes in, as it was read last.
type Feed struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Address     string
	Title       string
	Items       []feed.Item `gorm:"serializer:json"`
	// Etag and Modified are what its last answer is told from another by (RFC 9110 s8.8).
	Etag     string
	Modified string
	AskedAt  time.Time
	ReadAt   time.Time
	DueAt    time.Time
	UsedAt   time.Time
	Failures int
	Problem  string
}

// FeedAt is the feed of a workspace from an address; ErrNotFound.
func (s *Store) FeedAt(ctx context.Context, workspace uuid.UUID, address string) (Feed, error) {
	var one Feed
	err := s.db.WithContext(ctx).Where("workspace_id = ? and address = ?", workspace, address).Take(&one).Error
	return one, found(err)
}

// Feed is a feed of a workspace; ErrNotFound.
func (s *Store) Feed(ctx context.Context, workspace, id uuid.UUID) (Feed, error) {
	var one Feed
	err := s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Take(&one).Error
	return one, found(err)
}

// FeedProblems are what was wrong with feeds of a workspace when they were asked last, by
// their IDs; empty for nothing.
func (s *Store) FeedProblems(ctx context.Context, workspace uuid.UUID, ids []string) (map[string]string, error) {
	var rows []Feed
	err := s.db.WithContext(ctx).Select("id, problem").Where("workspace_id = ? and id in ?", workspace, ids).Find(&rows).Error
	problems := make(map[string]string, len(rows))
	for _, row := range rows {
		problems[row.ID.String()] = row.Problem
	}
	return problems, err
}

// AddFeed takes in a feed. One that is there already is answered as it is. A *QuotaError
// when the workspace has as many as it may.
func (s *Store) AddFeed(ctx context.Context, one Feed) (Feed, error) {
	one.ID, one.Items = newID(), append([]feed.Item{}, one.Items...)
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, one.WorkspaceID); err != nil {
			return err
		}
		var there Feed
		err := tx.Where("workspace_id = ? and address = ?", one.WorkspaceID, one.Address).Limit(1).Find(&there).Error
		if err != nil || there.ID != uuid.Nil {
			one = there
			return err
		}
		full := &QuotaError{What: "You have %d feeds", Instead: "Take one off your pages; it is forgotten a month later."}
		if err := room(tx, FeedsKept, full, "select count(*) from feeds where workspace_id = ?", one.WorkspaceID); err != nil {
			return err
		}
		return tx.Create(&one).Error
	})
	return one, err
}

// TakeDueFeeds takes at most so many feeds to be asked, the longest due first: those that a
// working copy or a live page shows. Each comes again after ten minutes unless KeepFeed says
// otherwise. Feeds that nothing shows are put off, and deleted after a month.
func (s *Store) TakeDueFeeds(ctx context.Context, now time.Time, most int) ([]Feed, error) {
	var due []Feed
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var rows []struct {
			Feed
			Used bool
		}
		err := tx.Raw(`
			select feeds.*, exists (
				select from pages left join editions on editions.page_id = pages.id and editions.number = pages.live_edition
				where pages.workspace_id = feeds.workspace_id and (shows_feed(pages.draft, feeds.id) or shows_feed(editions.document, feeds.id))
			) used
			from feeds where due_at <= @now order by due_at limit @most for update of feeds skip locked`,
			map[string]any{"now": now, "most": most}).Scan(&rows).Error
		if err != nil {
			return err
		}
		used, idle := []uuid.UUID{}, []uuid.UUID{}
		for _, row := range rows {
			if !row.Used {
				idle = append(idle, row.ID)
				continue
			}
			used = append(used, row.ID)
			due = append(due, row.Feed)
		}
		if err := tx.Exec("update feeds set due_at = ?, used_at = ? where id in ?", now.Add(feedTaken), now, used).Error; err != nil {
			return err
		}
		if err := tx.Exec("delete from feeds where id in ? and used_at < ?", idle, now.Add(-unusedKept)).Error; err != nil {
			return err
		}
		return tx.Exec("update feeds set due_at = ? where id in ?", now.Add(unusedAgain), idle).Error
	})
	if err != nil {
		return nil, fmt.Errorf("take feeds to be asked: %w", err)
	}
	return due, nil
}

// KeepFeed keeps what came of asking a feed. Visitors see it at once where its items are
// others than before. Pictures that it had and nothing else shows are deleted: a feed may
// bring others every day.
func (s *Store) KeepFeed(ctx context.Context, one Feed, changed bool) error {
	names, items := []string{}, append([]feed.Item{}, one.Items...)
	for _, item := range one.Items {
		names = append(names, item.Picture.Names()...)
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var before []string
		err := tx.QueryRow(ctx, "select media from feeds where id = $1 for update", one.ID).Scan(&before)
		if errors.Is(err, pgx.ErrNoRows) {
			return nil // it was forgotten meanwhile
		}
		if err != nil {
			return fmt.Errorf("find what a feed showed: %w", err)
		}
		_, err = tx.Exec(ctx, `
			update feeds set title = $2, items = $3, media = $4, etag = $5, modified = $6, asked_at = $7, read_at = $8, due_at = $9,
				failures = $10, problem = $11
			where id = $1`,
			one.ID, one.Title, items, names, one.Etag, one.Modified, one.AskedAt, one.ReadAt, one.DueAt, one.Failures, one.Problem)
		if gone := without(before, names); err == nil && len(gone) > 0 {
			_, err = tx.Exec(ctx,
				"delete from media where workspace_id = $1 and name = any($2) and deleted_at is null and kept_at < $3 and "+mediaIdle,
				one.WorkspaceID, gone, one.AskedAt.Add(-justKept))
		}
		if err == nil && changed {
			_, err = tx.Exec(ctx, "select pg_notify($1, $2)", pageChannel, one.ID.String())
		}
		if err != nil {
			return fmt.Errorf("keep what came of a feed: %w", err)
		}
		return nil
	})
}

// fillFeeds writes into documents of a workspace what their feeds have now.
func fillFeeds(tx *gorm.DB, workspace uuid.UUID, documents ...*page.Document) error {
	var ids []string
	for _, document := range documents {
		ids = append(ids, document.FeedIDs()...)
	}
	if len(ids) == 0 {
		return nil
	}
	var feeds []Feed
	if err := tx.Where("workspace_id = ? and id in ?", workspace, ids).Find(&feeds).Error; err != nil {
		return fmt.Errorf("find what feeds have: %w", err)
	}
	items := make(map[string][]feed.Item, len(feeds))
	for _, one := range feeds {
		items[one.ID.String()] = one.Items
	}
	for _, document := range documents {
		document.FillFeeds(items)
	}
	return nil
}

// without are those of some names that are not among others.
func without(names, others []string) []string {
	return slices.DeleteFunc(slices.Clone(names), func(name string) bool { return slices.Contains(others, name) })
}
