package store

import (
	"context"
	"crypto/sha256"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// SharedFigures is a read-only address of the figures of a page or a short link.
type SharedFigures struct {
	ID         uuid.UUID `gorm:"primaryKey"`
	EndpointID uuid.UUID
	Digest     []byte
	Name       string // whom it is for
	Until      time.Time
	CreatedAt  time.Time
}

func digestOf(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// ShareFigures makes an address that opens with token.
func (s *Store) ShareFigures(ctx context.Context, workspace, pageID uuid.UUID, name, token string, until, now time.Time) (SharedFigures,
	error,
) {
	shared := SharedFigures{ID: newID(), EndpointID: pageID, Digest: digestOf(token), Name: name, Until: until, CreatedAt: now}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Where("id = ? and workspace_id = ?", pageID, workspace).Take(&endpoint{}).Error; err != nil {
			return found(err)
		}
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForShare(tx, pageID, now); err != nil {
			return err
		}
		return tx.Create(&shared).Error
	})
	return shared, err
}

// ListShared lists the addresses of the figures of a page or a short link, latest
// first, at most so many, after a place.
func (s *Store) ListShared(ctx context.Context, workspace, pageID uuid.UUID, after *Place, most int) ([]SharedFigures, error) {
	var shared []SharedFigures
	if err := s.db.WithContext(ctx).Where("id = ? and workspace_id = ?", pageID, workspace).Take(&endpoint{}).Error; err != nil {
		return nil, found(err)
	}
	query := after.after(s.shared(ctx, workspace, pageID), "created_at, id", "<")
	err := query.Order("created_at desc, id desc").Limit(most).Find(&shared).Error
	return shared, err
}

func (s *Store) shared(ctx context.Context, workspace, pageID uuid.UUID) *gorm.DB {
	return s.db.WithContext(ctx).Where("endpoint_id = (select id from endpoints where workspace_id = ? and id = ?)", workspace, pageID)
}

// CloseShared closes an address for good.
func (s *Store) CloseShared(ctx context.Context, workspace, pageID, id uuid.UUID) error {
	done := s.shared(ctx, workspace, pageID).Where("id = ?", id).Delete(&SharedFigures{})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// OpenShared finds what a token opens at that time, and the workspace that shared
// it.
func (s *Store) OpenShared(ctx context.Context, token string, now time.Time) (shared SharedFigures, workspace uuid.UUID, err error) {
	err = s.db.WithContext(ctx).Where("digest = ? and until > ?", digestOf(token), now).Take(&shared).Error
	if err != nil {
		return shared, workspace, found(err)
	}
	var owner endpoint
	err = s.db.WithContext(ctx).Where("id = ?", shared.EndpointID).Take(&owner).Error
	return shared, owner.WorkspaceID, found(err)
}
