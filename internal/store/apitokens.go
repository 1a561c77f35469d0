package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/team"
)

// APITokensKept is how many tokens somebody may have in a workspace.
const APITokensKept = 20

// tokenUsedEvery is how exactly it is known when a token was used last.
const tokenUsedEvery = time.Minute

// ErrManyTokens: somebody has as many as they may.
var ErrManyTokens = errors.New("as many tokens as somebody may have")

// APIToken is what a program of a member gets in with.
type APIToken struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	UserID      uuid.UUID
	Name        string
	Digest      []byte
	// Role is what the program may do at most.
	Role      team.Role
	CreatedAt time.Time
	UsedAt    *time.Time
	Until     time.Time
}

// TableName implements schema.Tabler.
func (APIToken) TableName() string { return "api_tokens" }

// AddAPIToken keeps a token, of which only the digest is kept; ErrManyTokens.
func (s *Store) AddAPIToken(ctx context.Context, made APIToken, token string) (APIToken, error) {
	made.ID, made.Digest = newID(), digestOf(token)
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// One after the other, so that several at once do not come to more.
		if err := tx.Exec("select from users where id = ? for update", made.UserID).Error; err != nil {
			return err
		}
		var have int64
		err := tx.Model(&APIToken{}).Where("user_id = ? and workspace_id = ?", made.UserID, made.WorkspaceID).Count(&have).Error
		if err != nil {
			return err
		}
		if have >= APITokensKept {
			return ErrManyTokens
		}
		return tx.Create(&made).Error
	})
	return made, err
}

// APITokens lists those of somebody in a workspace, the latest first.
func (s *Store) APITokens(ctx context.Context, workspace, user uuid.UUID) (tokens []APIToken, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and user_id = ?", workspace, user).Order("created_at desc, id desc").
		Find(&tokens).Error
	return tokens, err
}

// EndAPIToken deletes a token of somebody in a workspace; ErrNotFound.
func (s *Store) EndAPIToken(ctx context.Context, workspace, user, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Where("workspace_id = ? and user_id = ? and id = ?", workspace, user, id).Delete(&APIToken{}))
}

// MemberOfToken finds whose token it is, and the token; ErrNotFound for one that is not known, is
// over, or whose owner is no longer a member.
func (s *Store) MemberOfToken(ctx context.Context, token string, now time.Time) (Member, APIToken, error) {
	var kept APIToken
	if err := s.db.WithContext(ctx).Where("digest = ? and until > ?", digestOf(token), now).Take(&kept).Error; err != nil {
		return Member{}, kept, found(err)
	}
	member, err := s.MemberOf(ctx, kept.WorkspaceID, kept.UserID)
	if err != nil {
		return Member{}, kept, err
	}
	if kept.UsedAt == nil || now.Sub(*kept.UsedAt) >= tokenUsedEvery {
		if err := s.db.WithContext(ctx).Model(&kept).Update("used_at", now).Error; err != nil {
			return Member{}, kept, fmt.Errorf("note when a token was used: %w", err)
		}
	}
	return member, kept, nil
}

// ForgetAPITokens deletes tokens that have been over for a while.
func (s *Store) ForgetAPITokens(ctx context.Context, now time.Time) error {
	return s.db.WithContext(ctx).Exec("delete from api_tokens where until < ?", now.AddDate(0, 0, -30)).Error
}
