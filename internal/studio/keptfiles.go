package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/store"
)

// StoredFile is a picture, film or file that the workspace keeps.
type StoredFile struct {
	Name   string    `json:"name" doc:"File name below /media/."`
	Bytes  int64     `json:"bytes"`
	Width  int       `json:"width" doc:"In pixels; 0 where it has none."`
	Height int       `json:"height"`
	KeptAt time.Time `json:"keptAt" doc:"When it was last uploaded or made."`
	Used   bool      `json:"used" doc:"A page, a theme or a short link shows it now, so it cannot be deleted."`
}

func (s *Server) addKeptFiles() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-files", Method: http.MethodGet, Path: "/api/files", Summary: "List pictures and files of the workspace, latest first",
	}), s.listFiles)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-file", Method: http.MethodDelete, Path: "/api/files/{name}",
		Summary: "Delete a file that nothing shows; its address then says that it is gone", DefaultStatus: http.StatusNoContent,
	}), s.deleteFile)
}

func (s *Server) listFiles(ctx context.Context, in *ListPart) (*partOutput[StoredFile], error) {
	after, most, err := in.read()
	if err != nil {
		return nil, err
	}
	var place *store.MediaPlace
	if after != nil {
		place = &store.MediaPlace{CreatedAt: after.at, Name: after.key}
	}
	rows, err := s.Store.MediaOf(ctx, memberOf(ctx).WorkspaceID, place, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(rows, most,
		func(row store.KeptMedia) StoredFile {
			return StoredFile{Name: row.Name, Bytes: row.Size, Width: row.Width, Height: row.Height, KeptAt: row.KeptAt, Used: row.Used}
		},
		func(row store.KeptMedia) cursor { return cursor{row.CreatedAt, row.Name} }), nil
}

func (s *Server) deleteFile(ctx context.Context, in *struct {
	Name string `path:"name" maxLength:"80"`
},
) (*struct{}, error) {
	err := s.Files.Delete(ctx, memberOf(ctx).WorkspaceID, in.Name)
	if errors.Is(err, store.ErrInUse) {
		return nil, refuse(
			"name",
			"A page, a theme or a short link shows this file now. Take it off there and publish, then delete it. Nothing was changed.",
		)
	}
	if err != nil {
		return nil, problem(err)
	}
	return nil, nil
}
