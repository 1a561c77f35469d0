package studio_test

import (
	"errors"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/destination"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// visits has so many visitors open the first edition of a page at a time, of which some press a button.
func (b *bench) visits(page uuid.UUID, at time.Time, visits, presses int, from string) {
	b.t.Helper()
	b.visitsOf(page, 1, at, visits, presses, "sale", from)
}

func (b *bench) visitsOf(page uuid.UUID, edition int, at time.Time, visits, presses int, block, from string) {
	b.t.Helper()
	var events []store.Event
	led := b.ledTo("https://kiln.example/" + block)
	for i := range visits {
		event := store.Event{
			ID: uuid.New(), At: at.Add(time.Duration(i) * time.Second), EndpointID: page, Edition: edition, Kind: traffic.View,
			Visitor: traffic.VisitorKey(uuid.New()), UserAgent: "Mozilla/5.0",
		}
		event.Source = from
		events = append(events, event)
		if i < presses {
			event.ID, event.At, event.Kind, event.Block, event.Place = uuid.New(), event.At.Add(time.Second), traffic.Click, block, 1
			event.Led = led
			events = append(events, event)
		}
	}
	require.NoError(b.t, b.store.RecordEvents(b.t.Context(), events))
}

// ledTo is a destination by its address, of whichever workspace has it.
func (b *bench) ledTo(address string) destination.Target {
	b.t.Helper()
	led := destination.Target{Address: address}
	err := b.store.Pool().QueryRow(b.t.Context(), "select id::text from destinations where address = $1 limit 1", address).Scan(&led.ID)
	if errors.Is(err, pgx.ErrNoRows) {
		return destination.Target{}
	}
	require.NoError(b.t, err)
	return led
}

func TestAReadingIsHeldAgainstTheTimeBefore(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(1, button("sale", "Sale", "kiln.example/sale"))).status)
	require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": 2}).status)
	id := uuid.MustParse(ilse.pageID())
	for day := 1; day <= 28; day++ {
		visits, presses := 40, 20
		if day > 7 {
			visits, presses = 20, 4
		}
		b.visits(id, b.now.AddDate(0, 0, -day), visits, presses, "")
	}
	b.visits(id, b.now.Add(-time.Minute), 3, 1, "")

	reading := ilse.send("GET", at+"/readings?range=7d&compare=before", nil)
	require.Equal(t, http.StatusOK, reading.status, "%v", reading.body)
	assert.Equal(t, 280.0, reading.body["total"].(map[string]any)["visits"], "of whole days")
	assert.Equal(t, fields{
		"date": "2026-06-01", "visits": 3.0, "clicks": 1.0, "blocks": map[string]any{"sale": 1.0},
	}, fields(reading.body["today"].(map[string]any)), "today is shown apart")
	assert.Nil(t, ilse.send("GET", at+"/readings?range=month", nil).body["today"])
	changes := reading.body["changes"].(map[string]any)
	assert.Equal(t, 7.0, changes["days"])
	visits := changes["visits"].(map[string]any)
	assert.InDelta(t, 140.0, visits["before"], 0)
	assert.InDelta(t, 0.0, visits["missing"], 0)
	assert.Equal(t, true, visits["called"])
	through := changes["clickThrough"].(map[string]any)
	assert.Equal(t, true, through["called"])
	assert.Greater(t, through["points"].(map[string]any)["low"], 0.1)
	assert.Contains(t, changes["blocks"], "sale")

	weekdays := ilse.send("GET", at+"/readings?range=7d&compare=weekdays", nil).body["changes"].(map[string]any)
	assert.Equal(t, b.now.AddDate(0, 0, -14).Format(time.DateOnly), weekdays["from"])
	assert.Nil(t, ilse.send("GET", at+"/readings?range=7d", nil).body["changes"])
	assert.Nil(t, ilse.send("GET", at+"/readings?range=all&compare=before", nil).body["changes"], "before everything there is nothing")
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("GET", at+"/readings?compare=yesteryear", nil).status)

	// Asked again, nothing is sent until a figure of either time is another.
	path := at + "/readings?range=7d&compare=before"
	tag := ilse.send("GET", path, nil).header.Get("ETag")
	again := func() int {
		return ilse.send("GET", path, nil, func(r *http.Request) { r.Header.Set("If-None-Match", tag) }).status
	}
	assert.Equal(t, http.StatusNotModified, again())
	b.visits(id, b.now.AddDate(0, 0, -10), 1, 0, "")
	first := ilse.send("GET", path, nil).header.Get("ETag")
	assert.Equal(t, http.StatusOK, again(), "a late visit of the time before")
	tag = first
	assert.Equal(t, http.StatusNotModified, again())
	b.visits(id, b.now, 1, 0, "")
	assert.Equal(t, http.StatusOK, again(), "and one of today")
}

func TestAnOrderIsAdvisedOnceThereIsEnoughToGoBy(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	saved := ilse.send("PUT", at+"/draft", draft(1, button("weak", "Weak", "kiln.example/weak"), button("sale", "Sale", "kiln.example/sale")))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": 2}).status)
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/order", nil).status)
	few := ilse.send("GET", at+"/order", nil)
	require.Equal(t, http.StatusOK, few.status, "%v", few.body)
	assert.Equal(t, false, few.body["offered"])
	assert.Equal(t, "few", few.body["told"])
	assert.Len(t, few.body["blocks"], 2)

	id, revision, edition := uuid.MustParse(ilse.pageID()), 2, 1
	b.now = b.now.AddDate(0, 0, 1)
	b.visitsOf(id, edition, b.now, 400, 160, "sale", "")
	b.now = b.now.AddDate(0, 0, 1)
	unmoved := ilse.send("GET", at+"/order", nil).body
	assert.Equal(t, false, unmoved["offered"], "it may be pressed more because of where it stands")
	assert.Equal(t, "fixed", unmoved["told"])
	assert.Equal(t, []any{nil, nil}, unmoved["seen"])

	for range 6 {
		blocks := []any{button("weak", "Weak", "kiln.example/weak"), button("sale", "Sale", "kiln.example/sale")}
		if edition%2 == 1 {
			slices.Reverse(blocks)
		}
		require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(revision, blocks...)).status)
		revision, edition = revision+1, edition+1
		require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": revision}).status)
		b.now = b.now.AddDate(0, 0, 1)
		// Above, either is pressed more.
		b.visitsOf(id, edition, b.now, 400, 240-120*(edition%2), "sale", "")
		b.visitsOf(id, edition, b.now.Add(time.Hour), 400, 30+30*(edition%2), "weak", "")
		b.now = b.now.AddDate(0, 0, 1)
	}
	advice := ilse.send("GET", at+"/order", nil).body
	assert.Equal(t, true, advice["offered"], "%v", advice)
	assert.Equal(t, "all", advice["told"])
	assert.Equal(t, []any{"sale", "weak"}, advice["order"])
	assert.Greater(t, advice["low"], 0.0)
	assert.Greater(t, advice["blocks"].([]any)[1].(map[string]any)["pull"], 1.0)
}
