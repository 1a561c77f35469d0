package public_test

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/pull"
	"jundle/internal/core/readings"
)

// tellScroll sends what the script of a page sends.
func (s *site) tellScroll(path, block string, change ...func(*http.Request)) int {
	request := httptest.NewRequest(http.MethodPost, path, strings.NewReader(url.Values{"block": {block}}.Encode()))
	request.Header.Set("Content-Type", "application/x-www-form-urlencoded;charset=UTF-8")
	request.Header.Set("User-Agent", phone)
	for _, each := range change {
		each(request)
	}
	return s.serve(request).Code
}

func (s *site) screenShares() map[string]readings.Rate {
	s.t.Helper()
	require.NoError(s.t, s.recorder.Close(s.t.Context()))
	s.recorder = nil
	shares, err := s.store.ScreenShares(s.t.Context(), s.member.WorkspaceID, s.page.ID, readings.WithToday(1, now, time.UTC))
	require.NoError(s.t, err)
	return shares
}

func measured(keys ...string) page.Document {
	var blocks []page.Block
	for _, key := range keys {
		blocks = append(blocks, button(key, "https://kiln.example/"+key))
	}
	doc := document(blocks)
	doc.Scrolls = true
	return doc
}

func TestHowFarVisitsGotIsCountedAndNothingElseIsKeptOfIt(t *testing.T) {
	s := open(t)
	s.publishDocument(measured("aaaa", "bbbb", "cccc"))
	for range 3 {
		assert.Equal(t, http.StatusNoContent, s.tellScroll("/quarrow-clay/-/1/-", "aaaa"))
	}
	assert.Equal(t, http.StatusNoContent, s.tellScroll("/quarrow-clay/-/1/-/card", "cccc"))

	assert.Equal(t, map[string]readings.Rate{
		"aaaa": readings.NewRate(4, 4), "bbbb": readings.NewRate(1, 4), "cccc": readings.NewRate(1, 4),
	}, s.screenShares())
	looks, err := s.store.Looks(t.Context(), s.member.WorkspaceID, s.page.ID, now.AddDate(0, 0, -1))
	require.NoError(t, err)
	assert.Equal(t, []pull.Look{{Seen: 4, Of: 4}, {Seen: 1, Of: 4}, {Seen: 1, Of: 4}}, looks)
	events, err := s.store.Events(t.Context(), s.member.WorkspaceID, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Empty(t, events)
}

func TestNothingIsKeptOfWhoAsksNotToBeWatchedNorOfCrawlers(t *testing.T) {
	s := open(t)
	s.publishDocument(measured("aaaa", "bbbb"))
	const path = "/quarrow-clay/-/1/-"
	assert.Equal(t, http.StatusNoContent, s.tellScroll(path, "bbbb", func(r *http.Request) { r.Header.Set("Sec-GPC", "1") }))
	assert.Equal(t, http.StatusNoContent, s.tellScroll(path, "bbbb", func(r *http.Request) { r.Header.Set("User-Agent", "Kilnbot/1.0") }))
	assert.Equal(t, http.StatusNotFound, s.tellScroll(path, "cccc"), "a block that is not there")
	assert.Equal(t, http.StatusNotFound, s.tellScroll("/quarrow-clay/-/7/-", "aaaa"), "an edition that is not there")
	assert.Equal(t, http.StatusNotFound, s.get(path).Code, "it is told and not asked for")
	assert.Empty(t, s.screenShares())
}

func TestAPageThatMeasuresNothingHasNoScriptAndTakesNothingIn(t *testing.T) {
	s := open(t)
	doc := measured("aaaa")
	doc.Scrolls = false
	s.publishDocument(doc)
	assert.NotContains(t, s.get("/quarrow-clay").Body.String(), "data-tell")
	assert.Equal(t, http.StatusNoContent, s.tellScroll("/quarrow-clay/-/1/-", "aaaa"))
	assert.Empty(t, s.screenShares())
}

func TestStrangersCannotMakeRowsOfHowFarVisitsGot(t *testing.T) {
	s := open(t)
	s.flood(20)
	s.publishDocument(measured("aaaa", "bbbb"))
	for range 60 {
		s.tellScroll("/quarrow-clay/-/1/-", "bbbb")
	}
	assert.Equal(t, http.StatusOK, s.get("/quarrow-clay").Code)
	shares := s.screenShares()
	assert.Equal(t, 20, shares["bbbb"].Taken, "what one address may add in an hour")
	events, err := s.store.Events(t.Context(), s.member.WorkspaceID, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	require.Len(t, events, 1)
	assert.True(t, events[0].Counted(), "and it takes nothing from what visits of the same network may add")
}
