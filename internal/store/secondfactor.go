package store

import (
	"context"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Letters about the second factor.
const (
	SecondFactorOn  LetterKind = "second factor on"
	SecondFactorOff LetterKind = "second factor off"
	RecoveryUsed    LetterKind = "recovery code used"
)

// SetSecondFactor switches the second factor of a user on, with the step of the code that proved
// it, and with fresh recovery codes; every session but one ends.
func (s *Store) SetSecondFactor(ctx context.Context, user uuid.UUID, secret string, step int64, codes []string, session string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := foundRow(tx.Model(&User{}).Where("id = ?", user).Updates(map[string]any{"totp_secret": secret, "totp_step": step}))
		if err != nil {
			return err
		}
		if err := setRecoveryCodes(tx, user, codes); err != nil {
			return err
		}
		if err := endSessions(tx, user, session); err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: SecondFactorOn, User: user})
	})
}

// ClearSecondFactor switches the second factor of a user off.
func (s *Store) ClearSecondFactor(ctx context.Context, user uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&User{}).Where("id = ? and totp_secret is not null", user).Update("totp_secret", nil)
		if done.Error != nil || done.RowsAffected == 0 {
			return done.Error
		}
		if err := setRecoveryCodes(tx, user, nil); err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: SecondFactorOff, User: user})
	})
}

// SetRecoveryCodes replaces the recovery codes of a user.
func (s *Store) SetRecoveryCodes(ctx context.Context, user uuid.UUID, codes []string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return setRecoveryCodes(tx, user, codes) })
}

func setRecoveryCodes(tx *gorm.DB, user uuid.UUID, codes []string) error {
	if err := tx.Exec("delete from recovery_codes where user_id = ?", user).Error; err != nil {
		return err
	}
	for _, code := range codes {
		if err := tx.Exec("insert into recovery_codes (user_id, digest) values (?, ?)", user, digestOf(code)).Error; err != nil {
			return err
		}
	}
	return nil
}

// TakeStep notes that the code of a step was used; false when that or a later one was before.
func (s *Store) TakeStep(ctx context.Context, user uuid.UUID, step int64) (bool, error) {
	done := s.db.WithContext(ctx).Exec("update users set totp_step = @step where id = @user and totp_step < @step",
		map[string]any{"user": user, "step": step})
	return done.RowsAffected > 0, done.Error
}

// TakeRecoveryCode uses a recovery code up; false when the user has no such code. They are told.
func (s *Store) TakeRecoveryCode(ctx context.Context, user uuid.UUID, code string) (taken bool, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Exec("delete from recovery_codes where user_id = ? and digest = ?", user, digestOf(code))
		if taken = done.RowsAffected > 0; done.Error != nil || !taken {
			return done.Error
		}
		return s.orderLetters(tx, LetterOrder{About: RecoveryUsed, User: user})
	})
	return taken, err
}

// RecoveryCodesLeft is how many recovery codes a user has.
func (s *Store) RecoveryCodesLeft(ctx context.Context, user uuid.UUID) (n int64, err error) {
	err = s.db.WithContext(ctx).Table("recovery_codes").Where("user_id = ?", user).Count(&n).Error
	return n, err
}
