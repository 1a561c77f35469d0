package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/store"
)

// SharedFigures is a read-only address of the figures of a page or a short link.
type SharedFigures struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" doc:"Whom it is for."`
	Until   time.Time `json:"until"`
	Address string    `json:"address,omitempty" doc:"Told once, when it is made: only a digest of it is kept."`
}

// SharedPath names the page or the short link whose figures are shared.
type SharedPath struct {
	Of uuid.UUID `path:"of" doc:"ID of a page or a short link."`
}

func (s *Server) addShared() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-shared-figures", Method: http.MethodGet, Path: "/api/shared-figures/{of}",
		Summary: "List the read-only addresses of the figures of a page or a short link",
	}), s.listShared)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "share-figures", Method: http.MethodPost, Path: "/api/shared-figures/{of}",
		Summary: "Make a read-only address of the figures of a page or a short link", DefaultStatus: http.StatusCreated,
	}), s.shareFigures)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "close-shared-figures", Method: http.MethodDelete, Path: "/api/shared-figures/{of}/{shared}",
		Summary: "Close a read-only address for good",
	}), func(ctx context.Context, in *struct {
		SharedPath
		Shared uuid.UUID `path:"shared"`
	},
	) (*struct{}, error) {
		if err := s.Store.CloseShared(ctx, memberOf(ctx).WorkspaceID, in.Of, in.Shared); err != nil {
			return nil, problem(err)
		}
		return nil, nil
	})
}

func (s *Server) listShared(ctx context.Context, in *struct {
	SharedPath
	ListPart
},
) (*partOutput[SharedFigures], error) {
	after, most, err := in.place()
	if err != nil {
		return nil, err
	}
	rows, err := s.Store.ListShared(ctx, memberOf(ctx).WorkspaceID, in.Of, after, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(rows, most, sharedFigures, func(row store.SharedFigures) cursor { return cursor{row.CreatedAt, row.ID.String()} }), nil
}

func sharedFigures(row store.SharedFigures) SharedFigures {
	return SharedFigures{ID: row.ID, Name: row.Name, Until: row.Until}
}

func (s *Server) shareFigures(ctx context.Context, in *struct {
	SharedPath
	Body struct {
		Name string `json:"name" maxLength:"1000" doc:"Whom it is for, at most 60 characters."`
		Days int    `json:"days" minimum:"1" maximum:"365" doc:"For how many days it stays open."`
	}
},
) (*struct{ Body SharedFigures }, error) {
	row, token, err := figures.Share(ctx, s.Store, memberOf(ctx).WorkspaceID, in.Of, in.Body.Name, in.Body.Days, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, row.Name)
	shared := sharedFigures(row)
	shared.Address = s.PublicOrigin + "/-/figures/" + token
	return &struct{ Body SharedFigures }{shared}, nil
}
