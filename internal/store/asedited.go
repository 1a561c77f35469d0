package store

import (
	"context"

	"github.com/google/uuid"
)

// SetAsEdited lets each saved change of a page of a workspace go live by itself, or no
// longer.
func (s *Store) SetAsEdited(ctx context.Context, workspace, user, id uuid.UUID, on bool) error {
	return foundRow(s.db.WithContext(ctx).Model(&Page{}).Where("id = ? and workspace_id = ?", id, workspace).
		Select("as_edited", "as_edited_by").Updates(&Page{AsEdited: on, AsEditedBy: &user}))
}

// GoingLive are pages that go live as they are edited and have changes that are not live,
// at most so many, in no order: one that cannot go live keeps none of the others back.
func (s *Store) GoingLive(ctx context.Context, most int) ([]Page, error) {
	var pages []Page
	err := s.db.WithContext(ctx).Select("id", "workspace_id").
		Where("as_edited and revision > published_revision and delete_at is null").Order("random()").Limit(most).Find(&pages).Error
	return pages, err
}
