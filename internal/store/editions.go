package store

import (
	"context"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/page"
)

// EditionSummary is an edition without what stood on it.
type EditionSummary struct {
	Number      int
	PublishedAt time.Time
	// By is the e-mail address of who published it; empty where they are gone.
	By string
	// Changes is what it changed, in words; nil for an edition from before that was
	// kept.
	Changes []page.Change `gorm:"serializer:json"`
}

// Editions lists editions of a page of a workspace, latest first, from below a number
// on; 0 for the latest.
func (s *Store) Editions(ctx context.Context, workspace, id uuid.UUID, below, most int) ([]EditionSummary, error) {
	var all []EditionSummary
	query := s.db.WithContext(ctx).Table("editions").
		Select("number", "published_at", "coalesce(users.email, '') as by", "changes").
		Joins("join pages on pages.id = page_id").Joins("left join users on users.id = user_id").
		Where("pages.workspace_id = ? and pages.id = ?", workspace, id)
	if below > 0 {
		query = query.Where("number < ?", below)
	}
	err := query.Order("number desc").Limit(most).Scan(&all).Error
	return all, err
}
