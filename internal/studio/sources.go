package studio

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/sources"
	"jundle/internal/core/source"
	"jundle/internal/icons"
	"jundle/internal/store"
)

// Source is a place where a page's address has been put.
type Source struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
	source.Place
	Tag          string      `json:"tag" doc:"The short code in the entry address."`
	PastTags     []string    `json:"pastTags" nullable:"false" doc:"Codes it had before; they still lead to the page and name this source."`
	EntryAddress string      `json:"entryAddress" doc:"What to paste into the profile."`
	Retired      bool        `json:"retired" doc:"A retired source keeps its figures and its tags go on naming it."`
	SeenAt       *time.Time  `json:"seenAt,omitempty" doc:"Latest counted visit; absent before the first."`
	Icon         icons.Entry `json:"icon" doc:"Of its network where the icon library knows it, otherwise a plain sign."`
}

func (s *Server) addSources() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-sources", Method: http.MethodGet, Path: "/api/pages/{page}/sources",
		Summary: "List where the page's address has been put",
	}), s.listSources)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-source", Method: http.MethodPost, Path: "/api/pages/{page}/sources", Summary: "Add a source",
		DefaultStatus: http.StatusCreated,
	}), s.addSource)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-source", Method: http.MethodPatch, Path: "/api/pages/{page}/sources/{source}",
		Summary: "Change a source, retire it or take it back",
	}), s.changeSource)
}

func (s *Server) listSources(ctx context.Context, in *struct {
	PagePath
	ListPart
},
) (*partOutput[Source], error) {
	after, most, err := in.place()
	if err != nil {
		return nil, err
	}
	return s.sourcesPart(ctx, in.Page, after, most)
}

func (s *Server) sourcesPart(ctx context.Context, pageID uuid.UUID, after *store.Place, most int) (*partOutput[Source], error) {
	workspace := memberOf(ctx).WorkspaceID
	owner, err := s.Store.Page(ctx, workspace, pageID)
	if err != nil {
		return nil, problem(err)
	}
	rows, err := s.Store.SourcesPart(ctx, workspace, pageID, after, most+1)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return listed(rows, most, func(row store.Source) Source { return s.source(origin, owner, row) },
		func(row store.Source) cursor { return cursor{row.CreatedAt, row.ID.String()} }), nil
}

// sourceOutput answers with a source of a page, or with what went wrong.
func (s *Server) sourceOutput(ctx context.Context, pageID uuid.UUID, row store.Source, err error) (*struct{ Body Source }, error) {
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, row.Name)
	owner, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, pageID)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body Source }{s.source(origin, owner, row)}, nil
}

func (s *Server) source(origin string, owner store.Page, row store.Source) Source {
	shown := Source{
		ID: row.ID, Name: row.Name, Place: source.Place{
			Kind: row.Kind, Medium: row.Medium, Profiles: row.Profiles, Names: row.Names,
			Networks: row.Networks,
		}, Tag: row.Tag(), PastTags: []string{}, Retired: row.RetiredAt != nil, SeenAt: row.SeenAt,
		EntryAddress: strings.TrimSuffix(origin+"/"+owner.Address+"/"+row.Tag(), "/"),
	}
	shown.Icon = iconOf(shown.Place)
	for _, tag := range row.Tags {
		if !tag.Present {
			shown.PastTags = append(shown.PastTags, tag.Tag)
		}
	}
	return shown
}

func (s *Server) addSource(ctx context.Context, in *struct {
	PagePath
	Body struct {
		Name   string        `json:"name" maxLength:"1000" doc:"1 to 60 characters."`
		Tag    *string       `json:"tag,omitempty" maxLength:"200" doc:"1 to 20 of a-z, 0-9 and hyphen; made from the name when left out."`
		Place  *source.Place `json:"place,omitempty" doc:"A profile without an address when left out."`
		Adopts string        `json:"adopts,omitempty" maxLength:"600" doc:"Key of an unlisted source whose visits become this one's."`
	}
},
) (*struct{ Body Source }, error) {
	added, err := s.sources.Add(ctx, memberOf(ctx).WorkspaceID, in.Page,
		sources.New{Name: in.Body.Name, Tag: in.Body.Tag, Place: in.Body.Place, Adopts: in.Body.Adopts})
	return s.sourceOutput(ctx, in.Page, added, err)
}

func (s *Server) changeSource(ctx context.Context, in *struct {
	PagePath
	Source uuid.UUID `path:"source"`
	Body   struct {
		Name    *string       `json:"name,omitempty" maxLength:"1000"`
		Tag     *string       `json:"tag,omitempty" maxLength:"200"`
		Retired *bool         `json:"retired,omitempty"`
		Place   *source.Place `json:"place,omitempty"`
	}
},
) (*struct{ Body Source }, error) {
	changed, err := s.sources.Change(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Source,
		sources.Change{Name: in.Body.Name, Tag: in.Body.Tag, Retired: in.Body.Retired, Place: in.Body.Place})
	return s.sourceOutput(ctx, in.Page, changed, err)
}

// kindSigns are the signs of kinds of sources whose network has no icon.
var kindSigns = map[source.Kind]string{
	source.Profile: "circle-user-round", source.Film: "clapperboard", source.Letter: "mail",
	source.Print: "printer", source.Person: "handshake",
}

func iconOf(place source.Place) icons.Entry {
	for _, host := range source.HostsOf(place.Profiles) {
		if icon, known := icons.ForHost(host); known {
			return icon
		}
	}
	icon, _ := icons.Find(icons.Signs, kindSigns[place.Kind])
	return icon
}
