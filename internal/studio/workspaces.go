package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/team"
	"jundle/internal/core/window"
	"jundle/internal/store"
)

// workspacesRun is how many workspaces somebody may run.
const workspacesRun = 10

// WorkspaceChoice is a workspace somebody is a member of.
type WorkspaceChoice struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" doc:"As its oldest page is called."`
	Role    team.Role `json:"role" enum:"runs,edits,reads"`
	Whole   bool      `json:"whole"`
	Joined  time.Time `json:"joined"`
	Current bool      `json:"current" doc:"The one they are in now."`
}

func (s *Server) addWorkspaces() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-workspaces", Method: http.MethodGet, Path: "/api/workspaces", Summary: "The workspaces you are a member of",
	}), s.listWorkspaces)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "enter-workspace", Method: http.MethodPost, Path: "/api/workspaces/{workspace}/enter",
		Summary: "Go on in another workspace, in this session", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		Workspace uuid.UUID `path:"workspace"`
	},
	) (*struct{}, error) {
		if _, err := s.Store.MemberOf(ctx, in.Workspace, memberOf(ctx).ID); err != nil {
			return nil, problem(err)
		}
		s.sessions.Put(ctx, store.SessionWorkspace, in.Workspace.String())
		return nil, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "open-workspace", Method: http.MethodPost, Path: "/api/workspaces",
		Summary: "Open a workspace of your own with its first page, and go on in it", DefaultStatus: http.StatusNoContent,
	}), s.openWorkspace)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "leave-workspace", Method: http.MethodDelete, Path: "/api/workspace/membership",
		Summary: "Leave the workspace you are in", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		member := memberOf(ctx)
		return nil, lastRunnerOr(s.Store.RemoveMember(ctx, member.WorkspaceID, member.ID))
	})
}

// lastRunnerOr says that somebody has to run a workspace.
func lastRunnerOr(err error) error {
	if errors.Is(err, store.ErrLastRunner) {
		return refuse("member", "Nobody would run this workspace any more. Let somebody else run it first. Nothing was changed.")
	}
	return problemOrNil(err)
}

func (s *Server) listWorkspaces(ctx context.Context, _ *struct{}) (*listOutput[WorkspaceChoice], error) {
	member := memberOf(ctx)
	memberships, err := s.Store.Memberships(ctx, member.ID)
	if err != nil {
		return nil, problem(err)
	}
	ids := make([]uuid.UUID, len(memberships))
	for i, one := range memberships {
		ids[i] = one.WorkspaceID
	}
	names, err := s.Store.NamesOfWorkspaces(ctx, ids)
	if err != nil {
		return nil, problem(err)
	}
	list := make([]WorkspaceChoice, len(memberships))
	for i, one := range memberships {
		list[i] = WorkspaceChoice{
			ID: one.WorkspaceID, Name: names[one.WorkspaceID], Role: one.Role, Whole: one.Whole, Joined: one.Joined,
			Current: one.WorkspaceID == member.WorkspaceID,
		}
	}
	return &listOutput[WorkspaceChoice]{list}, nil
}

func (s *Server) openWorkspace(ctx context.Context, in *struct {
	Body struct {
		PageAddress string `json:"pageAddress" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen."`
		Zone        string `json:"zone" maxLength:"64" doc:"IANA time zone of the browser."`
	}
},
) (*struct{}, error) {
	name, err := address.ParsePageAddress(in.Body.PageAddress)
	if err != nil {
		return nil, refuse("pageAddress", err.Error())
	}
	zone := in.Body.Zone
	if !window.IsZone(zone) {
		zone = "UTC"
	}
	opened, err := s.Store.OpenWorkspace(ctx, memberOf(ctx).ID, store.NewAccount{PageAddress: name, Zone: zone, Document: page.New()},
		workspacesRun, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	s.sessions.Put(ctx, store.SessionWorkspace, opened.String())
	return nil, nil
}
