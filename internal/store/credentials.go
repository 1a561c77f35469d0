package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Letters about the ways into an account.
const (
	NewPassword     LetterKind = "new password"
	PasswordChanged LetterKind = "password changed"
	ConfirmEmail    LetterKind = "confirm e-mail address"  // to the new one; its subject is the change
	EmailChanging   LetterKind = "e-mail address changing" // to the old one
	EmailChanged    LetterKind = "e-mail address changed"  // to the old one
)

// emailChangesKept is how long a change of e-mail address is known, and how long it can be
// confirmed at most.
const emailChangesKept = 30 * 24 * time.Hour

// EmailChange is an e-mail address that is to be changed, or was.
type EmailChange struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	UserID    uuid.UUID
	OldEmail  string
	Email     string // lower case
	CreatedAt time.Time
	DoneAt    *time.Time
}

// AskNewPassword has the way to a new password sent to whoever has an e-mail address; nobody learns
// whether that is anybody.
func (s *Store) AskNewPassword(ctx context.Context, email string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var users []User
		if err := tx.Select("id").Where("email = ?", email).Find(&users).Error; err != nil {
			return err
		}
		// Where that is nobody a letter is ordered all the same, and goes nowhere: how long it takes tells nothing.
		var user uuid.UUID
		if len(users) > 0 {
			user = users[0].ID
		}
		return s.orderLetters(tx, LetterOrder{About: NewPassword, User: user})
	})
}

// ResetPassword sets the password that a token from a letter is for, and ends every session. It
// answers ErrNotFound for a token that opens nothing.
func (s *Store) ResetPassword(ctx context.Context, token, hash string, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		user, err := takeToken(tx, SetsPassword, token, now)
		if err != nil {
			return err
		}
		return s.setPassword(tx, user, hash, "")
	})
}

// ChangePassword sets the password of a user, and ends every session but one, by the digest of its
// token.
func (s *Store) ChangePassword(ctx context.Context, user uuid.UUID, hash, session string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return s.setPassword(tx, user, hash, session) })
}

func (s *Store) setPassword(tx *gorm.DB, user uuid.UUID, hash, session string) error {
	if err := foundRow(tx.Model(&User{}).Where("id = ?", user).Update("password_hash", hash)); err != nil {
		return err
	}
	// A letter that was sent before opens nothing any more.
	if err := tx.Exec("delete from letter_tokens where subject = ? and purpose = ?", user, SetsPassword).Error; err != nil {
		return err
	}
	// Nor does an e-mail address change that somebody else began.
	if err := tx.Where("user_id = ? and done_at is null", user).Delete(&EmailChange{}).Error; err != nil {
		return err
	}
	if err := endSessions(tx, user, session); err != nil {
		return err
	}
	// Whoever knew the old password may have made tokens with it.
	if err := tx.Where("user_id = ?", user).Delete(&APIToken{}).Error; err != nil {
		return err
	}
	return s.orderLetters(tx, LetterOrder{About: PasswordChanged, User: user})
}

// ChangeEmail begins to change the e-mail address of a user: a letter to the new one has the way to
// confirm it, and the old one is told. An address that somebody else has is told that instead.
func (s *Store) ChangeEmail(ctx context.Context, user uuid.UUID, email string, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var own User
		if err := tx.Where("id = ?", user).Take(&own).Error; err != nil {
			return found(err)
		}
		var taken []User
		if err := tx.Select("id").Where("email = ?", email).Find(&taken).Error; err != nil {
			return err
		}
		if len(taken) > 0 {
			return s.orderLetters(tx, LetterOrder{About: AlreadyRegistered, User: taken[0].ID})
		}
		if err := tx.Where("user_id = ? and done_at is null", user).Delete(&EmailChange{}).Error; err != nil {
			return err
		}
		change := EmailChange{ID: newID(), UserID: user, OldEmail: own.Email, Email: email, CreatedAt: now}
		if err := tx.Create(&change).Error; err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: ConfirmEmail, Subject: change.ID}, LetterOrder{About: EmailChanging, Subject: change.ID})
	})
}

// EmailChange finds a change of e-mail address.
func (s *Store) EmailChange(ctx context.Context, id uuid.UUID) (change EmailChange, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&change).Error
	return change, found(err)
}

// ConfirmEmailChange makes the change that a token from a letter is for. It answers ErrNotFound for
// a token that opens nothing, and ErrEmailTaken when somebody else has the address by now.
func (s *Store) ConfirmEmailChange(ctx context.Context, token string, now time.Time) (change EmailChange, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		subject, err := takeToken(tx, ConfirmsEmail, token, now)
		if err != nil {
			return err
		}
		if err := tx.Where("id = ? and done_at is null", subject).Take(&change).Error; err != nil {
			return found(err)
		}
		if err := foundRow(tx.Model(&User{}).Where("id = ?", change.UserID).Update("email", change.Email)); err != nil {
			return err
		}
		if err := tx.Model(&change).Update("done_at", now).Error; err != nil {
			return err
		}
		// Letters to the old address open nothing any more.
		if err := tx.Exec("delete from letter_tokens where subject = ? and purpose = ?", change.UserID, SetsPassword).Error; err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: EmailChanged, Subject: change.ID})
	})
	if violates(err, "users_email_key") {
		err = ErrEmailTaken
	}
	return change, err
}

// UserByEmail finds a user to sign in; ErrNotFound when nobody has that address.
func (s *Store) UserByEmail(ctx context.Context, email string) (user User, err error) {
	err = s.db.WithContext(ctx).Where("email = ?", email).Take(&user).Error
	return user, found(err)
}

// UserByID finds a user.
func (s *Store) UserByID(ctx context.Context, id uuid.UUID) (user User, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&user).Error
	return user, found(err)
}
