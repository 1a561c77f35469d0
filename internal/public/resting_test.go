package public_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/store"
)

func TestAPageRestsAtOnceAndWakesAsItWas(t *testing.T) {
	s := open(t)
	_, err := s.pages().Rest(t.Context(), s.member, s.page.ID, "")
	require.ErrorIs(t, err, store.ErrNeverPublished)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.begin(page.Takeover{PassThrough: &page.PassThrough{Address: "https://kiln.example/film"}})
	saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, document([]page.Block{
		button("card", "https://kiln.example/card"),
	}))
	require.NoError(t, err)

	s.page, err = s.pages().Rest(t.Context(), s.member, s.page.ID, " Back in May,\nwith new glazes. ")
	require.NoError(t, err)
	s.server.Forget(s.page.ID)
	assert.Equal(t, saved.Revision, s.page.Revision, "whoever is at work on the page does not notice")
	resting := s.get("/quarrow-clay")
	assert.Equal(t, http.StatusServiceUnavailable, resting.Code)
	assert.Contains(t, resting.Body.String(), "Back in May,")
	assert.NotContains(t, resting.Body.String(), "kiln.example")
	assert.Empty(t, resting.Header().Get("Retry-After"), "nobody knows when")
	assert.Equal(t, "no-store", resting.Header().Get("Cache-Control"))
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/dates").Code, "a tab that was open goes on leading")

	published := s.publishing
	published.Revision = s.page.Revision
	s.page, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, published, s.now)
	require.NoError(t, err)
	s.server.Forget(s.page.ID)
	assert.Equal(t, http.StatusServiceUnavailable, s.get("/quarrow-clay").Code, "publishing does not wake it")

	for range 2 {
		s.page, err = s.pages().Wake(t.Context(), s.member, s.page.ID)
		require.NoError(t, err)
	}
	s.server.Forget(s.page.ID)
	assert.Equal(t, 5, s.page.LiveEdition, "to wake it twice is to wake it once")
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay").Code, "what took its place does so again")
	s.end(s.page.Takeovers[0].ID)
	assert.Equal(t, "card", s.shows("/quarrow-clay"))
}

func TestADeletedPageIsGoneForVisitorsAndCanBeKept(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	workspace := s.member.WorkspaceID
	require.ErrorIs(t, s.store.DeletePage(t.Context(), workspace, s.page.ID, s.now), store.ErrLastPage)
	_, err := s.store.CreatePage(t.Context(), workspace, "quarrow-workshops", page.New(), s.now)
	require.NoError(t, err)
	require.NoError(t, s.store.DeletePage(t.Context(), workspace, s.page.ID, s.now))
	s.server.Forget(s.page.ID)
	for _, path := range []string{"/quarrow-clay", "/quarrow-clay/card", "/quarrow-clay/-/1/dates"} {
		gone := s.get(path)
		assert.Equal(t, http.StatusGone, gone.Code, path)
		assert.Contains(t, gone.Body.String(), "No longer here", path)
	}
	require.NoError(t, s.store.DeletePage(t.Context(), workspace, s.page.ID, s.now.Add(time.Hour)), "it is deleted already")
	kept, err := s.store.Page(t.Context(), workspace, s.page.ID)
	require.NoError(t, err)
	assert.Equal(t, s.now.Add(store.DeletionWait), kept.DeleteAt.UTC(), "and goes when it was to go")

	require.NoError(t, s.store.KeepPage(t.Context(), workspace, s.page.ID))
	s.server.Forget(s.page.ID)
	assert.Equal(t, "dates", s.shows("/quarrow-clay"))
	assert.ErrorIs(t, s.store.KeepPage(t.Context(), s.page.ID, s.page.ID), store.ErrNotFound, "of nobody else")
}

func TestADeletedPageIsErasedOnceItsTimeIsOver(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.get("/quarrow-clay")
	require.Len(t, s.events(), 1)
	workspace := s.member.WorkspaceID
	other, err := s.store.CreatePage(t.Context(), workspace, "quarrow-workshops", page.New(), s.now)
	require.NoError(t, err)
	require.NoError(t, s.store.DeletePage(t.Context(), workspace, s.page.ID, s.now))
	over := s.now.Add(store.DeletionWait)
	for _, c := range []struct {
		at   time.Time
		want int
	}{{over, 0}, {over.Add(time.Second), 1}, {over.Add(time.Second), 0}} {
		erased, err := s.store.EraseDeleted(t.Context(), 20, c.at)
		require.NoError(t, err)
		assert.Equal(t, c.want, erased, "%s", c.at)
	}
	_, err = s.store.Page(t.Context(), workspace, s.page.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
	events, err := s.store.Events(t.Context(), workspace, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Empty(t, events)
	_, err = s.store.CreatePage(t.Context(), workspace, "quarrow-clay", page.New(), over.Add(89*24*time.Hour))
	require.ErrorIs(t, err, store.ErrAddressTaken, "who knew it is not to land with somebody else")
	_, err = s.store.CreatePage(t.Context(), workspace, "quarrow-clay", page.New(), over.Add(91*24*time.Hour))
	require.NoError(t, err)
	_, err = s.store.Page(t.Context(), workspace, other.ID)
	require.NoError(t, err)
}
