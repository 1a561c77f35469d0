package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/source"
)

// Source is a place where a page's address has been put.
type Source struct {
	ID     uuid.UUID `gorm:"primaryKey"`
	PageID uuid.UUID
	Name   string
	Kind   source.Kind
	Medium string
	// Profiles are addresses of the profile, the main one first; Names are other
	// names in utm_source.
	Profiles []string `gorm:"serializer:json"`
	Names    []string `gorm:"serializer:json"`
	Networks []string `gorm:"serializer:json"` // besides those of the profiles
	// Since is when its address came to stand there, nil when nobody knows.
	Since     *time.Time
	RetiredAt *time.Time
	// SeenAt is the time of the latest counted visit, nil before the first.
	SeenAt    *time.Time
	CreatedAt time.Time
	Tags      []SourceTag
}

// Tag is the present tag.
func (s Source) Tag() string {
	for _, tag := range s.Tags {
		if tag.Present {
			return tag.Tag
		}
	}
	return ""
}

// SourceTag is a present or past tag of a source.
type SourceTag struct {
	PageID   uuid.UUID `gorm:"primaryKey"`
	Tag      string    `gorm:"primaryKey"`
	SourceID uuid.UUID
	Present  bool
	Visited  bool // somebody but the creator came by it
}

// FreeTag tells whether another source may have a tag of this one: nobody ever
// came by it, and it is a past one, or the source is retired.
func (s Source) FreeTag(tag SourceTag) bool {
	return !tag.Visited && (!tag.Present || s.RetiredAt != nil)
}

// Sources lists the sources of a page of a workspace, oldest first, with their
// tags.
func (s *Store) Sources(ctx context.Context, workspace, pageID uuid.UUID) ([]Source, error) {
	var sources []Source
	err := s.sources(s.db.WithContext(ctx), workspace, pageID).Preload("Tags", func(db *gorm.DB) *gorm.DB { return db.Order("tag") }).
		Order("sources.created_at, sources.id").Find(&sources).Error
	return sources, err
}

// SourcesPart is Sources for at most so many, after a place.
func (s *Store) SourcesPart(ctx context.Context, workspace, pageID uuid.UUID, after *Place, most int) ([]Source, error) {
	var sources []Source
	query := after.after(s.sources(s.db.WithContext(ctx), workspace, pageID), "sources.created_at, sources.id", ">")
	err := query.Preload("Tags", func(db *gorm.DB) *gorm.DB { return db.Order("tag") }).
		Order("sources.created_at, sources.id").Limit(most).Find(&sources).Error
	return sources, err
}

// Source finds one source of a page of a workspace.
func (s *Store) Source(ctx context.Context, workspace, pageID, id uuid.UUID) (Source, error) {
	var one Source
	err := s.sources(s.db.WithContext(ctx), workspace, pageID).Preload("Tags", func(db *gorm.DB) *gorm.DB { return db.Order("tag") }).
		Where("sources.id = ?", id).Take(&one).Error
	return one, found(err)
}

func (s *Store) sources(db *gorm.DB, workspace, pageID uuid.UUID) *gorm.DB {
	return db.Joins("join pages on pages.id = sources.page_id").Where("pages.workspace_id = ? and pages.id = ?", workspace, pageID)
}

// NewSource is what a source is made from, already checked.
type NewSource struct {
	Name, Tag string
	source.Place
	// Adopts is the key of an unlisted source whose visits become this one's.
	Adopts string
}

// AddSource adds a source with its tag; ErrTagTaken when that is another's of the
// page and not free, a *QuotaError when the page has as many as it may.
func (s *Store) AddSource(ctx context.Context, workspace, pageID uuid.UUID, from NewSource, now time.Time) (Source, error) {
	added := Source{
		ID: newID(), PageID: pageID, Name: from.Name, Kind: from.Kind, Medium: from.Medium, Profiles: kept(from.Profiles),
		Names: kept(from.Names), Networks: kept(from.Networks), Since: &now, CreatedAt: now,
	}
	if from.Adopts != "" {
		added.Since = nil // its address stood there before we heard of it
	}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var owned int64
		if err := tx.Model(&Page{}).Where("id = ? and workspace_id = ?", pageID, workspace).Count(&owned).Error; err != nil {
			return err
		}
		if owned == 0 {
			return ErrNotFound
		}
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForSource(tx, pageID); err != nil {
			return err
		}
		if err := tx.Omit(clause.Associations).Create(&added).Error; err != nil {
			return err
		}
		if err := setTag(tx, added, from.Tag); err != nil {
			return err
		}
		if from.Adopts != "" {
			if err := adopt(tx, pageID, from.Adopts, added.ID); err != nil {
				return err
			}
		}
		return announce(tx, pageID)
	})
	added.Tags = []SourceTag{{PageID: pageID, Tag: from.Tag, SourceID: added.ID, Present: true}}
	return added, err
}

// SourceChange is what may be changed of a source; nil leaves a part as it is.
type SourceChange struct {
	Name    *string
	Tag     *string
	Retired *bool
	Place   *source.Place
}

// ChangeSource changes a source of a workspace. A replaced tag stays with the
// source as a past one and keeps naming it. It answers ErrTagTaken when the
// new one is another's of the page and not free.
func (s *Store) ChangeSource(ctx context.Context, workspace, pageID, id uuid.UUID, change SourceChange, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var changed Source
		if err := s.sources(tx, workspace, pageID).Where("sources.id = ?", id).Take(&changed).Error; err != nil {
			return found(err)
		}
		change.apply(&changed, now)
		if err := tx.Model(&Source{ID: id}).Select("name", "kind", "medium", "profiles", "names", "networks",
			"retired_at").Updates(&changed).Error; err != nil {
			return err
		}
		if change.Tag != nil {
			if err := setTag(tx, changed, *change.Tag); err != nil {
				return err
			}
		}
		return announce(tx, pageID)
	})
}

// kept is a list as it is stored: never null.
func kept(list []string) []string { return append([]string{}, list...) }

func (c SourceChange) apply(to *Source, now time.Time) {
	if c.Name != nil {
		to.Name = *c.Name
	}
	if c.Retired != nil {
		to.RetiredAt = nil
		if *c.Retired {
			to.RetiredAt = &now
		}
	}
	if c.Place != nil {
		to.Kind, to.Medium = c.Place.Kind, c.Place.Medium
		to.Profiles, to.Names, to.Networks = kept(c.Place.Profiles), kept(c.Place.Names), kept(c.Place.Networks)
	}
}

// setTag makes a tag the source's present one. It may be one of its own past
// ones, or one of another's that is free (Source.FreeTag).
func setTag(tx *gorm.DB, owner Source, tag string) error {
	if err := tx.Model(&SourceTag{}).Where("source_id = ?", owner.ID).Update("present", false).Error; err != nil {
		return err
	}
	done := tx.Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "page_id"}, {Name: "tag"}},
		DoUpdates: clause.Assignments(map[string]any{"present": true, "source_id": owner.ID}),
		Where: clause.Where{Exprs: []clause.Expression{gorm.Expr(`source_tags.source_id = excluded.source_id
			or not source_tags.visited and (not source_tags.present
				or exists (select from sources where sources.id = source_tags.source_id and retired_at is not null))`)}},
	}).Create(&SourceTag{PageID: owner.PageID, Tag: tag, SourceID: owner.ID, Present: true})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrTagTaken
	}
	return done.Error
}
