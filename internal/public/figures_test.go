package public_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

func TestSharedFiguresAreReadByWhoHasTheAddressUntilItEnds(t *testing.T) {
	s := open(t)
	s.source("Printed card", "card")
	s.publish(button("aaaa", "https://kiln.example/"))
	s.get("/quarrow-clay/card")
	s.get("/quarrow-clay/-/1/aaaa/card")
	share := func(name, token string, until time.Time) store.SharedFigures {
		shared, err := s.store.ShareFigures(t.Context(), s.member.WorkspaceID, s.page.ID, name, token, until, now)
		require.NoError(t, err)
		return shared
	}
	gallery := share("The gallery", "token-of-the-gallery", now.AddDate(0, 0, 30))
	share("Last year's fair", "over", now)
	s.events() // everything is in the table

	answer := s.get("/-/figures/token-of-the-gallery?range=7d")
	require.Equal(t, http.StatusOK, answer.Code)
	body := answer.Body.String()
	for _, part := range []string{
		"Quarrow Clay", "Shared with The gallery until 1 July 2026", `aria-current="page">Last 7 days`,
		">To https://kiln.example/</th><td>1</td>", ">Printed card</th><td>1</td>", "29 more visits needed",
	} {
		assert.Contains(t, body, part)
	}
	assert.NotContains(t, body, "ilse@quarrow.example")
	assert.Equal(t, "no-referrer", answer.Header().Get("Referrer-Policy"))
	assert.Contains(t, answer.Header().Get("X-Robots-Tag"), "noindex")
	assert.NotContains(t, answer.Header().Get("Content-Security-Policy"), "unsafe")

	for _, closed := range []string{"over", "token-of-the-galler", "none"} {
		assert.Equal(t, http.StatusNotFound, s.get("/-/figures/"+closed).Code, closed)
	}
	require.NoError(t, s.store.CloseShared(t.Context(), s.member.WorkspaceID, s.page.ID, gallery.ID))
	assert.Equal(t, http.StatusNotFound, s.get("/-/figures/token-of-the-gallery?range=7d").Code, "closed means closed, at once")
	require.ErrorIs(t, s.store.CloseShared(t.Context(), s.member.WorkspaceID, s.page.ID, gallery.ID), store.ErrNotFound)
}
