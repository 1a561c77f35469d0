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
	"jundle/internal/store"
)

// Source is a place where a page's address has been put.
type Source struct {
	ID           uuid.UUID  `json:"id"`
	Name         string     `json:"name"`
	Tag          string     `json:"tag" doc:"The short code in the entry address."`
	PastTags     []string   `json:"pastTags" nullable:"false" doc:"Codes it had before; they still lead to the page and name this source."`
	EntryAddress string     `json:"entryAddress" doc:"What to paste into the profile."`
	Retired      bool       `json:"retired" doc:"A retired source keeps its figures and its tags go on naming it."`
	SeenAt       *time.Time `json:"seenAt,omitempty" doc:"Latest counted visit; absent before the first."`
}

func (s *Server) addSources() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-sources", Method: http.MethodGet, Path: "/api/pages/{page}/sources", Summary: "List where the page's address has been put",
	}), s.listSources)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-source", Method: http.MethodPost, Path: "/api/pages/{page}/sources", Summary: "Add a source", DefaultStatus: http.StatusCreated,
	}), s.addSource)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-source", Method: http.MethodPatch, Path: "/api/pages/{page}/sources/{source}", Summary: "Rename a source, change its tag, retire it or take it back",
	}), s.changeSource)
}

type sourcesOutput listOutput[Source]

func (s *Server) listSources(ctx context.Context, in *PagePath) (*sourcesOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	owner, err := s.Store.Page(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	rows, err := s.Store.Sources(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	sources := make([]Source, len(rows))
	for i, row := range rows {
		sources[i] = s.source(owner, row)
	}
	return &sourcesOutput{sources}, nil
}

func (s *Server) source(owner store.Page, row store.Source) Source {
	source := Source{
		ID: row.ID, Name: row.Name, Tag: row.Tag(), PastTags: []string{}, Retired: row.RetiredAt != nil, SeenAt: row.SeenAt,
		EntryAddress: s.PublicOrigin + "/" + owner.Address + "/" + row.Tag(),
	}
	for _, tag := range row.Tags {
		if !tag.Present {
			source.PastTags = append(source.PastTags, tag.Tag)
		}
	}
	return source
}

func (s *Server) addSource(ctx context.Context, in *struct {
	PagePath
	Body struct {
		Name string  `json:"name" doc:"1 to 60 characters."`
		Tag  *string `json:"tag,omitempty" doc:"1 to 20 of a-z, 0-9 and hyphen; made from the name when left out."`
	}
},
) (*sourcesOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	name, err := sourceName(in.Body.Name)
	if err != nil {
		return nil, err
	}
	var tag string
	if in.Body.Tag != nil {
		if tag, err = address.ParseTag(*in.Body.Tag); err != nil {
			return nil, refuse("tag", err.Error())
		}
	} else if tag, err = s.suggestTag(ctx, workspace, in.Page, name); err != nil {
		return nil, problem(err)
	}
	if _, err := s.Store.AddSource(ctx, workspace, in.Page, name, tag, s.Now()); err != nil {
		return nil, problem(err)
	}
	return s.listSources(ctx, &in.PagePath)
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
		Name    *string `json:"name,omitempty"`
		Tag     *string `json:"tag,omitempty"`
		Retired *bool   `json:"retired,omitempty"`
	}
},
) (*sourcesOutput, error) {
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
	if err := s.Store.ChangeSource(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Source, change, s.Now()); err != nil {
		return nil, problem(err)
	}
	return s.listSources(ctx, &in.PagePath)
}

func sourceName(text string) (string, error) {
	name := strings.Join(strings.Fields(strings.ToValidUTF8(text, "")), " ")
	if n := utf8.RuneCountInString(name); n < 1 || n > 60 {
		return "", refuse("name", "A source has a name of 1 to 60 characters, like “Printed card”.")
	}
	return name, nil
}
