package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/team"
	"jundle/internal/store"
)

// MemberView is a member of the workspace.
type MemberView struct {
	ID     uuid.UUID   `json:"id"`
	Email  string      `json:"email"`
	Role   team.Role   `json:"role" enum:"runs,edits,reads"`
	Whole  bool        `json:"whole" doc:"Of the whole workspace, and not of some pages."`
	Pages  []uuid.UUID `json:"pages" nullable:"false" doc:"Those of a member for some pages."`
	Joined time.Time   `json:"joined"`
	You    bool        `json:"you"`
}

// RoleBody is what somebody may do, and with what.
type RoleBody struct {
	Role  team.Role   `json:"role" enum:"runs,edits,reads"`
	Whole bool        `json:"whole" doc:"Of the whole workspace; whoever runs it has to be."`
	Pages []uuid.UUID `json:"pages" nullable:"false" maxItems:"50" doc:"Of a member for some pages: one at least."`
}

// reach checks what somebody is to be a member for.
func (b RoleBody) reach() (store.Reach, error) {
	switch {
	case b.Role == team.Runs && !b.Whole:
		return store.Reach{}, refuse("whole", "Whoever runs the workspace is a member for all of it.")
	case !b.Whole && len(b.Pages) == 0:
		return store.Reach{}, refuse("pages", "Choose a page at least, or the whole workspace.")
	case b.Whole:
		return store.Reach{Whole: true}, nil
	}
	return store.Reach{Pages: b.Pages}, nil
}

func (s *Server) addMembers() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-members", Method: http.MethodGet, Path: "/api/members", Summary: "The members of the workspace, longest first",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[MemberView], error) {
		self := memberOf(ctx)
		members, err := s.Store.MembersOf(ctx, self.WorkspaceID)
		if err != nil {
			return nil, problem(err)
		}
		list := make([]MemberView, len(members))
		for i, one := range members {
			list[i] = MemberView{
				ID: one.ID, Email: one.Email, Role: one.Role, Whole: one.Whole, Pages: append([]uuid.UUID{}, one.PageIDs...),
				Joined: one.Joined, You: one.ID == self.ID,
			}
		}
		return &listOutput[MemberView]{list}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-member", Method: http.MethodPut, Path: "/api/members/{member}",
		Summary: "Set what a member may do, and with what", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		MemberPath
		Body RoleBody
	},
	) (*struct{}, error) {
		reach, err := in.Body.reach()
		if err != nil {
			return nil, err
		}
		return nil, lastRunnerOr(s.Store.ChangeMember(ctx, memberOf(ctx).WorkspaceID, in.Member, in.Body.Role, reach))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remove-member", Method: http.MethodDelete, Path: "/api/members/{member}", Summary: "End a membership at once",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *MemberPath) (*struct{}, error) {
		return nil, lastRunnerOr(s.Store.RemoveMember(ctx, memberOf(ctx).WorkspaceID, in.Member))
	})
}

// MemberPath names a member of the workspace.
type MemberPath struct {
	Member uuid.UUID `path:"member"`
}
