package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/look"
)

// Theme is a look that a workspace keeps.
type Theme struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Name        string
	Look        look.Look `gorm:"serializer:json"`
	CreatedAt   time.Time
}

// Themes lists the themes of a workspace, oldest first.
func (s *Store) Themes(ctx context.Context, workspace uuid.UUID) ([]Theme, error) {
	var themes []Theme
	err := s.db.WithContext(ctx).Where("workspace_id = ?", workspace).Order("created_at, id").Find(&themes).Error
	return themes, err
}

// maxThemes is how many looks a workspace may keep: each is drawn whenever they are
// shown.
const maxThemes = 40

// AddTheme keeps a look as a theme of a workspace. It answers a *QuotaError when
// there are as many as there may be.
func (s *Store) AddTheme(ctx context.Context, workspace uuid.UUID, name string, l look.Look, now time.Time) (Theme, error) {
	theme := Theme{ID: newID(), WorkspaceID: workspace, Name: name, Look: l, CreatedAt: now}
	return theme, s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		err := room(tx, maxThemes, &QuotaError{What: "You keep %d themes", Instead: "Delete one first."},
			"select count(*) from themes where workspace_id = ?", workspace)
		if err != nil {
			return err
		}
		return tx.Create(&theme).Error
	})
}

// DeleteTheme forgets a theme of a workspace. Pages begun from it keep their
// looks.
func (s *Store) DeleteTheme(ctx context.Context, workspace, id uuid.UUID) error {
	done := s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Delete(&Theme{})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}
