package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
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
			sources[i].ID, sources[i].SeenAt = added, nil
		}
		for i := range original.Draft.Blocks {
			original.Draft.Blocks[i].WithSources(ids)
		}
		var err error
		if made, err = s.createPage(tx, workspace, address, original.Draft, now); err != nil {
			return err
		}
		return s.addSources(tx, made.ID, sources, now)
	})
	return made, err
}

// addSources gives a new page its sources with their tags. They have IDs; ErrTagTaken
// when two have one tag.
func (s *Store) addSources(tx *gorm.DB, id uuid.UUID, sources []Source, now time.Time) error {
	if len(sources) == 0 {
		return nil
	}
	if most := s.quotas.SourcesPerPage; int64(len(sources)) > most {
		return &QuotaError{What: "A page has at most %d sources, retired ones included", Most: most, Instead: "Take some out of the file."}
	}
	var tags []SourceTag
	for i := range sources {
		sources[i].PageID, sources[i].Since, sources[i].CreatedAt = id, &now, now.Add(time.Duration(i)*time.Microsecond)
		for _, tag := range sources[i].Tags {
			tags = append(tags, SourceTag{PageID: id, Tag: tag.Tag, SourceID: sources[i].ID, Present: tag.Present})
		}
	}
	if err := tx.Omit(clause.Associations).Create(&sources).Error; err != nil {
		return fmt.Errorf("add sources to a new page: %w", err)
	}
	if len(tags) == 0 {
		return nil
	}
	err := tx.Create(&tags).Error
	if violates(err, "source_tags_pkey") {
		err = ErrTagTaken
	}
	return err
}

// WholePage is a page with its sources, to be made at once.
type WholePage struct {
	Address  string
	Labels   []string
	Document page.Document
	// Sources have IDs, by which rules in the document name them, and tags.
	Sources []Source
}

// AddWholePage makes a page with its sources in a workspace. It answers what CreatePage
// does, and ErrTagTaken when two sources have one tag.
func (s *Store) AddWholePage(ctx context.Context, workspace uuid.UUID, whole WholePage, now time.Time) (Page, error) {
	var made Page
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) (err error) {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForPage(tx, workspace); err != nil {
			return err
		}
		if made, err = s.createPage(tx, workspace, whole.Address, whole.Document, now); err != nil {
			return err
		}
		made.Labels = whole.Labels
		if err := tx.Model(&made).Select("labels").Updates(&Page{Labels: whole.Labels}).Error; err != nil {
			return err
		}
		return s.addSources(tx, made.ID, whole.Sources, now)
	})
	return made, err
}
