package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

// Media is a picture, film or file, as package media made it, under the digest of
// its bytes. Width and height are 0 where it has none.
type Media struct {
	Name        string    `gorm:"primaryKey"`
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	Bytes       []byte
	Width       int
	Height      int
	CreatedAt   time.Time
}

// TableName keeps gorm from making a plural of a plural.
func (Media) TableName() string { return "media" }

// KeepMedia stores files for a workspace; what is there already is left alone.
func (s *Store) KeepMedia(ctx context.Context, files ...Media) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&files).Error
}

// WorkspaceMedia returns a file of a workspace by its name.
func (s *Store) WorkspaceMedia(ctx context.Context, workspace uuid.UUID, name string) (Media, error) {
	var file Media
	err := s.db.WithContext(ctx).Where("workspace_id = ? and name = ?", workspace, name).Take(&file).Error
	return file, found(err)
}

// HasMedia tells which of these pictures a workspace keeps.
func (s *Store) HasMedia(ctx context.Context, workspace uuid.UUID, names []string) (map[string]bool, error) {
	var kept []string
	err := s.db.WithContext(ctx).Model(&Media{}).Where("workspace_id = ? and name in ?", workspace, names).Pluck("name", &kept).Error
	has := make(map[string]bool, len(kept))
	for _, name := range kept {
		has[name] = true
	}
	return has, err
}

// MediaBytes returns a picture by its name alone: the name is a digest of what
// is in it, and pages show it to everybody.
func (s *Store) MediaBytes(ctx context.Context, name string) ([]byte, error) {
	var media Media
	err := s.db.WithContext(ctx).Select("bytes").Where("name = ?", name).Take(&media).Error
	return media.Bytes, found(err)
}
