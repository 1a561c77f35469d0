package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/page"
)

// Workspace is what a team of members shares.
type Workspace struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	Zone      string    // IANA name; days of readings are days of this zone
	KeepDays  int       `gorm:"default:760"` // how long raw events are kept
	CreatedAt time.Time
}

// Member is a person who may sign in.
type Member struct {
	ID           uuid.UUID `gorm:"primaryKey"`
	WorkspaceID  uuid.UUID
	Email        string // lower case
	PasswordHash string
	CreatedAt    time.Time
}

// NewAccount is what a sign-up brings, already checked.
type NewAccount struct {
	Email        string
	PasswordHash string
	PageAddress  string
	Zone         string
	Document     page.Document
}

// CreateAccount makes a workspace with its first member and page, all or
// nothing. It answers ErrEmailTaken or ErrAddressTaken.
func (s *Store) CreateAccount(ctx context.Context, account NewAccount, now time.Time) (Member, error) {
	workspace := Workspace{ID: newID(), Zone: account.Zone, CreatedAt: now}
	member := Member{ID: newID(), WorkspaceID: workspace.ID, Email: account.Email, PasswordHash: account.PasswordHash, CreatedAt: now}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&workspace).Error; err != nil {
			return err
		}
		if err := tx.Create(&member).Error; err != nil {
			return err
		}
		_, err := createPage(tx, workspace.ID, account.PageAddress, account.Document, now)
		return err
	})
	switch {
	case violates(err, "members_email_key"):
		return Member{}, ErrEmailTaken
	case err != nil:
		return Member{}, err
	}
	return member, nil
}

// MemberByEmail finds a member to sign in; ErrNotFound when nobody has that
// address.
func (s *Store) MemberByEmail(ctx context.Context, email string) (Member, error) {
	var member Member
	err := s.db.WithContext(ctx).Where("email = ?", email).Take(&member).Error
	return member, found(err)
}

// MemberByID finds the member of a session.
func (s *Store) MemberByID(ctx context.Context, id uuid.UUID) (Member, error) {
	var member Member
	err := s.db.WithContext(ctx).Where("id = ?", id).Take(&member).Error
	return member, found(err)
}

// Workspace finds a workspace.
func (s *Store) Workspace(ctx context.Context, id uuid.UUID) (Workspace, error) {
	var workspace Workspace
	err := s.db.WithContext(ctx).Where("id = ?", id).Take(&workspace).Error
	return workspace, found(err)
}

// ZoneOf is the time zone of the workspace of a page or a short link.
func (s *Store) ZoneOf(ctx context.Context, pageID uuid.UUID) (string, error) {
	var zone string
	err := s.pool.QueryRow(ctx, "select zone from workspaces join counted on counted.workspace_id = workspaces.id where counted.id = $1", pageID).Scan(&zone)
	return zone, err
}

// newID makes a UUIDv7, so that rows made later sort later.
func newID() uuid.UUID { return uuid.Must(uuid.NewV7()) }
