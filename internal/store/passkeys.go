package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Letters about passkeys.
const (
	PasskeyAdded   LetterKind = "passkey added"
	PasskeyRemoved LetterKind = "passkey removed"
)

// passkeysKept is how many passkeys somebody may have.
const passkeysKept = 20

// Passkey is what a device keeps for somebody to sign in with.
type Passkey struct {
	ID     uuid.UUID `gorm:"primaryKey"`
	UserID uuid.UUID
	Name   string
	// Handle is what the device calls it, Credential its public half.
	Handle     []byte
	Credential json.RawMessage
	CreatedAt  time.Time
	UsedAt     *time.Time
}

// ErrPasskeyKnown: that passkey is kept already.
var ErrPasskeyKnown = errors.New("this passkey is kept already")

// AddPasskey keeps a passkey of a user, who is told of it; ErrPasskeyKnown.
func (s *Store) AddPasskey(ctx context.Context, key Passkey) (Passkey, error) {
	key.ID = newID()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// The lock keeps two at once from going over the limit.
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", key.UserID).Take(&User{}).Error; err != nil {
			return found(err)
		}
		full := &QuotaError{What: "You have %d passkeys", Instead: "Remove one that you do not use any more."}
		if err := room(tx, passkeysKept, full, "select count(*) from passkeys where user_id = ?", key.UserID); err != nil {
			return err
		}
		if err := tx.Create(&key).Error; err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: PasskeyAdded, User: key.UserID})
	})
	if isCode(err, uniqueViolation) {
		err = ErrPasskeyKnown
	}
	return key, err
}

// Passkeys lists the passkeys of a user, the newest first.
func (s *Store) Passkeys(ctx context.Context, user uuid.UUID) (keys []Passkey, err error) {
	err = s.db.WithContext(ctx).Where("user_id = ?", user).Order("created_at desc, id").Find(&keys).Error
	return keys, err
}

// UsePasskey notes that a passkey of a user was used, and how it is to be kept from now on.
func (s *Store) UsePasskey(ctx context.Context, user uuid.UUID, handle, credential []byte, now time.Time) error {
	return foundRow(s.db.WithContext(ctx).Model(&Passkey{}).Where("user_id = ? and handle = ?", user, handle).
		Updates(map[string]any{"credential": json.RawMessage(credential), "used_at": now}))
}

// RemovePasskey removes a passkey of a user, who is told of it.
func (s *Store) RemovePasskey(ctx context.Context, user, id uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := foundRow(tx.Where("user_id = ? and id = ?", user, id).Delete(&Passkey{})); err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: PasskeyRemoved, User: user})
	})
}
