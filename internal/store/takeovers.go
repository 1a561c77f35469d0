package store

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
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
		before, changed := page.OfLater(locked.Takeovers, now), page.Document{}
		var words string
		if changed.Takeovers, words, err = change(on, slices.Clone(before)); err != nil {
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
		// Ending one is never refused: it cannot come more often than beginning one.
		if len(changed.Takeovers) > len(before) {
			if err := s.roomForEdition(tx, id, false, now); err != nil {
				return err
			}
		}
		live.Takeovers = changed.Takeovers
		return goLive(tx, Edition{
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
func goLive(tx *gorm.DB, edition Edition) error {
	if err := keepTrialFitting(tx, &edition); err != nil {
		return err
	}
	if err := keepEdition(tx, &edition); err != nil {
		return err
	}
	if err := tx.Model(&Page{}).Where("id = ?", edition.PageID).Update("live_edition", edition.Number).Error; err != nil {
		return err
	}
	if err := tellOfEdition(tx, edition); err != nil {
		return err
	}
	return announce(tx, edition.PageID)
}

// mostTakeovers is of how many editions the takeovers of a span are read, the latest
// ones.
const mostTakeovers = 300

// Took lists what took the place of a page of a workspace in a span of time.
func (s *Store) Took(ctx context.Context, workspace, id uuid.UUID, from, to time.Time) ([]page.Takeover, error) {
	rows, err := s.pool.Query(ctx, `
		select published_at, until, takeovers from (
			select editions.number, published_at, timetable->'takeovers' as takeovers, (
				select next.published_at from editions next where next.page_id = editions.page_id and next.number = editions.number + 1) as until
			from editions join pages on pages.id = page_id
			where workspace_id = $1 and page_id = $2 and timetable ? 'takeovers' and published_at < $4) latest
		where until is null or until > $3 order by number desc limit $5`, workspace, id, from, to, mostTakeovers)
	if err != nil {
		return nil, err
	}
	var live []page.LiveTakeovers
	var published time.Time
	var until *time.Time
	var takeovers []page.Takeover
	_, err = pgx.ForEachRow(rows, []any{&published, &until, &takeovers}, func() error {
		one := page.LiveTakeovers{From: published, Takeovers: takeovers}
		if until != nil {
			one.Until = *until
		}
		live, takeovers = append(live, one), nil
		return nil
	})
	slices.Reverse(live)
	return page.Took(live, from, to), err
}
