package store

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/team"
)

// ErrLastRunner: somebody has to run a workspace.
var ErrLastRunner = errors.New("nobody would run the workspace")

// Membership makes a user a member of a workspace, with a role in it.
type Membership struct {
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	UserID      uuid.UUID `gorm:"primaryKey"`
	Role        team.Role
	Whole       bool
	CreatedAt   time.Time
}

// Member is a user in one of their workspaces.
type Member struct {
	User
	WorkspaceID uuid.UUID
	Role        team.Role
	// Whole: of the whole workspace, and not of PageIDs alone.
	Whole   bool
	PageIDs []uuid.UUID `gorm:"-"`
	// Joined is since when.
	Joined time.Time
	// Program is what acts for them with a token; empty for themselves.
	Program string `gorm:"-"`
}

// Reach is what of a workspace somebody is a member for: the whole of it, or some of its pages.
type Reach struct {
	Whole bool
	Pages []uuid.UUID
}

// Covers tells whether a page of the workspace is among it.
func (r Reach) Covers(page uuid.UUID) bool { return r.Whole || slices.Contains(r.Pages, page) }

// Reach is what of the workspace they are a member for.
func (m Member) Reach() Reach { return Reach{Whole: m.Whole, Pages: m.PageIDs} }

// membersKept is how many members a workspace may have, with those who are invited.
const membersKept = 100

// addMember makes a user a member of a workspace, who is sent the figures of the week.
func addMember(tx *gorm.DB, workspace, user uuid.UUID, role team.Role, reach Reach, now time.Time) error {
	err := tx.Exec(`insert into memberships (workspace_id, user_id, role, whole, created_at, weekly_letter_at)
		select id, @user, @role, @whole, @now, `+nextLetter+` from workspaces where id = @workspace`,
		map[string]any{"workspace": workspace, "user": user, "role": role, "whole": reach.Whole, "now": now}).Error
	if err != nil {
		return err
	}
	return setPages(tx, workspace, user, reach)
}

// setPages sets the pages of a member for some pages. Those of other workspaces, and those that are
// gone, are left out.
func setPages(tx *gorm.DB, workspace, user uuid.UUID, reach Reach) error {
	if err := tx.Exec("delete from membership_pages where workspace_id = ? and user_id = ?", workspace, user).Error; err != nil {
		return err
	}
	if reach.Whole || len(reach.Pages) == 0 {
		return nil
	}
	return tx.Exec(`insert into membership_pages (workspace_id, user_id, page_id)
		select workspace_id, @user, id from pages where workspace_id = @workspace and id in @pages`,
		map[string]any{"workspace": workspace, "user": user, "pages": reach.Pages}).Error
}

// MemberByEmail finds a user to sign in, in the workspace they have been in for
// longest; ErrNotFound when nobody has that address, or they are in no workspace.
func (s *Store) MemberByEmail(ctx context.Context, email string) (Member, error) {
	return s.member(ctx, "users.email = ?", email)
}

// MemberIn finds a user in a workspace or, where they are not in it, in the one that they have been
// in for longest. Whoever is in none is a member without a workspace. ErrNotFound when there is no
// such user.
func (s *Store) MemberIn(ctx context.Context, user, workspace uuid.UUID) (Member, error) {
	member, err := s.memberFirst(ctx, clause.OrderBy{Expression: gorm.Expr(
		"memberships.workspace_id = ? desc, memberships.created_at, memberships.workspace_id", workspace)}, "users.id = ?", user)
	if !errors.Is(err, ErrNotFound) {
		return member, err
	}
	found, err := s.UserByID(ctx, user)
	return Member{User: found}, err
}

// MemberOf finds a member of a workspace.
func (s *Store) MemberOf(ctx context.Context, workspace, user uuid.UUID) (Member, error) {
	return s.member(ctx, "memberships.workspace_id = ? and users.id = ?", workspace, user)
}

func (s *Store) member(ctx context.Context, which string, is ...any) (member Member, err error) {
	longest := clause.OrderBy{Expression: gorm.Expr("memberships.created_at, memberships.workspace_id")}
	return s.memberFirst(ctx, longest, which, is...)
}

func (s *Store) memberFirst(ctx context.Context, order clause.OrderBy, which string, is ...any) (member Member, err error) {
	err = s.members(ctx).Where(which, is...).Clauses(order).Take(&member).Error
	if err != nil {
		return member, found(err)
	}
	some := []Member{member}
	err = s.addPages(ctx, some)
	return some[0], err
}

func (s *Store) members(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Table("users").Joins("join memberships on memberships.user_id = users.id").
		Select("users.*, memberships.workspace_id, memberships.role, memberships.whole, memberships.created_at as joined")
}

// MembersOf lists the members of a workspace, longest first.
func (s *Store) MembersOf(ctx context.Context, workspace uuid.UUID) ([]Member, error) {
	var members []Member
	err := s.members(ctx).Where("memberships.workspace_id = ?", workspace).
		Order("memberships.created_at, users.id").Find(&members).Error
	if err != nil {
		return nil, err
	}
	return members, s.addPages(ctx, members)
}

// Memberships lists the workspaces of a user, longest first.
func (s *Store) Memberships(ctx context.Context, user uuid.UUID) ([]Member, error) {
	var members []Member
	err := s.members(ctx).Where("users.id = ?", user).Order("memberships.created_at, memberships.workspace_id").Find(&members).Error
	if err != nil {
		return nil, err
	}
	return members, s.addPages(ctx, members)
}

// addPages looks up the pages of those who are members for some.
func (s *Store) addPages(ctx context.Context, members []Member) error {
	var keys [][]any
	for _, member := range members {
		if !member.Whole {
			keys = append(keys, []any{member.WorkspaceID, member.ID})
		}
	}
	if len(keys) == 0 {
		return nil
	}
	var rows []struct{ WorkspaceID, UserID, PageID uuid.UUID }
	err := s.db.WithContext(ctx).Table("membership_pages").Where("(workspace_id, user_id) in ?", keys).Order("page_id").Find(&rows).Error
	if err != nil {
		return err
	}
	for i, member := range members {
		for _, row := range rows {
			if row.WorkspaceID == member.WorkspaceID && row.UserID == member.ID {
				members[i].PageIDs = append(members[i].PageIDs, row.PageID)
			}
		}
	}
	return nil
}

// nameOfPage is what a page is called, of rows of pages with their present address, if they have one.
const nameOfPage = "coalesce(nullif(trim(draft -> 'header' ->> 'name'), ''), address, '')"

// NamesOfWorkspaces is what workspaces are called: as their oldest page is.
func (s *Store) NamesOfWorkspaces(ctx context.Context, workspaces []uuid.UUID) (map[uuid.UUID]string, error) {
	names := make(map[uuid.UUID]string, len(workspaces))
	if len(workspaces) == 0 {
		return names, nil
	}
	var rows []struct {
		WorkspaceID uuid.UUID
		Name        string
	}
	err := s.db.WithContext(ctx).Raw(`
		select distinct on (pages.workspace_id) pages.workspace_id, `+nameOfPage+` as name
		from pages left join addresses on endpoint_id = pages.id and present
		where pages.workspace_id in ? order by pages.workspace_id, pages.created_at, pages.id`, workspaces).Scan(&rows).Error
	for _, row := range rows {
		names[row.WorkspaceID] = row.Name
	}
	return names, err
}

// ChangeMember sets the role of a member of a workspace, and what they are a member for; ErrLastRunner
// when nobody would run the workspace.
func (s *Store) ChangeMember(ctx context.Context, workspace, user uuid.UUID, role team.Role, reach Reach) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		done := tx.Model(&Membership{}).Where("workspace_id = ? and user_id = ?", workspace, user).
			Updates(map[string]any{"role": role, "whole": reach.Whole})
		if err := foundRow(done); err != nil {
			return err
		}
		if err := setPages(tx, workspace, user, reach); err != nil {
			return err
		}
		return somebodyRuns(tx, workspace)
	})
}

// RemoveMember ends a membership; ErrLastRunner when nobody would run the workspace.
func (s *Store) RemoveMember(ctx context.Context, workspace, user uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := foundRow(tx.Where("workspace_id = ? and user_id = ?", workspace, user).Delete(&Membership{})); err != nil {
			return err
		}
		return somebodyRuns(tx, workspace)
	})
}

func somebodyRuns(tx *gorm.DB, workspace uuid.UUID) error {
	var runners int64
	err := tx.Model(&Membership{}).Where("workspace_id = ? and role = ? and whole", workspace, team.Runs).Count(&runners).Error
	if err == nil && runners == 0 {
		err = ErrLastRunner
	}
	return err
}
