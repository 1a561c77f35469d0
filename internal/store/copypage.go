package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// CopyPage makes a page of a workspace out of the working copy of another, with the
// sources of that, by the same tags, where they are wanted; retired ones stay behind. It
// answers what CreatePage does.
func (s *Store) CopyPage(ctx context.Context, workspace, of uuid.UUID, address string, withSources bool, now time.Time) (Page, error) {
	var made Page
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForPage(tx, workspace); err != nil {
			return err
		}
		var original Page
		if err := tx.Select("draft").Where("id = ? and workspace_id = ?", of, workspace).Take(&original).Error; err != nil {
			return found(err)
		}
		var sources []Source
		if withSources {
			err := s.sources(tx, workspace, of).Preload("Tags", "present").Where("retired_at is null").
				Order("sources.created_at, sources.id").Find(&sources).Error
			if err != nil {
				return fmt.Errorf("read the sources to be copied: %w", err)
			}
		}
		ids := make(map[string]string, len(sources))
		for i := range sources {
			added := newID()
			ids[sources[i].ID.String()] = added.String()
			sources[i].ID, sources[i].SeenAt, sources[i].CreatedAt = added, nil, now
		}
		for i := range original.Draft.Blocks {
			original.Draft.Blocks[i].WithSources(ids)
		}
		var err error
		if made, err = s.createPage(tx, workspace, address, original.Draft, now); err != nil {
			return err
		}
		return addCopied(tx, made.ID, sources, now)
	})
	return made, err
}

// addCopied gives a new page sources of another, which have IDs of their own by now.
func addCopied(tx *gorm.DB, id uuid.UUID, sources []Source, now time.Time) error {
	var tags []SourceTag
	for i := range sources {
		sources[i].PageID, sources[i].Since = id, &now
		for _, tag := range sources[i].Tags {
			tags = append(tags, SourceTag{PageID: id, Tag: tag.Tag, SourceID: sources[i].ID, Present: true})
		}
	}
	if len(sources) == 0 {
		return nil
	}
	if err := tx.Omit(clause.Associations).Create(&sources).Error; err != nil {
		return fmt.Errorf("copy sources: %w", err)
	}
	return tx.Create(&tags).Error
}
