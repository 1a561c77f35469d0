package destinations_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/destinations"
	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/core/shortlink"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func TestADestinationIsChangedOnItsRevisionAndSaysWhereItLed(t *testing.T) {
	s := storetest.New(t)
	ilse, err := s.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "Europe/Lisbon",
	}, now)
	require.NoError(t, err)
	u := destinations.Destinations{Store: s, Now: func() time.Time { return now.Add(time.Hour) }}
	link, err := s.AddShortLink(t.Context(), ilse.WorkspaceID,
		store.NewShortLink{Address: "dates", Link: shortlink.New("https://kiln.example/dates")}, now)
	require.NoError(t, err)
	_, err = s.AddShortLink(t.Context(), ilse.WorkspaceID,
		store.NewShortLink{Address: "shop", Link: shortlink.New("https://kiln.example/shop")}, now)
	require.NoError(t, err)
	id := uuid.MustParse(link.Link.DestinationID)

	change := func(revision int64, address string) (destinations.Details, error) {
		return u.Change(t.Context(), ilse.WorkspaceID, ilse.ID, id, revision, destination.Destination{Address: address, Title: "Dates"})
	}
	for address, says := range map[string]string{
		"https://kiln.example/shop":   "You keep this address already",
		"mailto:ilse@quarrow.example": "A short link leads here",
		"javascript:alert(1)":         "",
	} {
		_, err := change(1, address)
		var wrong *invalid.Error
		require.ErrorAs(t, err, &wrong, address)
		assert.Equal(t, "address", wrong.Problems[0].Where)
		assert.Contains(t, wrong.Problems[0].Message, says)
	}
	changed, err := change(1, "https://kiln.example/open-days")
	require.NoError(t, err)
	require.Len(t, changed.History, 2)
	assert.Equal(t, "https://kiln.example/dates", changed.History[1].Address)
	assert.Len(t, changed.Uses.ShortLinks, 1)

	stale, err := change(1, "https://kiln.example/lost")
	require.ErrorIs(t, err, store.ErrStale)
	assert.Equal(t, []any{"https://kiln.example/open-days", int64(2)}, []any{stale.Address, stale.Revision}, "answered as it stands")
	assert.Len(t, stale.History, 2)
	_, err = u.Details(t.Context(), uuid.New(), id)
	assert.ErrorIs(t, err, store.ErrNotFound, "of another workspace")
}
