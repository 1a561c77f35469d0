package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/team"
)

// Letters about deleting an account.
const (
	DeletionBegun     LetterKind = "deletion begun"
	DeletionTakenBack LetterKind = "deletion taken back"
)

// DeleteAccount begins the time after which a user is gone for good, and every session but one
// ends.
func (s *Store) DeleteAccount(ctx context.Context, user uuid.UUID, session string, now time.Time) (time.Time, error) {
	at := now.Add(DeletionWait)
	return at, s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := foundRow(tx.Model(&User{}).Where("id = ?", user).Update("delete_at", at)); err != nil {
			return err
		}
		if err := endSessions(tx, user, session); err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: DeletionBegun, User: user})
	})
}

// KeepAccount takes the deletion of a user back.
func (s *Store) KeepAccount(ctx context.Context, user uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&User{}).Where("id = ? and delete_at is not null", user).Update("delete_at", nil)
		if done.Error != nil || done.RowsAffected == 0 {
			return done.Error
		}
		return s.orderLetters(tx, LetterOrder{About: DeletionTakenBack, User: user})
	})
}

// EraseAccounts erases users who were deleted and whose time is over, at most so many, with the
// workspaces that nobody else runs.
func (s *Store) EraseAccounts(ctx context.Context, most int, now time.Time) error {
	for range most {
		var users []User
		err := s.db.WithContext(ctx).Where("delete_at <= ?", now).Order("delete_at").Limit(1).Find(&users).Error
		if err != nil || len(users) == 0 {
			return err
		}
		var alone []uuid.UUID
		err = s.db.WithContext(ctx).Raw(`
			select workspace_id from memberships own where user_id = ? and own.role = ? and own.whole and not exists (
				select from memberships other where other.workspace_id = own.workspace_id and other.user_id <> own.user_id
				and other.role = own.role and other.whole)`,
			users[0].ID, team.Runs).Scan(&alone).Error
		if err != nil {
			return err
		}
		for _, workspace := range alone {
			if err := s.EraseWorkspace(ctx, workspace, now); err != nil {
				return err
			}
		}
		// Erased with their last workspace already, or a member of others.
		if err := s.db.WithContext(ctx).Where("id = ? and delete_at <= ?", users[0].ID, now).Delete(&User{}).Error; err != nil {
			return err
		}
	}
	return nil
}
