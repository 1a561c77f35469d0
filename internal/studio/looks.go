package studio

import (
	"context"
	"net/http"
	"strings"
	"unicode"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/fonts"
	"jundle/internal/render"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// Choices are what a look can be made of.
type Choices struct {
	Pairs    []PairChoice `json:"pairs" nullable:"false"`
	Patterns []string     `json:"patterns" nullable:"false"`
}

// PairChoice is a pair of fonts with the files to show it with.
type PairChoice struct {
	look.Pair
	Fonts []fonts.Slice `json:"fonts" nullable:"false"`
}

// ThemeChoice is a theme as it looks on the creator's own page.
type ThemeChoice struct {
	ID    string       `json:"id"`
	Name  string       `json:"name"`
	Dark  bool         `json:"dark"`
	Own   bool         `json:"own" doc:"Kept by the workspace, and can be deleted."`
	Look  look.Look    `json:"look"`
	Strip render.Strip `json:"strip" doc:"The creator's own page in it, without its blocks."`
}

// StarterChoice is a starter with somebody's name on it.
type StarterChoice struct {
	ID          string        `json:"id"`
	Trade       string        `json:"trade"`
	Description string        `json:"description"`
	Document    page.Document `json:"document"`
	Strip       render.Strip  `json:"strip"`
}

// ThemePath names a theme of the workspace.
type ThemePath struct {
	Theme uuid.UUID `path:"theme"`
}

func (s *Server) addLooks() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-choices", Method: http.MethodGet, Path: "/api/looks", Summary: "List the fonts and patterns a look can be made of",
	}), func(context.Context, *struct{}) (*struct{ Body Choices }, error) {
		choices := Choices{Patterns: look.Patterns}
		for _, pair := range look.Pairs {
			files := fonts.Needed(pair, "A", "A")
			if files == nil {
				files = []fonts.Slice{}
			}
			choices.Pairs = append(choices.Pairs, PairChoice{pair, files})
		}
		return &struct{ Body Choices }{choices}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-themes", Method: http.MethodGet, Path: "/api/pages/{page}/themes",
		Summary: "Show the page in every theme, shipped and own",
	}), s.listThemes)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-theme", Method: http.MethodPost, Path: "/api/themes", Summary: "Keep a look as a theme of one's own",
		DefaultStatus: http.StatusCreated,
	}), s.addTheme)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-theme", Method: http.MethodDelete, Path: "/api/themes/{theme}",
		Summary: "Forget a theme; pages begun from it keep their looks", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *ThemePath) (*struct{}, error) {
		if err := s.Store.DeleteTheme(ctx, memberOf(ctx).WorkspaceID, in.Theme); err != nil {
			return nil, problem(err)
		}
		return nil, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-starters", Method: http.MethodGet, Path: "/api/pages/{page}/starters",
		Summary: "Show the ready-made pages with the creator's name on them",
	}), s.listStarters)
}

func (s *Server) listThemes(ctx context.Context, in *PagePath) (*listOutput[ThemeChoice], error) {
	workspace := memberOf(ctx).WorkspaceID
	found, err := s.Store.Page(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	own, err := s.Store.Themes(ctx, workspace)
	if err != nil {
		return nil, problem(err)
	}
	var choices []ThemeChoice
	for _, theme := range own {
		dark := colour.MustParse(theme.Look.Ground.Colour).Luminance() < 0.18
		choices = append(choices, ThemeChoice{ID: theme.ID.String(), Name: theme.Name, Dark: dark, Own: true, Look: theme.Look})
	}
	for _, theme := range look.Themes() {
		choices = append(choices, ThemeChoice{ID: theme.ID, Name: theme.Name, Dark: theme.Dark, Look: theme.Look})
	}
	words := render.CharactersOf(found.Draft)
	for i := range choices {
		worn := found.Draft
		worn.Look = choices[i].Look
		// The blocks are the same in every theme; they are sent once, with the page.
		if choices[i].Strip, err = render.WithoutBlocks(worn, words); err != nil {
			return nil, problem(err)
		}
	}
	return &listOutput[ThemeChoice]{choices}, nil
}

func (s *Server) addTheme(ctx context.Context, in *struct {
	Body struct {
		Name string    `json:"name" maxLength:"1000" doc:"1 to 60 characters."`
		Look look.Look `json:"look"`
	}
},
) (*struct{ Body ThemeChoice }, error) {
	var problems invalid.List
	name := problems.Line("name", "The name of a theme", in.Body.Name, 60)
	if name == "" {
		problems.Add("name", "A theme needs a name to be found by.")
	}
	kept := in.Body.Look
	kept.Tidy(&problems, "look")
	if err := problems.Err(); err != nil {
		return nil, problem(err)
	}
	workspace := memberOf(ctx).WorkspaceID
	// Its pictures have to be the workspace's, as on a page.
	if err := library.Check(ctx, s.Store, workspace, page.Document{Look: kept}.Media()); err != nil {
		return nil, problem(err)
	}
	theme, err := s.Store.AddTheme(ctx, workspace, name, kept, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body ThemeChoice }{themeChoice(theme)}, nil
}

func themeChoice(theme store.Theme) ThemeChoice {
	return ThemeChoice{
		ID: theme.ID.String(), Name: theme.Name, Own: true, Look: theme.Look,
		Strip: render.Strip{Blocks: map[string]string{}, Fonts: []fonts.Slice{}},
	}
}

func (s *Server) listStarters(ctx context.Context, in *PagePath) (*listOutput[StarterChoice], error) {
	found, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	name := found.Draft.Header.Name
	if name == "" {
		name = nameFromAddress(found.Address)
	}
	var choices []StarterChoice
	for _, starter := range starters.All() {
		doc := starter.Document(name, newKey)
		strip, err := render.Fragments(doc)
		if err != nil {
			return nil, problem(err)
		}
		choices = append(choices, StarterChoice{
			ID: starter.ID, Trade: starter.Trade, Description: starter.Description, Document: doc, Strip: strip,
		})
	}
	return &listOutput[StarterChoice]{choices}, nil
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

// contrastFigures holds all text of a page against what is under it: the page's
// own colours, and those of blocks with looks of their own.
func contrastFigures(doc page.Document) []look.Figure {
	figures := look.Figures(doc.Look)
	points := doc.Look.Ground.Points()
	for _, block := range doc.Blocks {
		if block.Style != nil {
			figures = append(figures, block.Style.Buttons.Figures("blocks/"+block.Key+"/style/", points)...)
		}
	}
	return figures
}
