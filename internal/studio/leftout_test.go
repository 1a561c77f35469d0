package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

func TestWhatWasLeftOutCanBeRead(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	ilse.published("The film")
	page := uuid.MustParse(ilse.pageID())
	b.visits(page, b.now.Add(-time.Hour), 5, 5, "")
	var events []store.Event
	for i, flag := range []traffic.Flags{traffic.Crawler, traffic.Own, traffic.Preview} {
		events = append(events, store.Event{
			ID: uuid.New(), At: b.now.AddDate(0, 0, -i).Add(-time.Minute), EndpointID: page, Edition: 1, Kind: traffic.View, Flags: flag,
			UserAgent: "Kilnbot/1.0", Visitor: traffic.VisitorKey{byte(i)},
		})
	}
	events[1].Kind, events[1].Block = traffic.Click, "film"
	require.NoError(t, b.store.RecordEvents(t.Context(), events))
	list := ilse.send("GET", ilse.page()+"/left-out?range=7d", nil).list
	require.Len(t, list, 3, "what counts is not among it")
	assert.Equal(t, []any{"crawler", "own", "preview"}, []any{list[0]["reason"], list[1]["reason"], list[2]["reason"]})
	assert.Equal(t, "The film", list[1]["title"])
	assert.Equal(t, "Kilnbot/1.0", list[0]["userAgent"])
	assert.Len(t, ilse.send("GET", ilse.page()+"/left-out?range=2026-05-31..2026-05-31", nil).list, 1)
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", ilse.page()+"/left-out", nil).status)
}

func TestReadingsSayWhatCameOfAnotherOrder(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	page, began := uuid.MustParse(ilse.pageID()), b.now
	for day := range 15 {
		b.visits(page, began.AddDate(0, 0, day).Add(time.Hour), 60, 12, "")
	}
	assert.Nil(t, ilse.send("GET", ilse.page()+"/order", nil).body["came"], "the order was not changed")
	b.now = began.AddDate(0, 0, 15)
	doc := ilse.send("GET", ilse.page(), nil).body["document"].(map[string]any)
	blocks := doc["blocks"].([]any)
	blocks[0], blocks[1] = blocks[1], blocks[0]
	require.Equal(t, http.StatusOK, ilse.send("PUT", ilse.page()+"/draft", fields{"revision": ilse.revision(), "document": doc}).status)
	require.Equal(t, http.StatusOK, ilse.send("POST", ilse.page()+"/publish", fields{"revision": ilse.revision()}).status)
	for day := range 15 {
		b.visits(page, b.now.AddDate(0, 0, day).Add(time.Hour), 60, 24, "")
	}
	b.now = b.now.AddDate(0, 0, 15)
	came := ilse.send("GET", ilse.page()+"/order", nil).body["came"].(map[string]any)
	around := came["around"].(map[string]any)
	assert.EqualValues(t, 2, came["edition"])
	assert.EqualValues(t, 2, around["weeks"])
	assert.Equal(t, true, around["called"])
	assert.InDelta(t, 0.4, around["after"].(map[string]any)["rate"], 1e-9)
}

func TestVisitsBeyondTheBudgetOfANetworkAreIncludedAgain(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	ilse.published("The film")
	page := uuid.MustParse(ilse.pageID())
	b.visits(page, b.now.Add(-time.Hour), 5, 5, "")
	var events []store.Event
	for i := range 20 {
		events = append(events, store.Event{
			ID: uuid.New(), At: b.now.Add(-time.Duration(i+1) * time.Minute), EndpointID: page, Edition: 1, Kind: traffic.View,
			Flags: traffic.Flood, UserAgent: "Mozilla/5.0", Visitor: traffic.VisitorKey{1, byte(i)},
		})
	}
	events[19].Flags |= traffic.Crawler
	require.NoError(t, b.store.RecordEvents(t.Context(), events))
	visits := func() any {
		_, err := rollup.All(t.Context(), b.store, nil)
		require.NoError(t, err)
		return ilse.send("GET", ilse.page()+"/readings?range=7d", nil).body["total"].(map[string]any)["visits"]
	}
	require.EqualValues(t, 5, visits())
	path := ilse.page() + "/left-out/flood?range=7d"
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", path, nil).status)
	included := ilse.send("POST", path, nil)
	require.Equal(t, http.StatusOK, included.status, "%v", included.body)
	assert.EqualValues(t, 20, included.body["included"])
	assert.EqualValues(t, 24, visits(), "a crawler stays one")
	assert.EqualValues(t, 0, ilse.send("POST", path, nil).body["included"], "a second press finds nothing")
	assert.EqualValues(t, 24, visits())
}
