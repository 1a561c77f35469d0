package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
)

// ErrNeverPublished is answered where only a published page can be meant.
var ErrNeverPublished = errors.New("page was never published")

// Rest puts a page of a workspace to rest, or wakes it for nil. It is live at once, as an
// edition of what is live otherwise; what waits in the working copy goes on waiting.
func (s *Store) Rest(ctx context.Context, workspace, user, id uuid.UUID, resting *page.Resting, now time.Time) (Page, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var locked Page
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "live_edition", "takeovers").
			Where("id = ? and workspace_id = ?", id, workspace).Take(&locked).Error
		if err != nil {
			return found(err)
		}
		live, err := liveDocument(tx, workspace, id, locked.LiveEdition)
		switch {
		case err != nil:
			return err
		case live == nil:
			return ErrNeverPublished
		case live.Resting == nil && resting == nil:
			return nil // it is awake already
		case resting != nil:
			// Waking is never refused: it cannot come more often than going to rest.
			if err := s.roomForEdition(tx, id, false, now); err != nil {
				return err
			}
		}
		live.Resting, live.Takeovers = resting, page.OfLater(locked.Takeovers, now)
		return goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, UserID: &user, Changes: resting.Changes(),
		})
	})
	if err != nil {
		return Page{}, err
	}
	return s.Page(ctx, workspace, id)
}
