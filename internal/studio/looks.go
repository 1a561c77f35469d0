package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/fonts"
	"jundle/internal/render"
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
	found, themes, err := s.looks.Themes(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	choices := make([]ThemeChoice, len(themes))
	for i, each := range themes {
		choices[i] = ThemeChoice{ID: each.ID, Name: each.Name, Dark: each.Dark, Own: each.Own, Look: each.Look}
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
	theme, err := s.looks.Keep(ctx, memberOf(ctx).WorkspaceID, in.Body.Name, in.Body.Look)
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
	begun, err := s.looks.Starters(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	choices := make([]StarterChoice, len(begun))
	for i, each := range begun {
		strip, err := render.Fragments(each.Begun, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		choices[i] = StarterChoice{
			ID: each.ID, Trade: each.Trade, Description: each.Description, Document: each.Begun, Strip: strip,
		}
	}
	return &listOutput[StarterChoice]{choices}, nil
}
