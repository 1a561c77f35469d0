// Package sources has what creators do with the sources of a page: adding one, with the
// visits that came from there before anybody listed it, and changing one.
package sources

import (
	"context"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/source"
	"jundle/internal/store"
)

// Sources does it in a store. Errors are *invalid.Error under the names of fields, or
// the store's.
type Sources struct {
	Store *store.Store
	Now   func() time.Time
}

// New is what a source is made from.
type New struct {
	Name string
	// Tag is made from the name where it is nil.
	Tag *string
	// Place is a profile without an address where it is nil.
	Place *source.Place
	// Adopts is the key of an unlisted source whose visits become this one's, or empty.
	Adopts string
}

// Change is what is changed of a source; what is nil stays.
type Change struct {
	Name, Tag *string
	Retired   *bool
	Place     *source.Place
}

// Add adds a source to a page of a workspace.
func (u Sources) Add(ctx context.Context, workspace, page uuid.UUID, from New) (store.Source, error) {
	made := store.NewSource{Place: source.Place{Kind: source.Profile}, Adopts: from.Adopts}
	if from.Place != nil {
		made.Place = *from.Place
	}
	var err error
	if made.Name, err = nameOf(from.Name); err != nil {
		return store.Source{}, err
	}
	if made.Place, err = made.Place.Adopting(from.Adopts).Clean(); err != nil {
		return store.Source{}, err
	}
	if from.Tag == nil {
		made.Tag, err = u.freeTag(ctx, workspace, page, made.Name)
	} else {
		made.Tag, err = tagOf(*from.Tag)
	}
	if err == nil {
		err = mayAdopt(from.Adopts)
	}
	if err != nil {
		return store.Source{}, err
	}
	added, err := u.Store.AddSource(ctx, workspace, page, made, u.Now())
	if err != nil {
		return store.Source{}, err
	}
	return u.Store.Source(ctx, workspace, page, added.ID)
}

// mayAdopt refuses unlisted sources that cannot become one.
func mayAdopt(key string) error {
	kind, _, ok := source.ParseUnlisted(key)
	switch {
	case kind == source.Others:
		return invalid.One("adopts", "These visits came from many places, and cannot become one source.")
	case key != "" && (!ok || kind == source.Several):
		return invalid.One("adopts", "These visits cannot become a source: several of your sources are on that network, "+
			"and nobody knows which of them they came from.")
	}
	return nil
}

// Change changes a source of a page of a workspace.
func (u Sources) Change(ctx context.Context, workspace, page, id uuid.UUID, to Change) (store.Source, error) {
	change := store.SourceChange{Retired: to.Retired}
	if to.Name != nil {
		name, err := nameOf(*to.Name)
		if err != nil {
			return store.Source{}, err
		}
		change.Name = &name
	}
	if to.Tag != nil {
		tag, err := tagOf(*to.Tag)
		if err != nil {
			return store.Source{}, err
		}
		change.Tag = &tag
	}
	if to.Place != nil {
		place, err := to.Place.Clean()
		if err != nil {
			return store.Source{}, err
		}
		change.Place = &place
	}
	if to.Tag == nil && to.Retired != nil && !*to.Retired {
		tag, err := u.tagAfterRetirement(ctx, workspace, page, id)
		if err != nil {
			return store.Source{}, err
		}
		change.Tag = tag
	}
	if err := u.Store.ChangeSource(ctx, workspace, page, id, change, u.Now()); err != nil {
		return store.Source{}, err
	}
	return u.Store.Source(ctx, workspace, page, id)
}

// tagAfterRetirement is a new tag for a source that comes back, where another source
// got its own meanwhile.
func (u Sources) tagAfterRetirement(ctx context.Context, workspace, page, id uuid.UUID) (*string, error) {
	row, err := u.Store.Source(ctx, workspace, page, id)
	if err != nil || row.Tag() != "" {
		return nil, err
	}
	tag, err := u.freeTag(ctx, workspace, page, row.Name)
	return &tag, err
}

// freeTag makes a tag from a name that no source of the page needs.
func (u Sources) freeTag(ctx context.Context, workspace, page uuid.UUID, name string) (string, error) {
	rows, err := u.Store.Sources(ctx, workspace, page)
	taken := make(map[string]bool)
	for _, row := range rows {
		for _, tag := range row.Tags {
			taken[tag.Tag] = !row.FreeTag(tag)
		}
	}
	return address.SuggestTag(name, func(tag string) bool { return taken[tag] }), err
}

func tagOf(text string) (string, error) {
	tag, err := address.ParseTag(text)
	if err != nil {
		return "", invalid.One("tag", "%s", err)
	}
	return tag, nil
}

func nameOf(text string) (string, error) {
	name := strings.Join(strings.Fields(strings.ToValidUTF8(text, "")), " ")
	if n := utf8.RuneCountInString(name); n < 1 || n > 60 {
		return "", invalid.One("name", "A source has a name of 1 to 60 characters, like “Printed card”.")
	}
	return name, nil
}
