package studio_test

import (
	"bytes"
	"encoding/csv"
	"math/rand/v2"
	"net/http"
	"strconv"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// figuresOfFile are figures made of the file of raw events alone, in the way that docs/numbers.md describes. It shares
// no code with what makes them for the screen.
type figuresOfFile struct {
	views, clicks, visits int
	leftOut               int
	visitsBySource        map[string]int
	clicksBySource        map[string]int
	clicksByButton        map[string]int
	takersByButton        map[string]int
}

func recompute(t *testing.T, file []byte) figuresOfFile {
	t.Helper()
	rows, err := csv.NewReader(bytes.NewReader(file)).ReadAll()
	require.NoError(t, err)
	column := map[string]int{}
	for i, name := range rows[0] {
		column[name] = i
	}
	type side struct{ visitor, source string }
	type visit struct {
		last    time.Time
		pressed map[string]bool
	}
	open := map[side]*visit{}
	of := figuresOfFile{
		visitsBySource: map[string]int{}, clicksBySource: map[string]int{}, clicksByButton: map[string]int{}, takersByButton: map[string]int{},
	}
	for _, row := range rows[1:] {
		cell := func(name string) string { return row[column[name]] }
		if cell("left_out") != "" {
			of.leftOut++
			continue
		}
		at, err := time.Parse(time.RFC3339Nano, cell("at"))
		require.NoError(t, err)
		from := cell("visit_source")
		if from == "" {
			from = "Untagged"
		}
		key := side{cell("visitor"), from}
		now := open[key]
		if now == nil || at.Sub(now.last) > 30*time.Minute {
			now = &visit{pressed: map[string]bool{}}
			open[key] = now
			of.visits++
			of.visitsBySource[from]++
		}
		now.last = at
		if cell("kind") == "view" {
			of.views++
			continue
		}
		button := cell("button")
		of.clicks++
		of.clicksBySource[from]++
		of.clicksByButton[button]++
		if !now.pressed[button] {
			now.pressed[button] = true
			of.takersByButton[button]++
		}
	}
	return of
}

func TestTheFileOfRawEventsMakesTheFiguresThatTheScreenShows(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	saved := ilse.send("PUT", ilse.page()+"/draft",
		draft(1, button("sale", "Sale", "kiln.example/sale"), button("film", "Film", "film.example")))
	require.Equal(t, http.StatusOK, saved.status)
	require.Equal(t, http.StatusOK, ilse.send("POST", ilse.page()+"/publish", fields{"revision": 2}).status)
	page := uuid.MustParse(ilse.pageID())
	var sources []string
	for _, name := range []string{"Card", "Letter"} {
		sources = append(sources, ilse.send("POST", ilse.page()+"/sources", fields{"name": name}).body["id"].(string))
	}
	// Visitors who look, press twice, come back from elsewhere, and go on late; some are crawlers or members.
	random := rand.New(rand.NewPCG(27, 7))
	var events []store.Event
	for range 300 {
		visitor, at := traffic.VisitorKey(uuid.New()), b.now.Add(-time.Duration(random.IntN(5*24*3600))*time.Second)
		for range 1 + random.IntN(8) {
			at = at.Add([]time.Duration{5 * time.Second, 20 * time.Second, time.Minute, 20 * time.Minute, 40 * time.Minute}[random.IntN(5)])
			if at.UTC().Truncate(24*time.Hour) != at.Add(-40*time.Minute).UTC().Truncate(24*time.Hour) {
				visitor = traffic.VisitorKey(uuid.New()) // a key lasts for a day
			}
			event := store.Event{
				ID: uuid.Must(uuid.NewV7()), At: at, EndpointID: page, Edition: 1, Kind: traffic.View, Visitor: visitor, UserAgent: "Mozilla/5.0",
				Attribution: source.Attribution{By: source.Untagged},
			}
			if random.IntN(3) > 0 {
				event.Kind, event.Block, event.Place = traffic.Click, []string{"sale", "film"}[random.IntN(2)], 1
			} else if n := random.IntN(3); n < 2 {
				event.Attribution = source.Attribution{Source: sources[n], By: source.ByTag}
			}
			if random.IntN(20) == 0 {
				event.Flags = []traffic.Flags{traffic.Crawler, traffic.Own}[random.IntN(2)]
			}
			events = append(events, event)
		}
	}
	require.NoError(t, b.store.RecordEvents(t.Context(), events))

	of := recompute(t, ilse.send("GET", ilse.page()+"/events?range=28d-today&format=csv", nil).raw)
	reading := ilse.send("GET", ilse.page()+"/readings?range=28d-today", nil)
	require.Equal(t, http.StatusOK, reading.status)
	total := reading.body["total"].(map[string]any)
	assert.EqualValues(t, total["views"], of.views)
	assert.EqualValues(t, total["clicks"], of.clicks)
	assert.EqualValues(t, total["visits"], of.visits)
	assert.Equal(t, len(events), of.views+of.clicks+of.leftOut)
	count := func(text string) int {
		n, err := strconv.Atoi(text)
		require.NoError(t, err)
		return n
	}
	repeats := 0
	for _, row := range ilse.table("left-out", "range=28d-today")[1:] {
		if row[0] == "repeat" {
			repeats = count(row[1]) + count(row[2])
		}
	}
	assert.Positive(t, repeats, "the visitors pressed twice")
	visits, clicks := map[string]int{}, map[string]int{}
	columns := map[string]int{}
	rows := ilse.table("sources", "range=28d-today")
	for i, name := range rows[0] {
		columns[name] = i
	}
	for _, row := range rows[1:] {
		visits[row[0]] += count(row[columns["visits"]])
		clicks[row[0]] += count(row[columns["clicks"]])
	}
	assert.Equal(t, visits, of.visitsBySource)
	assert.Equal(t, clicks, of.clicksBySource)
	pressed, takers := map[string]int{}, map[string]int{}
	for _, row := range ilse.table("buttons", "range=28d-today")[1:] {
		pressed[row[0]] += count(row[3])
		takers[row[0]] += count(row[4])
	}
	assert.Equal(t, pressed, of.clicksByButton)
	assert.Equal(t, takers, of.takersByButton)
}
