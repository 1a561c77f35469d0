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

// User is a person who may sign in.
type User struct {
	ID           uuid.UUID `gorm:"primaryKey"`
	Email        string    // lower case
	PasswordHash string
	CreatedAt    time.Time
}

// Role says what a user may do in a workspace.
type Role string

// Owner may do everything.
const Owner Role = "owner"

// Membership makes a user a member of a workspace.
type Membership struct {
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	UserID      uuid.UUID `gorm:"primaryKey"`
	Role        Role
	CreatedAt   time.Time
}

// Member is a user in one of their workspaces.
type Member struct {
	User
	WorkspaceID uuid.UUID
	Role        Role
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
// nothing. It answers ErrEmailTaken or ErrAddressTaken.
func (s *Store) CreateAccount(ctx context.Context, account NewAccount, now time.Time) (Member, error) {
	workspace := Workspace{ID: newID(), Zone: account.Zone, CreatedAt: now}
	member := Member{
		User:        User{ID: newID(), Email: account.Email, PasswordHash: account.PasswordHash, CreatedAt: now},
		WorkspaceID: workspace.ID, Role: Owner,
	}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&workspace).Error; err != nil {
			return err
		}
		if err := tx.Create(&member.User).Error; err != nil {
			return err
		}
		if err := addMember(tx, workspace.ID, member.ID, Owner, now); err != nil {
			return err
		}
		_, err := s.createPage(tx, workspace.ID, account.PageAddress, account.Document, now)
		return err
	})
	switch {
	case violates(err, "users_email_key"):
		return Member{}, ErrEmailTaken
	case err != nil:
		return Member{}, err
	}
	return member, nil
}

// addMember makes a user a member of a workspace, who is sent the figures of the week.
func addMember(tx *gorm.DB, workspace, user uuid.UUID, role Role, now time.Time) error {
	return tx.Exec("insert into memberships (workspace_id, user_id, role, created_at, weekly_letter_at) select id, @user, @role, @now, "+
		nextLetter+" from workspaces where id = @workspace",
		map[string]any{"workspace": workspace, "user": user, "role": role, "now": now}).Error
}

// MemberByEmail finds a user to sign in, in the workspace they have been in for
// longest; ErrNotFound when nobody has that address.
func (s *Store) MemberByEmail(ctx context.Context, email string) (Member, error) {
	return s.member(ctx, "users.email = ?", email)
}

// MemberByID finds the user of a session, in the workspace they have been in for
// longest.
func (s *Store) MemberByID(ctx context.Context, user uuid.UUID) (Member, error) {
	return s.member(ctx, "users.id = ?", user)
}

// MemberOf finds a member of a workspace.
func (s *Store) MemberOf(ctx context.Context, workspace, user uuid.UUID) (member Member, err error) {
	err = s.members(ctx).Where("memberships.workspace_id = ? and users.id = ?", workspace, user).Take(&member).Error
	return member, found(err)
}

func (s *Store) member(ctx context.Context, which string, is any) (member Member, err error) {
	err = s.members(ctx).Where(which, is).Order("memberships.created_at, memberships.workspace_id").Take(&member).Error
	return member, found(err)
}

func (s *Store) members(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Table("users").Joins("join memberships on memberships.user_id = users.id").
		Select("users.*, memberships.workspace_id, memberships.role")
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
