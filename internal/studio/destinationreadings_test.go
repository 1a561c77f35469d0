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
		{ID: uuid.New(), At: b.now.Add(-time.Hour), EndpointID: short, Kind: traffic.Click, Outcome: "destination", UserAgent: "Mozilla/5.0"},
		{ID: uuid.New(), At: b.now, EndpointID: page, Edition: 1, Kind: traffic.Click, Block: "film", UserAgent: "Mozilla/5.0"},
	}))
	id := ilse.kept("kiln.example/sale")[0]["id"].(string)
	got := ilse.send("GET", "/api/destinations/"+id+"/readings?range=7d", nil)
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
	press := func(item string) store.Event {
		return store.Event{
			ID: uuid.New(), At: b.now, EndpointID: page, Edition: 1, Kind: traffic.Click, Block: "icons", Item: item, UserAgent: "Mozilla/5.0",
			Visitor: traffic.VisitorKey(uuid.New()),
		}
	}
	require.NoError(t, b.store.RecordEvents(t.Context(), []store.Event{press("loft"), press("loft"), press("reel")}))
	id := ilse.kept("photoloft.example")[0]["id"].(string)
	got := ilse.send("GET", "/api/destinations/"+id+"/readings?range=7d", nil)
	require.Equal(t, http.StatusOK, got.status, got.detail())
	assert.EqualValues(t, 2, got.body["clicks"], "and not those on the other icon")
	assert.Equal(t, "loft", got.body["uses"].([]any)[0].(map[string]any)["item"])
}
