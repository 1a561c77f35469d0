// Package looks has what creators do with looks and ready-made pages: wearing a theme,
// keeping one of their own, beginning from a starter.
package looks

import (
	"cmp"
	"context"
	"strings"
	"time"
	"unicode"

	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/app/pages"
	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// Looks does it in a store. Errors are *invalid.Error under the names of fields, or
// the store's.
type Looks struct {
	Store *store.Store
	Now   func() time.Time
}

// Theme is a look with a name.
type Theme struct {
	ID, Name string
	// Dark: what it is drawn on is dark, so that the text is light.
	Dark bool
	// Own: the workspace keeps it, and can delete it.
	Own  bool
	Look look.Look
}

// Starter is a ready-made page, and how a page of a workspace begins from it.
type Starter struct {
	starters.Starter
	Begun page.Document
}

// darkBelow is the relative luminance (WCAG 2.2) of a ground below which white text
// reads better on it than black.
const darkBelow = 0.18

// Themes lists the workspace's themes and those that ship, with the page that is to be
// shown in them.
func (u Looks) Themes(ctx context.Context, workspace, shownOn uuid.UUID) (store.Page, []Theme, error) {
	found, err := u.Store.Page(ctx, workspace, shownOn)
	if err != nil {
		return found, nil, err
	}
	own, err := u.Store.Themes(ctx, workspace)
	if err != nil {
		return found, nil, err
	}
	var themes []Theme
	for _, theme := range own {
		dark := colour.MustParse(theme.Look.Ground.Colour).Luminance() < darkBelow
		themes = append(themes, Theme{ID: theme.ID.String(), Name: theme.Name, Dark: dark, Own: true, Look: theme.Look})
	}
	for _, theme := range look.Themes() {
		themes = append(themes, Theme{ID: theme.ID, Name: theme.Name, Dark: theme.Dark, Look: theme.Look})
	}
	return found, themes, nil
}

// Keep keeps a look as a theme of the workspace. Its pictures have to be the
// workspace's, as on a page.
func (u Looks) Keep(ctx context.Context, workspace uuid.UUID, name string, kept look.Look) (store.Theme, error) {
	var problems invalid.List
	name = problems.Line("name", "The name of a theme", name, 60)
	if name == "" {
		problems.Add("name", "A theme needs a name to be found by.")
	}
	kept.Tidy(&problems, "look")
	if err := problems.Err(); err != nil {
		return store.Theme{}, err
	}
	if err := library.Check(ctx, u.Store, workspace, page.Document{Look: kept}.Media()); err != nil {
		return store.Theme{}, err
	}
	return u.Store.AddTheme(ctx, workspace, name, kept, u.Now())
}

// Starters are the ready-made pages under the name of a page of a workspace.
func (u Looks) Starters(ctx context.Context, workspace, of uuid.UUID) ([]Starter, error) {
	found, err := u.Store.Page(ctx, workspace, of)
	if err != nil {
		return nil, err
	}
	name := cmp.Or(found.Draft.Header.Name, nameFromAddress(found.Address))
	var begun []Starter
	for _, starter := range starters.All() {
		begun = append(begun, Starter{starter, starter.Document(name, pages.NewKey)})
	}
	return begun, nil
}

// nameFromAddress is what somebody is probably called, from the address they
// chose: "quarrow-clay" is Quarrow Clay.
func nameFromAddress(address string) string {
	words := strings.Split(address, "-")
	for i, word := range words {
		if letters := []rune(word); len(letters) > 0 {
			letters[0] = unicode.ToUpper(letters[0])
			words[i] = string(letters)
		}
	}
	return strings.Join(words, " ")
}
