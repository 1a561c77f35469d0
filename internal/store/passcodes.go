package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// passcodesKept is how many passcodes a workspace may have: a page that was published
// keeps the one it had then.
const passcodesKept = 1000

// AddPasscode keeps the hash of a passcode for a workspace; a *QuotaError when there are
// as many as there may be.
func (s *Store) AddPasscode(ctx context.Context, workspace uuid.UUID, hash string, now time.Time) (uuid.UUID, error) {
	id := newID()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		full := &QuotaError{What: "You have set %d passcodes", Instead: "Use one that is set already."}
		if err := room(tx, passcodesKept, full, "select count(*) from passcodes where workspace_id = ?", workspace); err != nil {
			return err
		}
		return tx.Exec("insert into passcodes (id, workspace_id, hash, created_at) values (?, ?, ?, ?)", id, workspace, hash, now).Error
	})
	return id, err
}

// HasPasscodes tells whether all of these are passcodes of a workspace.
func (s *Store) HasPasscodes(ctx context.Context, workspace uuid.UUID, ids []string) (all bool, err error) {
	err = s.pool.QueryRow(ctx, `
		select not exists (select from unnest($2::text[]) asked where not exists (
			select from passcodes where workspace_id = $1 and id::text = asked))`, workspace, ids).Scan(&all)
	return all, err
}

// PasscodeHash is the hash of a passcode of a workspace; ErrNotFound when there is none.
func (s *Store) PasscodeHash(ctx context.Context, workspace uuid.UUID, id string) (string, error) {
	var hashes []string
	err := s.db.WithContext(ctx).
		Raw("select hash from passcodes where workspace_id = ? and id::text = ?", workspace, id).
		Scan(&hashes).
		Error
	if err == nil && len(hashes) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return "", err
	}
	return hashes[0], nil
}
