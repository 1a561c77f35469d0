package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jundle/internal/exports"
	"jundle/internal/filehandler"
	"jundle/internal/store"
)

// Export is how the export of a workspace stands.
type Export struct {
	State     string     `json:"state" enum:"none,running,ready,failed,stopped"`
	Done      int        `json:"done" doc:"How many of its parts are written."`
	Parts     int        `json:"parts" doc:"How many there are; 0 before that is known."`
	Bytes     int64      `json:"bytes" doc:"Of the file, when it is ready."`
	StartedAt *time.Time `json:"startedAt,omitempty"`
	Until     *time.Time `json:"until,omitempty" doc:"Until when it can be downloaded."`
}

type exportOutput struct{ Body Export }

func (s *Server) addExports() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "begin-export", Method: http.MethodPost, Path: "/api/workspace/export",
		Summary: "Begin to write everything there is of the workspace into a zip of plain files", DefaultStatus: http.StatusAccepted,
		Description: "One is written at a time; where one is under way, that one is answered.",
	}), func(ctx context.Context, _ *struct{}) (*exportOutput, error) {
		begun, err := s.Exporter.Begin(ctx, memberOf(ctx).WorkspaceID)
		if err != nil && !errors.Is(err, store.ErrRunning) {
			return nil, problem(err)
		}
		return &exportOutput{exportOf(begun)}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-export", Method: http.MethodGet, Path: "/api/workspace/export", Summary: "How the export stands",
	}), func(ctx context.Context, _ *struct{}) (*exportOutput, error) {
		latest, err := s.Store.LatestExport(ctx, memberOf(ctx).WorkspaceID, s.Now())
		if errors.Is(err, store.ErrNotFound) {
			return &exportOutput{Export{State: "none"}}, nil
		}
		if err != nil {
			return nil, problem(err)
		}
		return &exportOutput{exportOf(latest)}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "stop-export", Method: http.MethodDelete, Path: "/api/workspace/export", Summary: "Stop the export that is under way",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		err := s.Exporter.Stop(ctx, memberOf(ctx).WorkspaceID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, problem(err)
		}
		return nil, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "download-export", Method: http.MethodGet, Path: "/api/workspace/export/file",
		Summary: "Download the export, whole or from where it broke off",
	}), s.downloadExport)
}

func exportOf(row store.Export) Export {
	shown := Export{State: string(row.State), Done: row.Done, Parts: row.Parts, Bytes: row.Size, StartedAt: &row.StartedAt}
	if row.State == store.ExportReady {
		until := row.AliveAt.Add(exports.KeptFor)
		shown.Until = &until
	}
	return shown
}

func (s *Server) downloadExport(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
	latest, err := s.Store.LatestExport(ctx, memberOf(ctx).WorkspaceID, s.Now())
	if err == nil && latest.State != store.ExportReady {
		err = store.ErrNotFound
	}
	if errors.Is(err, store.ErrNotFound) {
		return nil, huma.Error404NotFound("There is no export to download. Make one first.")
	}
	if err != nil {
		return nil, problem(err)
	}
	return &huma.StreamResponse{Body: func(stream huma.Context) {
		stream.SetHeader("Content-Type", "application/zip")
		stream.SetHeader("Content-Disposition", `attachment; filename="jundle-`+latest.StartedAt.UTC().Format(time.DateOnly)+`.zip"`)
		stream.SetHeader("ETag", `"`+latest.ID.String()+`"`)
		filehandler.ServeStream(humagin.Unwrap(stream), s.Files.At(latest.Blob, latest.Size))
	}}, nil
}
