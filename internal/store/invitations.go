package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/team"
)

// Invited asks somebody to become a member; its subject is the invitation.
const Invited LetterKind = "invitation"

// TakesInvitation is the purpose of the token in that letter.
const TakesInvitation TokenPurpose = "invitation"

// InvitedFor is how long an invitation can be taken.
const InvitedFor = 7 * 24 * time.Hour

// ErrAlreadyMember: who is invited is a member already.
var ErrAlreadyMember = errors.New("a member already")

// Invitation asks whoever has an e-mail address to become a member of a workspace.
type Invitation struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Email       string // lower case
	Role        team.Role
	Whole       bool
	Pages       []uuid.UUID `gorm:"serializer:json"`
	InvitedBy   string
	CreatedAt   time.Time
	Until       time.Time
}

// Reach is what of the workspace they are invited to.
func (i Invitation) Reach() Reach { return Reach{Whole: i.Whole, Pages: i.Pages} }

// Invite sends somebody an invitation, in place of one that they have. It answers ErrAlreadyMember.
func (s *Store) Invite(ctx context.Context, invitation Invitation, now time.Time) (Invitation, error) {
	invitation.ID, invitation.CreatedAt, invitation.Until = newID(), now, now.Add(InvitedFor)
	if invitation.Pages == nil {
		invitation.Pages = []uuid.UUID{}
	}
	workspace := invitation.WorkspaceID
	return invitation, s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		var members int64
		err := tx.Table("memberships").Joins("join users on users.id = user_id").
			Where("workspace_id = ? and email = ?", workspace, invitation.Email).Count(&members).Error
		if err != nil {
			return err
		}
		if members > 0 {
			return ErrAlreadyMember
		}
		if err := tx.Where("workspace_id = ? and email = ?", workspace, invitation.Email).Delete(&Invitation{}).Error; err != nil {
			return err
		}
		full := &QuotaError{What: "This workspace has %d members and invitations", Instead: "Take one back first."}
		err = room(tx, membersKept, full, `select (select count(*) from memberships where workspace_id = @id)
			+ (select count(*) from invitations where workspace_id = @id)`, map[string]any{"id": workspace})
		if err != nil {
			return err
		}
		if err := tx.Create(&invitation).Error; err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: Invited, Subject: invitation.ID})
	})
}

// Invitations lists the open invitations of a workspace, the newest first.
func (s *Store) Invitations(ctx context.Context, workspace uuid.UUID, now time.Time) (list []Invitation, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and until > ?", workspace, now).Order("created_at desc, id").Find(&list).Error
	return list, err
}

// TakeInvitationBack ends an invitation of a workspace.
func (s *Store) TakeInvitationBack(ctx context.Context, workspace, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Delete(&Invitation{}))
}

// Invitation finds one that can still be taken.
func (s *Store) Invitation(ctx context.Context, id uuid.UUID, now time.Time) (invitation Invitation, err error) {
	err = s.db.WithContext(ctx).Where("id = ? and until > ?", id, now).Take(&invitation).Error
	return invitation, found(err)
}

// TakeInvitation makes somebody a member by a token from a letter: the user, where there is one; a new
// one with the invited e-mail address and a password otherwise. It answers ErrNotFound for a token
// that opens nothing, and ErrEmailTaken when there is an account by now.
func (s *Store) TakeInvitation(ctx context.Context, token string, user *uuid.UUID, hash string, now time.Time) (member Member, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		subject, err := takeToken(tx, TakesInvitation, token, now)
		if err != nil {
			return err
		}
		var invitation Invitation
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and until > ?", subject, now).Take(&invitation).Error; err != nil {
			return found(err)
		}
		if err := hold(tx, invitation.WorkspaceID); err != nil {
			return err
		}
		if err := tx.Delete(&invitation).Error; err != nil {
			return err
		}
		member.WorkspaceID, member.Role, member.Whole = invitation.WorkspaceID, invitation.Role, invitation.Whole
		member.PageIDs = invitation.Pages
		if user == nil {
			member.User = User{ID: newID(), Email: invitation.Email, PasswordHash: hash, CreatedAt: now}
			err = tx.Create(&member.User).Error
		} else {
			err = found(tx.Where("id = ?", *user).Take(&member.User).Error)
		}
		if err != nil {
			return err
		}
		var already int64
		err = tx.Model(&Membership{}).Where("workspace_id = ? and user_id = ?", invitation.WorkspaceID, member.ID).Count(&already).Error
		if err != nil || already > 0 {
			return err // whoever is a member stays what they are
		}
		return addMember(tx, invitation.WorkspaceID, member.ID, invitation.Role, invitation.Reach(), now)
	})
	if violates(err, "users_email_key") {
		err = ErrEmailTaken
	}
	return member, err
}
