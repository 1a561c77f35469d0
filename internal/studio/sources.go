package studio

import (
	"context"
	"net/http"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/address"
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
		OperationID: "list-sources", Method: http.MethodGet, Path: "/api/pages/{page}/sources", Summary: "List where the page's address has been put",
	}), s.listSources)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-source", Method: http.MethodPost, Path: "/api/pages/{page}/sources", Summary: "Add a source", DefaultStatus: http.StatusCreated,
	}), s.addSource)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-source", Method: http.MethodPatch, Path: "/api/pages/{page}/sources/{source}", Summary: "Change a source, retire it or take it back",
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
	return listed(rows, most, func(row store.Source) Source { return s.source(owner, row) },
		func(row store.Source) cursor { return cursor{row.CreatedAt, row.ID.String()} }), nil
}

// sourceOutput answers with a source as it is after a change.
func (s *Server) sourceOutput(ctx context.Context, pageID, id uuid.UUID) (*struct{ Body Source }, error) {
	workspace := memberOf(ctx).WorkspaceID
	owner, err := s.Store.Page(ctx, workspace, pageID)
	if err != nil {
		return nil, problem(err)
	}
	row, err := s.Store.Source(ctx, workspace, pageID, id)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body Source }{s.source(owner, row)}, nil
}

func (s *Server) source(owner store.Page, row store.Source) Source {
	shown := Source{
		ID: row.ID, Name: row.Name, Place: source.Place{Kind: row.Kind, Medium: row.Medium, Profiles: row.Profiles, Names: row.Names, Networks: row.Networks}, Tag: row.Tag(), PastTags: []string{}, Retired: row.RetiredAt != nil, SeenAt: row.SeenAt,
		EntryAddress: s.PublicOrigin + "/" + owner.Address + "/" + row.Tag(),
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
		Adopts string        `json:"adopts,omitempty" maxLength:"600" doc:"Key of an unlisted source: the visits it brought so far become this source's, and later ones like them go to it."`
	}
},
) (*struct{ Body Source }, error) {
	workspace := memberOf(ctx).WorkspaceID
	from := store.NewSource{Place: source.Place{Kind: source.Profile}, Adopts: in.Body.Adopts}
	if in.Body.Place != nil {
		from.Place = *in.Body.Place
	}
	var err error
	if from.Name, err = sourceName(in.Body.Name); err != nil {
		return nil, err
	}
	if from.Place, err = from.Place.Adopting(in.Body.Adopts).Clean(); err != nil {
		return nil, problem(err)
	}
	if in.Body.Tag != nil {
		if from.Tag, err = address.ParseTag(*in.Body.Tag); err != nil {
			return nil, refuse("tag", err.Error())
		}
	} else if from.Tag, err = s.suggestTag(ctx, workspace, in.Page, from.Name); err != nil {
		return nil, problem(err)
	}
	kind, _, ok := source.ParseUnlisted(from.Adopts)
	if kind == source.Others {
		return nil, refuse("adopts", "These visits came from many places, and cannot become one source.")
	}
	if from.Adopts != "" && (!ok || kind == source.Several) {
		return nil, refuse("adopts", "These visits cannot become a source: several of your sources are on that network, and nobody knows which of them they came from.")
	}
	added, err := s.Store.AddSource(ctx, workspace, in.Page, from, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	return s.sourceOutput(ctx, in.Page, added.ID)
}

func (s *Server) suggestTag(ctx context.Context, workspace, pageID uuid.UUID, name string) (string, error) {
	rows, err := s.Store.Sources(ctx, workspace, pageID)
	taken := map[string]bool{}
	for _, row := range rows {
		for _, tag := range row.Tags {
			taken[tag.Tag] = true
		}
	}
	return address.SuggestTag(name, func(tag string) bool { return taken[tag] }), err
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
	change := store.SourceChange{Name: in.Body.Name, Tag: in.Body.Tag, Retired: in.Body.Retired}
	if change.Name != nil {
		name, err := sourceName(*change.Name)
		if err != nil {
			return nil, err
		}
		change.Name = &name
	}
	if change.Tag != nil {
		tag, err := address.ParseTag(*change.Tag)
		if err != nil {
			return nil, refuse("tag", err.Error())
		}
		change.Tag = &tag
	}
	if in.Body.Place != nil {
		place, err := in.Body.Place.Clean()
		if err != nil {
			return nil, problem(err)
		}
		change.Place = &place
	}
	if err := s.Store.ChangeSource(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Source, change, s.Now()); err != nil {
		return nil, problem(err)
	}
	return s.sourceOutput(ctx, in.Page, in.Source)
}

// kindSigns are the signs of kinds of sources whose network has no icon.
var kindSigns = map[source.Kind]string{source.Profile: "circle-user-round", source.Film: "clapperboard", source.Letter: "mail", source.Print: "printer", source.Person: "handshake"}

func iconOf(place source.Place) icons.Entry {
	for _, host := range source.HostsOf(place.Profiles) {
		if icon, known := icons.ForHost(host); known {
			return icon
		}
	}
	icon, _ := icons.Find(icons.Signs, kindSigns[place.Kind])
	return icon
}

func sourceName(text string) (string, error) {
	name := strings.Join(strings.Fields(strings.ToValidUTF8(text, "")), " ")
	if n := utf8.RuneCountInString(name); n < 1 || n > 60 {
		return "", refuse("name", "A source has a name of 1 to 60 characters, like “Printed card”.")
	}
	return name, nil
}
