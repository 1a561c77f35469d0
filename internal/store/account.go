package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/page"
	"jundle/internal/core/team"
)

// Workspace is what a team of members shares.
type Workspace struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	Zone      string    // IANA name; days of readings are days of this zone
	KeepDays  int       `gorm:"default:760"` // how long raw events are kept
	CreatedAt time.Time
}

// User is a person who may sign in.
type User struct {
	ID           uuid.UUID `gorm:"primaryKey"`
	Email        string    // lower case
	PasswordHash string
	// TOTPSecret is that of the second factor, base32; nil without one.
	TOTPSecret *string `gorm:"column:totp_secret"`
	// DeleteAt is when the account is gone for good; nil unless it was deleted.
	DeleteAt *time.Time
	// SuspendedAt is since when they are kept out, and SuspendedBecause why.
	SuspendedAt      *time.Time
	SuspendedBecause string
	CreatedAt        time.Time
}

// NewAccount is what a sign-up brings, already checked.
type NewAccount struct {
	Email        string
	PasswordHash string
	PageAddress  string
	Zone         string
	Document     page.Document
}

// CreateAccount makes a user with a workspace of theirs and its first page, all or
// nothing. It answers ErrEmailTaken or ErrAddressTaken. Nobody was asked to confirm the
// e-mail address: who signs up goes by OpenAccount.
func (s *Store) CreateAccount(ctx context.Context, account NewAccount, now time.Time) (member Member, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		member, err = s.createAccount(tx, account, now)
		return err
	})
	if err != nil {
		return Member{}, err
	}
	return member, nil
}

func (s *Store) createAccount(tx *gorm.DB, account NewAccount, now time.Time) (Member, error) {
	member := Member{User: User{ID: newID(), Email: account.Email, PasswordHash: account.PasswordHash, CreatedAt: now}}
	if err := tx.Create(&member.User).Error; err != nil {
		if violates(err, "users_email_key") {
			err = ErrEmailTaken
		}
		return Member{}, err
	}
	workspace, err := s.createWorkspace(tx, member.ID, account, now)
	member.WorkspaceID, member.Role, member.Whole = workspace, team.Runs, true
	return member, err
}

// createWorkspace makes a workspace that a user runs, with its first page.
func (s *Store) createWorkspace(tx *gorm.DB, user uuid.UUID, account NewAccount, now time.Time) (uuid.UUID, error) {
	workspace := Workspace{ID: newID(), Zone: account.Zone, CreatedAt: now}
	if err := tx.Create(&workspace).Error; err != nil {
		return workspace.ID, err
	}
	if err := addMember(tx, workspace.ID, user, team.Runs, Reach{Whole: true}, now); err != nil {
		return workspace.ID, err
	}
	_, err := s.createPage(tx, workspace.ID, account.PageAddress, account.Document, now)
	return workspace.ID, err
}

// OpenWorkspace makes another workspace that a user runs, with its first page. It answers
// ErrAddressTaken, and a *QuotaError for whoever runs as many as most.
func (s *Store) OpenWorkspace(
	ctx context.Context, user uuid.UUID, account NewAccount, most int64, now time.Time,
) (id uuid.UUID, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// The lock keeps two at once from going over the limit.
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", user).Take(&User{}).Error; err != nil {
			return found(err)
		}
		full := &QuotaError{What: "You run %d workspaces", Instead: "Use one of them, or have somebody else run it."}
		err := room(tx, most, full, "select count(*) from memberships where user_id = ? and role = ?", user, team.Runs)
		if err != nil {
			return err
		}
		id, err = s.createWorkspace(tx, user, account, now)
		return err
	})
	return id, err
}

// Workspace finds a workspace.
func (s *Store) Workspace(ctx context.Context, id uuid.UUID) (Workspace, error) {
	var workspace Workspace
	err := s.db.WithContext(ctx).Where("id = ?", id).Take(&workspace).Error
	return workspace, found(err)
}

// Location is the time zone of a workspace.
func (s *Store) Location(ctx context.Context, workspace uuid.UUID) (*time.Location, error) {
	about, err := s.Workspace(ctx, workspace)
	if err != nil {
		return nil, err
	}
	return time.LoadLocation(about.Zone)
}

// ZoneOf is the time zone of the workspace of a page or a short link.
func (s *Store) ZoneOf(ctx context.Context, pageID uuid.UUID) (string, error) {
	var zone string
	err := s.pool.QueryRow(ctx, "select zone from workspaces join endpoints on endpoints.workspace_id = workspaces.id where endpoints.id = $1",
		pageID).Scan(&zone)
	return zone, err
}

// newID makes a UUIDv7, so that rows made later sort later.
func newID() uuid.UUID { return uuid.Must(uuid.NewV7()) }
