package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
)

// Page is a page with its working copy.
type Page struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Draft       page.Document `gorm:"serializer:json"`
	// Revision rises by one with every change of the working copy.
	Revision int64
	// SavedAs is what the client called the save that made this revision; it may be
	// empty.
	SavedAs string
	// LiveEdition is the number of the published edition, 0 before the first.
	LiveEdition int
	// Takeovers are those set last, over or not.
	Takeovers []page.Takeover `gorm:"serializer:json"`
	Labels    []string        `gorm:"serializer:json"`
	// PublishedRevision is the one that was published last, 0 before the first time.
	PublishedRevision int64
	// AsEdited: each saved change goes live by itself, since AsEditedBy wanted it.
	AsEdited   bool
	AsEditedBy *uuid.UUID
	// DeleteAt is when the page is gone for good, nil unless it was deleted.
	DeleteAt  *time.Time
	CreatedAt time.Time
	// Address is the present one; read-only here.
	Address string `gorm:"->"`
}

// Edition is one published state of a page. It never changes.
type Edition struct {
	PageID      uuid.UUID     `gorm:"primaryKey"`
	Number      int           `gorm:"primaryKey"`
	Document    page.Document `gorm:"serializer:json"`
	PublishedAt time.Time
	UserID      *uuid.UUID
	// EndsLinks: what this edition took off the page stopped leading at once, and
	// not a day after.
	EndsLinks bool
	// AsEdited: it went live by itself.
	AsEdited bool
	// Changes is what it changed, in words; nil for one from before that was kept.
	Changes []page.Change `gorm:"serializer:json"`
}

func (s *Store) createPage(tx *gorm.DB, workspace uuid.UUID, address string, doc page.Document, now time.Time) (Page, error) {
	id, err := createEndpoint(tx, workspace, address, now)
	if err != nil {
		return Page{}, err
	}
	if err := s.keepDestinations(tx, workspace, doc.Links); err != nil {
		return Page{}, err
	}
	created := Page{
		ID: id, WorkspaceID: workspace, Draft: doc, Revision: 1, Takeovers: []page.Takeover{}, Labels: []string{}, CreatedAt: now,
		Address: address,
	}
	return created, tx.Omit("Address").Create(&created).Error
}

// CreatePage adds a page to a workspace; ErrAddressTaken when it cannot have
// that address, a *QuotaError when there are as many as there may be.
func (s *Store) CreatePage(ctx context.Context, workspace uuid.UUID, address string, doc page.Document, now time.Time) (Page, error) {
	var created Page
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) (err error) {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForPage(tx, workspace); err != nil {
			return err
		}
		created, err = s.createPage(tx, workspace, address, doc, now)
		return err
	})
	return created, err
}

func (s *Store) pages(ctx context.Context, workspace uuid.UUID) *gorm.DB {
	return s.db.WithContext(ctx).Model(&Page{}).Select("pages.*, addresses.address").
		Joins("join addresses on addresses.endpoint_id = pages.id and present").
		Where("workspace_id = ?", workspace)
}

// Pages lists the pages of a workspace, oldest first.
func (s *Store) Pages(ctx context.Context, workspace uuid.UUID) ([]Page, error) {
	var pages []Page
	err := s.pages(ctx, workspace).Order("created_at, pages.id").Find(&pages).Error
	return pages, err
}

// Page finds one page of a workspace. Its working copy leads where its destinations
// lead now.
func (s *Store) Page(ctx context.Context, workspace, id uuid.UUID) (Page, error) {
	var one Page
	err := s.pages(ctx, workspace).Where("pages.id = ?", id).Take(&one).Error
	if err == nil {
		err = resolve(s.db.WithContext(ctx), workspace, &one.Draft, &page.Document{Takeovers: one.Takeovers})
	}
	return one, found(err)
}

// SaveDraft replaces the working copy when it is still at revision, and returns
// the page as it then is. Otherwise it answers ErrStale with the page as it
// stands, so that nothing anybody wrote is lost unseen.
func (s *Store) SaveDraft(ctx context.Context, workspace, id uuid.UUID, revision int64, doc page.Document) (Page, error) {
	return s.SaveDraftAs(ctx, workspace, id, revision, doc, DraftSave{})
}

// DraftSave is what else is known of a save of a working copy.
type DraftSave struct {
	// As is a name that the client gives it, to know it again when the answer was lost on
	// the way.
	As string
	// Steps are what it did, for Undo.
	Steps []StepTaken
	// By is who did them, At when.
	By uuid.UUID
	At time.Time
}

// SaveDraftAs is SaveDraft with what else is known of the save.
func (s *Store) SaveDraftAs(ctx context.Context, workspace, id uuid.UUID, revision int64, doc page.Document, save DraftSave) (Page, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := s.keepDestinations(tx, workspace, doc.Links); err != nil {
			return err
		}
		before, err := draftAt(tx, workspace, id, revision)
		if err != nil {
			return err
		}
		err = tx.Model(&Page{}).Where("id = ?", id).Select("draft", "revision", "saved_as").
			Updates(&Page{Draft: doc, Revision: revision + 1, SavedAs: save.As}).Error
		if err != nil {
			return err
		}
		return keepSteps(tx, id, save, before, doc)
	})
	if err != nil && !errors.Is(err, ErrStale) {
		return Page{}, err
	}
	saved, readErr := s.Page(ctx, workspace, id)
	if readErr != nil {
		return Page{}, readErr
	}
	return saved, err
}

// StalePage answers ErrStale with the page as it stands when its working copy is not at a revision, and nothing when
// it is.
func (s *Store) StalePage(ctx context.Context, workspace, id uuid.UUID, revision int64) (Page, error) {
	var now int64
	err := s.db.WithContext(ctx).Raw("select revision from pages where id = ? and workspace_id = ?", id, workspace).Row().Scan(&now)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return Page{}, ErrNotFound
	case err != nil:
		return Page{}, err
	case now == revision:
		return Page{}, nil
	}
	stands, err := s.Page(ctx, workspace, id)
	if err != nil {
		return Page{}, err
	}
	return stands, ErrStale
}

// draftAt reads the working copy of a page and locks it; ErrStale when it is not at the
// revision.
func draftAt(tx *gorm.DB, workspace, id uuid.UUID, revision int64) (draft []byte, err error) {
	err = tx.Raw("select draft from pages where id = ? and workspace_id = ? and revision = ? for update", id, workspace, revision).
		Row().Scan(&draft)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrStale
	}
	return draft, err
}

// Publishing says what is published, and how.
type Publishing struct {
	// Revision is the one whose changes were read.
	Revision int64
	// EndsLinks lets what is taken off the page stop leading at once.
	EndsLinks bool
	// AsEdited publishes whatever revision there is of a page that goes live as it is
	// edited, and nothing of another.
	AsEdited bool
}

// Publish makes an edition out of the working copy when it is still at revision
// and makes it the live one; ErrStale with the page as it stands otherwise.
func (s *Store) Publish(ctx context.Context, workspace, user, id uuid.UUID, publishing Publishing, now time.Time) (Page, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var locked Page
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).
			Select("id", "draft", "revision", "live_edition", "takeovers", "as_edited", "as_edited_by").
			Where("id = ? and workspace_id = ?", id, workspace).Take(&locked).Error
		if err != nil {
			return found(err)
		}
		by := &user
		switch {
		case publishing.AsEdited && !locked.AsEdited:
			return nil
		case publishing.AsEdited:
			by = locked.AsEditedBy
		case locked.Revision != publishing.Revision:
			return ErrStale
		}
		var named string
		if err := tx.Raw("select address from addresses where endpoint_id = ? and present", id).Scan(&named).Error; err != nil {
			return err
		}
		locked.Draft.Takeovers = page.OfLater(locked.Takeovers, now)
		// The edition records what it led to.
		if err := resolve(tx, workspace, &locked.Draft); err != nil {
			return err
		}
		document := page.Named(locked.Draft, named)
		live, err := liveDocument(tx, workspace, id, locked.LiveEdition)
		if err != nil {
			return err
		}
		if err := tx.Model(&locked).Update("published_revision", locked.Revision).Error; err != nil {
			return err
		}
		if live != nil {
			if page.SameAs(*live, document) {
				return nil // a second press of the same button makes no second edition
			}
			document.Resting, document.Trial = live.Resting, live.Trial
		}
		if err := s.roomForEdition(tx, id, publishing.AsEdited, now); err != nil {
			return err
		}
		return goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: document, PublishedAt: now, UserID: by,
			EndsLinks: publishing.EndsLinks, AsEdited: publishing.AsEdited, Changes: page.Brief(page.Changes(live, document)),
		})
	})
	if err != nil && err != ErrStale {
		return Page{}, err
	}
	published, readErr := s.Page(ctx, workspace, id)
	if readErr != nil {
		return Page{}, readErr
	}
	return published, err
}

// liveDocument is what an edition shows, leading where it leads now; nil for none.
func liveDocument(tx *gorm.DB, workspace, id uuid.UUID, number int) (*page.Document, error) {
	var edition Edition
	err := tx.Select("document").Where("page_id = ? and number = ?", id, number).Take(&edition).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	if err == nil {
		err = resolve(tx, workspace, &edition.Document)
	}
	return &edition.Document, err
}

// LiveEdition returns the published edition of a page of a workspace, leading where
// its destinations lead now; ErrNotFound before the first.
func (s *Store) LiveEdition(ctx context.Context, workspace, id uuid.UUID) (Edition, error) {
	var edition Edition
	err := s.db.WithContext(ctx).Joins("join pages on pages.id = editions.page_id and pages.live_edition = editions.number").
		Where("pages.workspace_id = ? and pages.id = ?", workspace, id).Take(&edition).Error
	if err == nil {
		err = resolve(s.db.WithContext(ctx), workspace, &edition.Document)
	}
	return edition, found(err)
}

// EachEdition hands out the editions of a page of a workspace after one number,
// one at a time and in order, with the addresses that it led to when it was published.
func (s *Store) EachEdition(ctx context.Context, workspace, id uuid.UUID, after int, take func(Edition) error) error {
	rows, err := s.pool.Query(ctx, `
		select page_id, number, document, published_at, user_id, ends_links from editions join pages on pages.id = page_id
		where workspace_id = $1 and pages.id = $2 and number > $3 order by number`, workspace, id, after)
	if err != nil {
		return err
	}
	var edition Edition
	var document []byte
	_, err = pgx.ForEachRow(rows, []any{
		&edition.PageID, &edition.Number, &document, &edition.PublishedAt, &edition.UserID,
		&edition.EndsLinks,
	}, func() error {
		edition.Document = page.Document{}
		if err := json.Unmarshal(document, &edition.Document); err != nil {
			return fmt.Errorf("read edition %d: %w", edition.Number, err)
		}
		return take(edition)
	})
	return err
}

// ChangeAddress gives a page another address. The old one keeps leading to it,
// and the page may take one of its own old ones back. It answers
// ErrAddressTaken when the address is or ever was another page's.
func (s *Store) ChangeAddress(ctx context.Context, workspace, id uuid.UUID, address string, now time.Time) (Page, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Select("id").Where("id = ? and workspace_id = ?", id, workspace).Take(&Page{}).Error; err != nil {
			return found(err)
		}
		if err := s.readdress(tx, workspace, id, address, now); err != nil {
			return err
		}
		return announce(tx, id)
	})
	if err != nil {
		return Page{}, err
	}
	return s.Page(ctx, workspace, id)
}
