package looks_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/looks"
	"jundle/internal/core/invalid"
	"jundle/internal/core/look"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func open(t *testing.T) (looks.Looks, uuid.UUID, store.Page) {
	t.Helper()
	s := storetest.New(t)
	member, err := s.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "Europe/Lisbon",
	}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	require.Len(t, pages, 1)
	return looks.Looks{Store: s, Now: func() time.Time { return now }}, member.WorkspaceID, pages[0]
}

func TestAKeptThemeStandsBeforeThoseThatShipAndKnowsWhetherItIsDark(t *testing.T) {
	u, workspace, page := open(t)
	night := look.Default()
	night.Ground.Colour = "#101418"
	kept, err := u.Keep(t.Context(), workspace, "  Night kiln ", night)
	require.NoError(t, err)
	_, themes, err := u.Themes(t.Context(), workspace, page.ID)
	require.NoError(t, err)
	require.Greater(t, len(themes), len(look.Themes()))
	assert.Equal(t, looks.Theme{ID: kept.ID.String(), Name: "Night kiln", Dark: true, Own: true, Look: kept.Look}, themes[0])
	_, _, err = u.Themes(t.Context(), uuid.New(), page.ID)
	assert.ErrorIs(t, err, store.ErrNotFound, "of another workspace")
}

func TestAThemeNeedsANameAndPicturesOfItsWorkspace(t *testing.T) {
	u, workspace, _ := open(t)
	withPicture := look.Default()
	withPicture.Ground.Kind = "picture"
	withPicture.Ground.Picture = &look.Backdrop{Picture: pagetest.Picture("a"), Veil: look.Veil{Colour: "#000000"}}
	for field, tried := range map[string]struct {
		name string
		look look.Look
	}{
		"name": {" ", look.Default()}, "look/ground/picture": {"Clay", withPicture},
	} {
		_, err := u.Keep(t.Context(), workspace, tried.name, tried.look)
		var wrong *invalid.Error
		require.ErrorAs(t, err, &wrong, field)
		assert.True(t, strings.HasPrefix(wrong.Problems[0].Where, field) || strings.HasPrefix(field, wrong.Problems[0].Where), wrong.Problems)
	}
}

func TestStartersCarryTheNameOrWhatItProbablyIs(t *testing.T) {
	u, workspace, page := open(t)
	begun, err := u.Starters(t.Context(), workspace, page.ID)
	require.NoError(t, err)
	require.NotEmpty(t, begun)
	for _, starter := range begun {
		assert.Equal(t, "Quarrow Clay", starter.Begun.Header.Name, starter.ID)
		assert.NotEmpty(t, starter.Begun.Blocks, starter.ID)
	}
}
