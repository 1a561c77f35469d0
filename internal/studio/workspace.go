package studio

import (
	"context"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jundle/internal/archive"
	"jundle/internal/passwords"
)

// WorkspaceView is what all pages of a workspace share.
type WorkspaceView struct {
	Zone     string `json:"zone,omitempty" readOnly:"true" doc:"IANA time zone: days are its days, and windows are entered in it."`
	KeepDays int    `json:"keepDays" minimum:"1" maximum:"3650" doc:"For how many days raw events are kept. Daily figures stay."`
}

func (s *Server) addWorkspace() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-workspace", Method: http.MethodGet, Path: "/api/workspace", Summary: "What all pages of the workspace share",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body WorkspaceView }, error) {
		workspace, err := s.Store.Workspace(ctx, memberOf(ctx).WorkspaceID)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body WorkspaceView }{WorkspaceView{Zone: workspace.Zone, KeepDays: workspace.KeepDays}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-workspace", Method: http.MethodPut, Path: "/api/workspace", Summary: "Set for how long raw events are kept",
	}), func(ctx context.Context, in *struct{ Body WorkspaceView }) (*struct{ Body WorkspaceView }, error) {
		if err := s.Store.KeepDays(ctx, memberOf(ctx).WorkspaceID, in.Body.KeepDays); err != nil {
			return nil, problem(err)
		}
		return &struct{ Body WorkspaceView }{in.Body}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "export-workspace", Method: http.MethodGet, Path: "/api/workspace/export", Summary: "Everything there is of the workspace, as a zip of plain files",
	}), s.exportWorkspace)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "erase-workspace", Method: http.MethodPost, Path: "/api/workspace/erase", Summary: "Erase the workspace with everything in it, for good",
	}), s.eraseWorkspace)
}

func (s *Server) exportWorkspace(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
	workspace := memberOf(ctx).WorkspaceID
	return &huma.StreamResponse{Body: func(stream huma.Context) {
		stream.SetHeader("Content-Type", "application/zip")
		stream.SetHeader("Content-Disposition", `attachment; filename="jundle-`+s.Now().UTC().Format(time.DateOnly)+`.zip"`)
		// Years of events take longer than an ordinary answer may.
		_ = http.NewResponseController(humagin.Unwrap(stream).Writer).SetWriteDeadline(time.Time{})
		if err := archive.Write(stream.Context(), s.Store, workspace, stream.BodyWriter()); err != nil {
			slog.Error("an export broke off", "error", err)
		}
	}}, nil
}

func (s *Server) eraseWorkspace(ctx context.Context, in *struct {
	Body struct {
		Password string `json:"password"`
	}
},
) (*struct{}, error) {
	member := memberOf(ctx)
	if err := s.limits.take(member.Email, member.ID.String()); err != nil {
		return nil, err
	}
	if !passwords.Match(in.Body.Password, member.PasswordHash) {
		return nil, refuse("password", "This is not your password. Nothing was erased.")
	}
	if err := s.Store.EraseWorkspace(ctx, member.WorkspaceID); err != nil {
		return nil, problem(err)
	}
	return s.signOut(ctx, nil)
}
