package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
)

// ChangeTakeovers changes what takes the place of a page of a workspace for a while. It
// is live at once, as an edition of what is live otherwise; what waits in the working
// copy goes on waiting. Change gets the page that visitors see, or the working copy
// before there is one, and the takeovers that are on or to come; it returns those that
// are to be, and what that does in words.
func (s *Store) ChangeTakeovers(ctx context.Context, workspace, user, id uuid.UUID, now time.Time,
	change func(on page.Document, takeovers []page.Takeover) ([]page.Takeover, string, error),
) (Page, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var locked Page
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "draft", "live_edition", "takeovers").
			Where("id = ? and workspace_id = ?", id, workspace).Take(&locked).Error
		if err != nil {
			return found(err)
		}
		live, err := liveDocument(tx, workspace, id, locked.LiveEdition)
		if err != nil {
			return err
		}
		on := locked.Draft
		if live != nil {
			on = *live
		}
		changed := page.Document{}
		var words string
		if changed.Takeovers, words, err = change(on, page.OfLater(locked.Takeovers, now)); err != nil {
			return err
		}
		if err := s.keepDestinations(tx, workspace, changed.Links); err != nil {
			return err
		}
		if err := tx.Model(&locked).Select("takeovers").Updates(&Page{Takeovers: changed.Takeovers}).Error; err != nil {
			return err
		}
		if live == nil {
			return nil
		}
		live.Takeovers = changed.Takeovers
		return s.goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, UserID: &user,
			Changes: []page.Change{{Sentence: words}},
		})
	})
	if err != nil {
		return Page{}, err
	}
	return s.Page(ctx, workspace, id)
}

// goLive keeps an edition of a page, which is locked, and makes it the live one.
func (s *Store) goLive(tx *gorm.DB, edition Edition) error {
	if err := s.roomForEdition(tx, edition.PageID, edition.PublishedAt); err != nil {
		return err
	}
	if err := keepEdition(tx, &edition); err != nil {
		return err
	}
	if err := tx.Model(&Page{}).Where("id = ?", edition.PageID).Update("live_edition", edition.Number).Error; err != nil {
		return err
	}
	return announce(tx, edition.PageID)
}
