package public_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

func TestWhatIsTakenDownIsGoneForVisitorsUntilItIsPutBack(t *testing.T) {
	s := open(t)
	s.server.AbuseLink = "mailto:abuse@service.example"
	s.publish(button("dates", "https://kiln.example/dates"))
	require.Equal(t, http.StatusOK, s.get("/quarrow-clay").Code)
	entry := store.OperatorEntry{At: s.now, Who: "root", Because: "It sells what is forbidden."}
	require.NoError(t, s.store.TakeDown(t.Context(), store.PageKind, "Quarrow-Clay", entry))
	assert.ErrorIs(t, s.store.TakeDown(t.Context(), store.PageKind, "quarrow-clay", entry), store.ErrAlready)
	assert.ErrorIs(t, s.store.TakeDown(t.Context(), store.LinkKind, "quarrow-clay", entry), store.ErrNotFound, "it is no short link")
	s.server.Forget(s.page.ID)
	for _, path := range []string{"/quarrow-clay", "/quarrow-clay/card", "/quarrow-clay/-/1/dates"} {
		gone := s.get(path)
		assert.Equal(t, http.StatusGone, gone.Code, path)
		assert.Contains(t, gone.Body.String(), "Whoever runs this service has taken down", path)
		assert.Contains(t, gone.Body.String(), `href="mailto:abuse@service.example"`, path)
		assert.NotContains(t, gone.Body.String(), "forbidden", "why is for whoever keeps it")
	}
	at, because, err := s.store.TakenDown(t.Context(), s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	assert.Equal(t, s.now, at.UTC())
	assert.Equal(t, "It sells what is forbidden.", because)

	require.NoError(t, s.store.PutBack(t.Context(), store.PageKind, "quarrow-clay", entry))
	s.server.Forget(s.page.ID)
	assert.Equal(t, "dates", s.shows("/quarrow-clay"))
	journal, err := s.store.OperatorJournal(t.Context(), 10)
	require.NoError(t, err)
	assert.Len(t, s.events(), 2, "nothing of it was counted while it was taken down")
	require.Len(t, journal, 2, "what was refused is not in it")
	assert.Equal(t, "put back page", journal[0].Did)
	assert.Equal(t, []string{"root", "take down page", "Quarrow-Clay", "It sells what is forbidden."},
		[]string{journal[1].Who, journal[1].Did, journal[1].Subject, journal[1].Because})
}

func TestEveryNoticeSaysWhereMisuseIsReported(t *testing.T) {
	s := open(t)
	s.server.AbuseLink = "https://service.example/report"
	s.publish(button("dates", "https://kiln.example/dates"))
	_, err := s.pages().Rest(t.Context(), s.member, s.page.ID, "Back in May")
	require.NoError(t, err)
	s.server.Forget(s.page.ID)
	for _, path := range []string{"/quarrow-clay", "/nobody-is-here", "/-/figures/nothing", "/-/preview/nothing"} {
		assert.Contains(t, s.get(path).Body.String(), `href="https://service.example/report"`, path)
	}
}
