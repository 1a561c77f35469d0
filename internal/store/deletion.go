package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// DeletionWait is how long a deleted page or short link can be taken back. Visitors are
// told at once that it is gone.
const DeletionWait = 14 * 24 * time.Hour

// ErrLastPage: a workspace keeps one page.
var ErrLastPage = errors.New("the last page of a workspace")

// DeletePage begins the time after which a page of a workspace is gone for good;
// ErrLastPage when there is no other.
func (s *Store) DeletePage(ctx context.Context, workspace, id uuid.UUID, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		var others int64
		err := tx.Model(&Page{}).Where("workspace_id = ? and id <> ? and delete_at is null", workspace, id).Count(&others).Error
		if err != nil {
			return err
		}
		if err := setDeletion(tx, &Page{}, workspace, id, now.Add(DeletionWait)); err != nil {
			return err
		}
		if others == 0 {
			return ErrLastPage
		}
		return nil
	})
}

// KeepPage takes back the deletion of a page of a workspace.
func (s *Store) KeepPage(ctx context.Context, workspace, id uuid.UUID) error {
	return s.keepAfterAll(ctx, &Page{}, workspace, id)
}

// DeleteShortLink begins the time after which a short link of a workspace is gone for
// good.
func (s *Store) DeleteShortLink(ctx context.Context, workspace, id uuid.UUID, now time.Time) (ShortLink, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		return setDeletion(tx, &ShortLink{}, workspace, id, now.Add(DeletionWait))
	})
	if err != nil {
		return ShortLink{}, err
	}
	return s.ShortLink(ctx, workspace, id)
}

// KeepShortLink takes back the deletion of a short link of a workspace.
func (s *Store) KeepShortLink(ctx context.Context, workspace, id uuid.UUID) (ShortLink, error) {
	if err := s.keepAfterAll(ctx, &ShortLink{}, workspace, id); err != nil {
		return ShortLink{}, err
	}
	return s.ShortLink(ctx, workspace, id)
}

func (s *Store) keepAfterAll(ctx context.Context, what any, workspace, id uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return setDeletion(tx, what, workspace, id, nil) })
}

// setDeletion sets when a page or a short link is gone, never for nil. What is to be
// deleted already goes when it was to go.
func setDeletion(tx *gorm.DB, what any, workspace, id uuid.UUID, at any) error {
	set := gorm.Expr("case when ?::timestamptz is null then null else coalesce(delete_at, ?::timestamptz) end", at, at)
	done := tx.Model(what).Where("workspace_id = ? and id = ?", workspace, id).Update("delete_at", set)
	switch {
	case done.Error != nil:
		return done.Error
	case done.RowsAffected == 0:
		return ErrNotFound
	}
	return announce(tx, id)
}

// EraseDeleted erases pages and short links that were deleted and whose time is over,
// one at a time and at most so many, with all that was counted of them. It returns how
// many.
func (s *Store) EraseDeleted(ctx context.Context, most int, now time.Time) (erased int, err error) {
	for erased < most {
		some := false
		err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
			var ids []uuid.UUID
			// The lock waits for nobody: whoever holds it is at it already.
			err := tx.Raw(`select id from endpoints where id in (
				select id from pages where delete_at < @now union all select id from short_links where delete_at < @now)
				limit 1 for update skip locked`, map[string]any{"now": now}).Scan(&ids).Error
			if some = len(ids) > 0; err != nil || !some {
				return err
			}
			if err := eraseCounted(tx, ids, now); err != nil {
				return err
			}
			return tx.Exec("delete from endpoints where id in ?", ids).Error
		})
		if err != nil {
			return erased, fmt.Errorf("erase what was deleted: %w", err)
		}
		if !some {
			break
		}
		erased++
	}
	return erased, nil
}

// eraseCounted erases the events of pages and short links, which are locked, and
// withholds their addresses. What still waits in the log of events is left out when it
// arrives, once they are gone.
func eraseCounted(tx *gorm.DB, ids []uuid.UUID, now time.Time) error {
	if err := tx.Exec("delete from events where endpoint_id in ?", ids).Error; err != nil {
		return fmt.Errorf("erase events: %w", err)
	}
	for _, id := range ids {
		if err := announce(tx, id); err != nil {
			return err
		}
	}
	err := tx.Exec(`insert into withheld_addresses (domain_id, address, until)
		select domain_id, address, ? from addresses left join pages on pages.id = endpoint_id
		where endpoint_id in ? and (pages.id is null or pages.live_edition > 0)
		on conflict (domain_id, address) do update set until = excluded.until`, now.Add(withheldFor), ids).Error
	if err != nil {
		return fmt.Errorf("withhold addresses: %w", err)
	}
	return nil
}
