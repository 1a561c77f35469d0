package figures_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/figures"
	"jundle/internal/core/invalid"
	"jundle/internal/core/readings"
	"jundle/internal/core/shortlink"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestFiguresAreSharedUnderANameOfAPageOrALink(t *testing.T) {
	now := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	s := storetest.New(t)
	ilse, err := s.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC",
	}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), ilse.WorkspaceID)
	require.NoError(t, err)
	content := shortlink.New("https://kiln.example/dates")
	content.Name = "Dates"
	link, err := s.AddShortLink(t.Context(), ilse.WorkspaceID, store.NewShortLink{Address: "dates", Link: content}, now)
	require.NoError(t, err)
	span := readings.WithToday(6, now, time.UTC)

	_, _, err = figures.Share(t.Context(), s, ilse.WorkspaceID, pages[0].ID, "  ", 7, now)
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "name", wrong.Problems[0].Where)
	_, _, err = figures.Share(t.Context(), s, uuid.New(), pages[0].ID, "Rolf", 7, now)
	require.ErrorIs(t, err, store.ErrNotFound, "of another workspace")
	row, token, err := figures.Share(t.Context(), s, ilse.WorkspaceID, pages[0].ID, " Rolf ", 7, now)
	require.NoError(t, err)
	assert.Equal(t, "Rolf", row.Name)
	opened, _, err := s.OpenShared(t.Context(), token, now.AddDate(0, 0, 6))
	require.NoError(t, err)
	assert.Equal(t, row.ID, opened.ID)

	page, err := figures.ReadShared(t.Context(), s, ilse.WorkspaceID, pages[0].ID, span)
	require.NoError(t, err)
	assert.Equal(t, "quarrow-clay", page.Name, "a page without a name is called by its address")
	of, err := figures.ReadShared(t.Context(), s, ilse.WorkspaceID, link.ID, span)
	require.NoError(t, err)
	assert.Equal(t, []any{"Dates", true}, []any{of.Name, of.IsLink})
	_, err = figures.ReadShared(t.Context(), s, uuid.New(), link.ID, span)
	assert.ErrorIs(t, err, store.ErrNotFound, "of another workspace")
}
