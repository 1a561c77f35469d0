package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// listed is a page as the list of pages has it.
func (b *browser) listed(address string) map[string]any {
	b.t.Helper()
	for _, each := range b.send("GET", "/api/pages", nil).list {
		if each["address"] == address {
			return each
		}
	}
	return nil
}

func TestTheListOfPagesSaysHowEachStands(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	standing := func() any { return ilse.listed("quarrow-clay")["state"] }
	assert.Equal(t, true, ilse.listed("quarrow-clay")["empty"])
	assert.Equal(t, "draft", standing())
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(1, button("sale", "Seconds sale", "kiln.example/sale"))).status)
	refused := ilse.send("PUT", at+"/rest", fields{})
	assert.Contains(t, refused.detail(), "never published")
	require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": 2}).status)
	assert.Equal(t, "live", standing())
	assert.Equal(t, false, ilse.listed("quarrow-clay")["edited"])
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(2, button("sale", "Sale", "kiln.example/sale"))).status)
	assert.Equal(t, true, ilse.listed("quarrow-clay")["edited"])

	solo := ilse.send("POST", at+"/takeovers", fields{"solo": "sale", "until": b.now.Add(time.Hour)})
	require.Equal(t, http.StatusCreated, solo.status, "%v", solo.body)
	assert.Equal(t, "solo", standing())
	require.Equal(t, http.StatusCreated, ilse.send("POST", at+"/takeovers", fields{"passThrough": "kiln.example/film"}).status)
	assert.Equal(t, "pass-through", standing())
	rests := ilse.send("PUT", at+"/rest", fields{"notice": "Back in May."})
	require.Equal(t, http.StatusOK, rests.status, "%v", rests.body)
	assert.Equal(t, "Back in May.", rests.body["resting"].(map[string]any)["notice"])
	assert.Equal(t, "resting", standing())
	awake := ilse.send("DELETE", at+"/rest", nil)
	require.Equal(t, http.StatusOK, awake.status, "%v", awake.body)
	assert.Nil(t, awake.body["resting"])
	assert.Equal(t, "pass-through", standing())

	refused = ilse.send("DELETE", at, nil)
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "your only page")
	require.Equal(t, http.StatusCreated, ilse.send("POST", "/api/pages", fields{"address": "quarrow-shows"}).status)
	require.Equal(t, http.StatusNoContent, ilse.send("DELETE", at, nil).status)
	assert.Equal(t, "deleted", standing())
	assert.NotNil(t, ilse.send("GET", at, nil).body["deleteAt"])
	require.Equal(t, http.StatusNoContent, ilse.send("POST", at+"/keep", nil).status)
	assert.Equal(t, "pass-through", standing())

	require.Equal(t, http.StatusNoContent, ilse.send("PUT", at+"/labels", fields{"labels": []string{"#shop", "Shop", "2026"}}).status)
	assert.Equal(t, []any{"shop", "2026"}, ilse.listed("quarrow-clay")["labels"])
}

func TestAPageIsCopiedWithItsSourcesAndRules(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at, id := ilse.page(), ilse.pageID()
	card := ilse.send("POST", at+"/sources", fields{"name": "Card", "tag": "card"}).body["id"]
	retired := ilse.send("POST", at+"/sources", fields{"name": "Old fair", "tag": "fair"}).body["id"]
	require.Equal(t, http.StatusOK, ilse.send("PATCH", at+"/sources/"+retired.(string), fields{"retired": true}).status)
	only := button("sale", "Seconds sale", "kiln.example/sale")
	only["to"] = fields{"rule": "only", "sources": []any{card}}
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(1, only, button("dates", "Dates", "kiln.example/dates"))).status)
	block := func(of answer, n int) map[string]any {
		return of.body["document"].(map[string]any)["blocks"].([]any)[n].(map[string]any)
	}

	with := ilse.send("POST", "/api/pages", fields{"address": "quarrow-shows", "copyOf": id, "withSources": true})
	require.Equal(t, http.StatusCreated, with.status, "%v", with.body)
	sources := ilse.send("GET", "/api/pages/"+with.body["id"].(string)+"/sources", nil).list
	require.Len(t, sources, 1, "the retired one stays behind")
	assert.Equal(t, "card", sources[0]["tag"])
	assert.NotEqual(t, card, sources[0]["id"])
	assert.Equal(t, []any{sources[0]["id"]}, block(with, 0)["to"].(map[string]any)["sources"])
	assert.Equal(t, "draft", ilse.listed("quarrow-shows")["state"])

	without := ilse.send("POST", "/api/pages", fields{"address": "quarrow-film", "copyOf": id})
	require.Equal(t, http.StatusCreated, without.status, "%v", without.body)
	assert.Equal(t, false, block(without, 0)["shown"], "nobody sees what was not meant for them")
	assert.Nil(t, block(without, 0)["to"])
	assert.Equal(t, true, block(without, 1)["shown"])

	moved := ilse.send("POST", "/api/pages/"+without.body["id"].(string)+"/blocks",
		fields{"blocks": []any{only, button("film", "A wood firing", "kiln.example/film")}})
	require.Equal(t, http.StatusOK, moved.status, "%v", moved.body)
	assert.NotEqual(t, "sale", block(moved, 2)["key"], "that key is taken there")
	assert.Equal(t, false, block(moved, 2)["shown"])
	assert.Equal(t, "film", block(moved, 3)["key"])

	rolf := b.browser()
	rolf.signUp("rolf-iron")
	for what, got := range map[string]answer{
		"copy":   rolf.send("POST", "/api/pages", fields{"address": "stolen", "copyOf": id}),
		"rest":   rolf.send("PUT", at+"/rest", fields{}),
		"wake":   rolf.send("DELETE", at+"/rest", nil),
		"delete": rolf.send("DELETE", at, nil),
		"keep":   rolf.send("POST", at+"/keep", nil),
		"labels": rolf.send("PUT", at+"/labels", fields{"labels": []string{"mine"}}),
		"blocks": rolf.send("POST", at+"/blocks", fields{"blocks": []any{only}}),
	} {
		assert.Equal(t, http.StatusNotFound, got.status, what)
	}
}

func TestADeletedShortLinkIsSaidToBeAndCanBeKept(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	made := ilse.send("POST", "/api/short-links", fields{"link": fields{
		"destination": "kiln.example/sale", "name": "", "labels": []string{}, "note": "", "on": true, "redirect": 302, "windows": []any{},
		"preview": fields{},
	}})
	require.Equal(t, http.StatusCreated, made.status, "%v", made.body)
	at := "/api/short-links/" + made.body["id"].(string)
	assert.Equal(t, http.StatusNotFound, rolf.send("DELETE", at, nil).status)
	deleted := ilse.send("DELETE", at, nil)
	require.Equal(t, http.StatusOK, deleted.status, "%v", deleted.body)
	assert.NotNil(t, deleted.body["deleteAt"])
	assert.NotNil(t, ilse.send("GET", "/api/short-links", nil).list[0]["deleteAt"])
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", at+"/keep", nil).status)
	assert.Nil(t, ilse.send("POST", at+"/keep", nil).body["deleteAt"])
}
