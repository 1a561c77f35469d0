package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

func TestADestinationIsReadOverAllPlacesThatLeadThere(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	ilse.published("The film")
	link := ilse.send("POST", "/api/short-links", fields{"link": fields{
		"destination": "https://kiln.example/sale", "name": "Sale", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}})
	require.Less(t, link.status, 300, link.detail())
	page, short := uuid.MustParse(ilse.pageID()), uuid.MustParse(link.body["id"].(string))
	b.visits(page, b.now, 20, 12, "")
	b.visits(page, b.now.AddDate(0, 0, -2), 20, 5, "")
	require.NoError(t, b.store.RecordEvents(t.Context(), []store.Event{
		{
			ID: uuid.New(), At: b.now.Add(-time.Hour), EndpointID: short, Kind: traffic.Click, Outcome: "destination", UserAgent: "Mozilla/5.0",
			Led: b.ledTo("https://kiln.example/sale"),
		},
		{ID: uuid.New(), At: b.now, EndpointID: page, Edition: 1, Kind: traffic.Click, Block: "film", UserAgent: "Mozilla/5.0"},
	}))
	id := ilse.kept("kiln.example/sale")[0]["id"].(string)
	got := ilse.send("GET", "/api/destinations/"+id+"/readings?range=2026-05-26..2026-06-01", nil)
	require.Equal(t, http.StatusOK, got.status, got.detail())
	assert.EqualValues(t, 18, got.body["clicks"])
	assert.Equal(t, []any{0.0, 0.0, 0.0, 0.0, 5.0, 0.0, 13.0}, got.body["daily"])
	assert.Equal(t, []any{
		map[string]any{"endpoint": page.String(), "block": "sale", "title": "Sale", "clicks": 17.0},
		map[string]any{"endpoint": short.String(), "clicks": 1.0},
	}, got.body["uses"])
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", "/api/destinations/"+id+"/readings", nil).status)
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("GET", "/api/destinations/"+id+"/readings?range=8d", nil).status)
}

func TestADestinationIsReadOverProfileIconsAndPicturesToo(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	body := draft(1, button("film", "The film", "https://film.example/"))
	icon := func(key, address string) fields {
		return fields{"key": key, "icon": fields{"set": "signs", "name": "globe"}, "address": address, "name": key}
	}
	body["document"].(fields)["icons"] = fields{"place": "above", "size": "medium", "colour": "page", "items": []any{
		icon("loft", "https://photoloft.example/quarrow"), icon("reel", "https://reelpond.example/quarrow"),
	}}
	saved := ilse.send("PUT", ilse.page()+"/draft", body)
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	require.Equal(t, http.StatusOK, ilse.send("POST", ilse.page()+"/publish", fields{"revision": 2}).status)
	page := uuid.MustParse(ilse.pageID())
	press := func(item, address string) store.Event {
		return store.Event{
			ID: uuid.New(), At: b.now, EndpointID: page, Edition: 1, Kind: traffic.Click, Block: "icons", Item: item, UserAgent: "Mozilla/5.0",
			Visitor: traffic.VisitorKey(uuid.New()), Led: b.ledTo(address),
		}
	}
	loft, reel := "https://photoloft.example/quarrow", "https://reelpond.example/quarrow"
	require.NoError(t, b.store.RecordEvents(t.Context(), []store.Event{press("loft", loft), press("loft", loft), press("reel", reel)}))
	id := ilse.kept("photoloft.example")[0]["id"].(string)
	got := ilse.send("GET", "/api/destinations/"+id+"/readings?range=2026-05-26..2026-06-01", nil)
	require.Equal(t, http.StatusOK, got.status, got.detail())
	assert.EqualValues(t, 2, got.body["clicks"], "and not those on the other icon")
	assert.Equal(t, "loft", got.body["uses"].([]any)[0].(map[string]any)["item"])
}

// aLink is what a short link is made of.
func aLink(destination string) fields {
	return fields{"link": fields{
		"destination": destination, "name": "", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}}
}

func TestAClickBelongsForEverToWhereItLed(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	made := ilse.send("POST", "/api/short-links", aLink("https://alder.example/kiln"))
	require.Less(t, made.status, 300, made.detail())
	short, page := uuid.MustParse(made.body["id"].(string)), uuid.MustParse(ilse.pageID())
	press := func(times int, address string) {
		t.Helper()
		for range times {
			require.NoError(t, b.store.RecordEvents(t.Context(), []store.Event{
				{
					ID: uuid.New(), At: b.now, EndpointID: short, Kind: traffic.Click, Outcome: "destination", UserAgent: "Mozilla/5.0",
					Visitor: traffic.VisitorKey(uuid.New()), Led: b.ledTo(address),
				},
				{
					ID: uuid.New(), At: b.now, EndpointID: page, Edition: 1, Kind: traffic.Click, Block: "sale", UserAgent: "Mozilla/5.0",
					Visitor: traffic.VisitorKey(uuid.New()), Led: b.ledTo(address),
				},
			}))
		}
	}
	first := ilse.kept("https://alder.example/kiln")[0]["id"].(string)
	press(2, "https://alder.example/kiln")

	changed := aLink("https://birch.example/kiln")
	changed["revision"] = made.body["revision"]
	changed["link"].(fields)["name"] = made.body["link"].(map[string]any)["name"]
	saved := ilse.send("PUT", "/api/short-links/"+short.String(), changed)
	require.Equal(t, http.StatusOK, saved.status, saved.detail())
	assert.Equal(t, "birch.example", saved.body["link"].(map[string]any)["name"], "the name was that of the address before")
	second := ilse.kept("https://birch.example/kiln")[0]
	assert.Equal(t, "birch.example", second["details"].(map[string]any)["title"])
	press(1, "https://birch.example/kiln")
	clicks := func(destination string) any {
		return ilse.send("GET", "/api/destinations/"+destination+"/readings?range=2026-05-26..2026-06-01", nil).body["clicks"]
	}
	assert.EqualValues(t, 4, clicks(first))
	assert.EqualValues(t, 2, clicks(second["id"].(string)))

	// The same where the destination itself gets another address: the clicks stay its own, each with the address of then.
	moved := ilse.send("PUT", "/api/destinations/"+first, fields{
		"revision": 1, "details": fields{"address": "https://cedar.example/kiln", "title": "alder.example", "note": "", "labels": []string{}},
	})
	require.Equal(t, http.StatusOK, moved.status, moved.detail())
	assert.Equal(t, "cedar.example", moved.body["details"].(map[string]any)["title"])
	press(3, "https://cedar.example/kiln")
	got := ilse.send("GET", "/api/destinations/"+first+"/readings?range=2026-05-26..2026-06-01", nil)
	assert.EqualValues(t, 10, got.body["clicks"])
	assert.Equal(t, []any{
		map[string]any{"address": "https://cedar.example/kiln", "clicks": 6.0},
		map[string]any{"address": "https://alder.example/kiln", "clicks": 4.0},
	}, got.body["addresses"])

	// A partner's counts are held against what led to it, pages and short links together.
	report := "date,address,clicks\n2026-06-01,https://alder.example/kiln,4\n2026-06-01,https://cedar.example/kiln,6\n"
	kept := ilse.send("POST", ilse.page()+"/partner-reports?keep=true&name=Alder", []byte(report))
	require.Equal(t, http.StatusOK, kept.status, kept.detail())
	lines := ilse.send("GET", ilse.page()+"/partners/"+kept.body["kept"].(string)+"?range=2026-05-26..2026-06-01", nil).body["lines"].([]any)
	for i, clicks := range []float64{4, 6} {
		assert.EqualValues(t, clicks, lines[i].(map[string]any)["total"].(map[string]any)["ours"])
	}
	events, err := b.store.CountEvents(t.Context(), page)
	require.NoError(t, err)
	assert.EqualValues(t, 6, events)
}
