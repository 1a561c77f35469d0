package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/window"
)

// WorkspaceView is what all pages of a workspace share.
type WorkspaceView struct {
	Zone       string `json:"zone,omitempty" readOnly:"true" doc:"IANA time zone: days are its days, and windows are entered in it."`
	KeepDays   int    `json:"keepDays" minimum:"1" maximum:"3650" doc:"For how many days raw events are kept. Daily figures stay."`
	EventsFrom string `json:"eventsFrom,omitempty" readOnly:"true" doc:"First day of raw events, YYYY-MM-DD; days before stay as they are."`
}

func (s *Server) addWorkspace() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-workspace", Method: http.MethodGet, Path: "/api/workspace", Summary: "What all pages of the workspace share",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body WorkspaceView }, error) {
		return s.workspaceView(ctx)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-zone", Method: http.MethodPut, Path: "/api/workspace/zone", Summary: "Change the time zone of the workspace",
		Description: "Days whose raw events are still there are counted anew by it. Windows keep the moments they stand for.",
	}), s.changeZone)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-workspace", Method: http.MethodPut, Path: "/api/workspace", Summary: "Set for how long raw events are kept",
	}), func(ctx context.Context, in *struct{ Body WorkspaceView }) (*struct{ Body WorkspaceView }, error) {
		if err := s.Store.KeepDays(ctx, memberOf(ctx).WorkspaceID, in.Body.KeepDays); err != nil {
			return nil, problem(err)
		}
		return s.workspaceView(ctx)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-usage", Method: http.MethodGet, Path: "/api/workspace/usage",
		Summary: "What the workspace holds, and how much of each it may",
	}), s.getUsage)
	s.addExports()
}

func (s *Server) workspaceView(ctx context.Context) (*struct{ Body WorkspaceView }, error) {
	workspace, err := s.Store.Workspace(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	view := WorkspaceView{Zone: workspace.Zone, KeepDays: workspace.KeepDays}
	from, err := s.Store.EventsFrom(ctx, workspace.ID)
	if err != nil {
		return nil, problem(err)
	}
	if !from.IsZero() {
		view.EventsFrom = from.Format(time.DateOnly)
	}
	return &struct{ Body WorkspaceView }{view}, nil
}

func (s *Server) changeZone(ctx context.Context, in *struct {
	Body struct {
		Zone string `json:"zone" maxLength:"64" doc:"IANA time zone, such as Europe/Lisbon."`
	}
},
) (*struct{ Body WorkspaceView }, error) {
	if !window.IsZone(in.Body.Zone) {
		return nil, refuse("zone", "is no time zone; one is called like Europe/Lisbon")
	}
	if err := s.Store.ChangeZone(ctx, memberOf(ctx).WorkspaceID, in.Body.Zone); err != nil {
		return nil, problem(err)
	}
	return s.workspaceView(ctx)
}

// Usage is how much of something a workspace holds.
type Usage struct {
	Name string `json:"name" enum:"media,pages,shortLinks,destinations,sources,addresses,editions,shares"`
	Used int64  `json:"used"`
	Of   int64  `json:"of"`
}

func (s *Server) getUsage(ctx context.Context, _ *struct{}) (*listOutput[Usage], error) {
	uses, err := s.Store.Usage(ctx, memberOf(ctx).WorkspaceID, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	list := make([]Usage, len(uses))
	for i, use := range uses {
		list[i] = Usage(use)
	}
	return &listOutput[Usage]{list}, nil
}
