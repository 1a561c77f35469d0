package studio

import (
	"context"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/page"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Edition is a published state of a page.
type Edition struct {
	Number      int           `json:"number"`
	PublishedAt time.Time     `json:"publishedAt"`
	By          string        `json:"by" doc:"Who published it; empty where they are gone."`
	Changes     []page.Change `json:"changes,omitempty" doc:"What it changed, in words; absent from before that was kept."`
}

// ComparedEdition is an edition beside another or the working copy.
type ComparedEdition struct {
	First   ComparedSide       `json:"first"`
	Second  ComparedSide       `json:"second"`
	Rows    []page.ComparedRow `json:"rows" nullable:"false" doc:"The blocks of both, lined up."`
	Changes []page.Change      `json:"changes" nullable:"false" doc:"What becomes of the first in the second, in words."`
}

// ComparedSide is one of the two.
type ComparedSide struct {
	Document page.Document `json:"document" doc:"As it leads now."`
	Strip    render.Strip  `json:"strip"`
}

// EditionPath names an edition of a page.
type EditionPath struct {
	PagePath
	Edition int `path:"edition" minimum:"1" maximum:"2000000000"`
}

func (s *Server) addEditions() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-editions", Method: http.MethodGet, Path: "/api/pages/{page}/editions",
		Summary: "List the editions of a page, latest first",
	}), s.listEditions)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "compare-edition", Method: http.MethodGet, Path: "/api/pages/{page}/editions/{edition}",
		Summary: "Put an edition beside another, or beside the working copy",
	}), s.compareEdition)
}

func (s *Server) listEditions(ctx context.Context, in *struct {
	PagePath
	ListPart
},
) (*partOutput[Edition], error) {
	after, most, err := in.read()
	if err != nil {
		return nil, err
	}
	below := 0
	if after != nil {
		if below, err = strconv.Atoi(after.key); err != nil || below < 1 {
			return nil, errNoPlace
		}
	}
	workspace := memberOf(ctx).WorkspaceID
	if _, err := s.Store.Page(ctx, workspace, in.Page); err != nil {
		return nil, problem(err)
	}
	rows, err := s.Store.Editions(ctx, workspace, in.Page, below, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(rows, most, func(row store.EditionSummary) Edition { return Edition(row) },
		func(row store.EditionSummary) cursor { return cursor{row.PublishedAt, strconv.Itoa(row.Number)} }), nil
}

func (s *Server) compareEdition(ctx context.Context, in *struct {
	EditionPath
	With int `query:"with" minimum:"0" maximum:"2000000000" doc:"The number of the other; 0 or left out for the working copy."`
},
) (*struct{ Body ComparedEdition }, error) {
	found, err := s.pages.Compare(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Edition, in.With)
	if err != nil {
		return nil, problem(err)
	}
	compared := ComparedEdition{
		First: ComparedSide{Document: found.First}, Second: ComparedSide{Document: found.Second},
		Rows: found.Rows, Changes: append([]page.Change{}, found.Changes...),
	}
	for _, side := range []*ComparedSide{&compared.First, &compared.Second} {
		if side.Strip, err = render.Fragments(side.Document, s.Now()); err != nil {
			return nil, problem(err)
		}
	}
	return &struct{ Body ComparedEdition }{compared}, nil
}
