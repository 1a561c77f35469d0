package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
)

// choice is what was there before a variant was put in place, and what that made.
type choice struct {
	Draft page.Document `json:"draft"`
	// Revision and Edition are those that putting it in place made.
	Revision int64      `json:"revision"`
	Edition  int        `json:"edition"`
	EndedAt  *time.Time `json:"endedAt"`
	Ending   string     `json:"ending"`
}

// keep keeps it with its trial, and forgets those before it: only the last can be undone.
func (c choice) keep(tx *gorm.DB, id uuid.UUID, which string) error {
	kept, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return tx.Exec("update trials set undo = case when id = ? then ?::jsonb end where page_id = ? and (undo is not null or id = ?)",
		which, string(kept), id, which).Error
}

// undoWithin is for how long a choice can be undone: as long as the screen offers it, and what a bad line takes.
const undoWithin = time.Minute

// UndoChoice takes back that a variant of a trial was put in place: the page, its working copy and the trial are
// what they were before. ErrNotFound where none was put in place within the last minute; an *invalid.Error where
// the page has been changed or published since.
func (s *Store) UndoChoice(ctx context.Context, workspace, user, id uuid.UUID, which string, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		locked, _, err := lockLive(tx, workspace, id)
		if err != nil {
			return err
		}
		var kept struct{ Undo []byte }
		err = tx.Table("trials").Select("undo").Where("page_id = ? and id = ? and ending = ? and undo is not null and ended_at > ?",
			id, which, TrialChosen, now.Add(-undoWithin)).Take(&kept).Error
		if err != nil {
			return found(err)
		}
		var before choice
		if err := json.Unmarshal(kept.Undo, &before); err != nil {
			return err
		}
		if locked.Revision != before.Revision || locked.LiveEdition != before.Edition {
			return invalid.One("trial", "The page was changed since, so this cannot be undone in one step. The edition before is under Editions.")
		}
		ended := tx.Exec("update trials set ended_at = ?, ending = ?, chosen = 0, undo = null where id = ?", before.EndedAt, before.Ending, which)
		if ended.Error != nil {
			return ended.Error
		}
		locked.Draft = before.Draft
		if locked.PublishedRevision == locked.Revision {
			locked.PublishedRevision++
		}
		locked.Revision++
		if err := tx.Select("draft", "revision", "published_revision").Updates(locked).Error; err != nil {
			return err
		}
		live, err := liveDocument(tx, workspace, id, before.Edition-1)
		if err != nil {
			return err
		}
		if live == nil {
			return ErrNotFound
		}
		live.Takeovers = page.OfLater(locked.Takeovers, now)
		return goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, UserID: &user,
			Changes: []page.Change{{Sentence: "Putting a variant in place was undone. The page and the trial are what they were."}},
		})
	})
}
