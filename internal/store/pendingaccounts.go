package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Letters about accounts that somebody asked for.
const (
	ConfirmAccount    LetterKind = "confirm account"    // its subject is a pending account
	AlreadyRegistered LetterKind = "already registered" // to the user who has the address
)

// PendingFor is how long an account that was asked for can be opened.
const PendingFor = 24 * time.Hour

// PendingAccount is an account that somebody asked for, and whose e-mail address is not confirmed.
type PendingAccount struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	Email       string    // lower case
	PageAddress string
	Zone        string
	CreatedAt   time.Time
	Until       time.Time
}

// BeginAccount has a letter sent to whoever asked for an account, with the way to open it. Where
// the address has an account already, the letter says so instead: nobody else learns of it.
func (s *Store) BeginAccount(ctx context.Context, email, pageAddress, zone string, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var users []User
		if err := tx.Select("id").Where("email = ?", email).Find(&users).Error; err != nil {
			return err
		}
		if len(users) > 0 {
			return s.orderLetters(tx, LetterOrder{About: AlreadyRegistered, User: users[0].ID})
		}
		pending, err := keepPending(tx, email, pageAddress, zone, now)
		if err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: ConfirmAccount, Subject: pending.ID})
	})
}

// KeepPending keeps an account that was asked for without sending a letter. It answers ErrEmailTaken
// for the address of an account.
func (s *Store) KeepPending(ctx context.Context, email, pageAddress, zone string, now time.Time) (pending PendingAccount, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var taken int64
		if err := tx.Model(&User{}).Where("email = ?", email).Count(&taken).Error; err != nil {
			return err
		}
		if taken > 0 {
			return ErrEmailTaken
		}
		pending, err = keepPending(tx, email, pageAddress, zone, now)
		return err
	})
	return pending, err
}

func keepPending(tx *gorm.DB, email, pageAddress, zone string, now time.Time) (PendingAccount, error) {
	pending := PendingAccount{
		ID: newID(), Email: email, PageAddress: pageAddress, Zone: zone, CreatedAt: now, Until: now.Add(PendingFor),
	}
	err := tx.Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "email"}},
		DoUpdates: clause.AssignmentColumns([]string{"page_address", "zone", "created_at", "until"}),
	}, clause.Returning{Columns: []clause.Column{{Name: "id"}}}).Create(&pending).Error
	return pending, err
}

// PendingAccount finds one that can still be opened.
func (s *Store) PendingAccount(ctx context.Context, id uuid.UUID, now time.Time) (pending PendingAccount, err error) {
	err = s.db.WithContext(ctx).Where("id = ? and until > ?", id, now).Take(&pending).Error
	return pending, found(err)
}

// OpenAccount opens the account that a token from a letter is for, with its first page. It answers
// ErrNotFound for a token that opens nothing, ErrEmailTaken or ErrAddressTaken; the token is used up
// only when the account is open.
func (s *Store) OpenAccount(ctx context.Context, token string, account NewAccount, now time.Time) (member Member, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		subject, err := takeToken(tx, OpensAccount, token, now)
		if err != nil {
			return err
		}
		var pending PendingAccount
		if err := tx.Where("id = ?", subject).Take(&pending).Error; err != nil {
			return found(err)
		}
		if err := tx.Delete(&pending).Error; err != nil {
			return err
		}
		account.Email, account.Zone = pending.Email, pending.Zone
		member, err = s.createAccount(tx, account, now)
		return err
	})
	return member, err
}
