package store

import (
	"context"
	"crypto/rand"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// TokenPurpose is what a token that came in a letter opens.
type TokenPurpose string

// Purposes.
const (
	OpensAccount  TokenPurpose = "account"  // of a pending account
	SetsPassword  TokenPurpose = "password" // of a user
	ConfirmsEmail TokenPurpose = "email"    // of a change of e-mail address
)

// letterToken is what a letter carries, as it is kept.
type letterToken struct {
	Digest  []byte `gorm:"primaryKey"`
	Purpose TokenPurpose
	Subject uuid.UUID
	Until   time.Time
}

// NewLetterToken makes a token for a letter: it opens one thing, once, until a time. Only its
// digest is kept.
func (s *Store) NewLetterToken(ctx context.Context, purpose TokenPurpose, subject uuid.UUID, until time.Time) (string, error) {
	token := rand.Text() // 128 bits
	err := s.db.WithContext(ctx).Create(&letterToken{digestOf(token), purpose, subject, until}).Error
	return token, err
}

// SubjectOfToken is what a token opens; ErrNotFound for one that is over, was used, or was never
// made.
func (s *Store) SubjectOfToken(ctx context.Context, purpose TokenPurpose, token string, now time.Time) (uuid.UUID, error) {
	var kept letterToken
	err := s.db.WithContext(ctx).Where("digest = ? and purpose = ? and until > ?", digestOf(token), purpose, now).Take(&kept).Error
	return kept.Subject, found(err)
}

// takeToken uses a token up, and every other for the same.
func takeToken(tx *gorm.DB, purpose TokenPurpose, token string, now time.Time) (uuid.UUID, error) {
	var kept letterToken
	// Of two at once, the second waits here, and finds nothing.
	err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("digest = ? and purpose = ? and until > ?", digestOf(token), purpose, now).
		Take(&kept).Error
	if err != nil {
		return uuid.UUID{}, found(err)
	}
	return kept.Subject, tx.Where("subject = ? and purpose = ?", kept.Subject, purpose).Delete(&letterToken{}).Error
}

// ForgetLetterTokens removes tokens, pending accounts, invitations and changes of e-mail addresses that are over.
func (s *Store) ForgetLetterTokens(ctx context.Context, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("delete from letter_tokens where until < ?", now).Error; err != nil {
			return err
		}
		if err := tx.Exec("delete from email_changes where created_at < ?", now.Add(-emailChangesKept)).Error; err != nil {
			return err
		}
		if err := tx.Exec("delete from invitations where until < ?", now).Error; err != nil {
			return err
		}
		return tx.Exec("delete from pending_accounts where until < ?", now).Error
	})
}
