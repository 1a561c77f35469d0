package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// WeeklyLetter tells a member of a workspace what came in the week before.
const WeeklyLetter LetterKind = "weekly figures"

// nextLetter is when the next weekly letter is due: on Monday at seven, by the clocks of the
// workspace.
const nextLetter = `(date_trunc('week', cast(@now as timestamptz) at time zone workspaces.zone) + interval '7 days 7 hours')
	at time zone workspaces.zone`

// HasWeeklyLetter tells whether a member of a workspace is sent the figures of the week.
func (s *Store) HasWeeklyLetter(ctx context.Context, workspace, user uuid.UUID) (bool, error) {
	var on bool
	done := s.db.WithContext(ctx).Raw("select weekly_letter_at is not null from memberships where workspace_id = ? and user_id = ?",
		workspace, user).Scan(&on)
	return on, foundRow(done)
}

// SetWeeklyLetter switches the weekly letter of a member of a workspace on or off.
func (s *Store) SetWeeklyLetter(ctx context.Context, workspace, user uuid.UUID, on bool, now time.Time) error {
	return foundRow(s.db.WithContext(ctx).Exec(`
		update memberships set weekly_letter_at = case when @on then coalesce(weekly_letter_at, `+nextLetter+`) end
		from workspaces where workspaces.id = workspace_id and workspace_id = @workspace and user_id = @user`,
		map[string]any{"on": on, "now": now, "workspace": workspace, "user": user}))
}

// OrderWeeklyLetters has the weekly letters sent that are due, at most so many. One that is late by
// more than two days is left out: the week is no longer the last one anybody thinks of.
func (s *Store) OrderWeeklyLetters(ctx context.Context, most int, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var due []struct {
			WorkspaceID, UserID uuid.UUID
			Due                 time.Time
		}
		err := tx.Raw(`
			with due as (
				select workspace_id, user_id, weekly_letter_at as due from memberships where weekly_letter_at <= @now
				order by weekly_letter_at limit @most for update skip locked)
			update memberships set weekly_letter_at = `+nextLetter+` from due, workspaces
			where workspaces.id = memberships.workspace_id and (memberships.workspace_id, memberships.user_id) = (due.workspace_id, due.user_id)
			returning memberships.workspace_id, memberships.user_id, due.due`, map[string]any{"now": now, "most": most}).Scan(&due).Error
		if err != nil {
			return err
		}
		var letters []LetterOrder
		for _, one := range due {
			if now.Sub(one.Due) < 48*time.Hour {
				letters = append(letters, LetterOrder{About: WeeklyLetter, User: one.UserID, Workspace: one.WorkspaceID})
			}
		}
		return s.orderLetters(tx, letters...)
	})
}
