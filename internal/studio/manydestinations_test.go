package studio_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// keepLinks takes a table of links in.
func (b *browser) keepLinks(table string) {
	b.t.Helper()
	got := b.send("POST", "/api/link-files?keep=true", []byte(table))
	require.Less(b.t, got.status, 300, "%v", got.body)
}

func TestManyDestinationsAreChangedAtOnceAsShownBeforeAndUndone(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	ilse.keepLinks("address,title,labels\n" +
		"https://partner.example/kiln?id=12,Kiln,shop\n" +
		"https://partner.example/clay?id=12&x=1,Clay,\n" +
		"https://new.example/clay?id=12&x=1,Already there,\n" +
		"https://other.example/?id=12,Other,")
	body := func(digest any) fields {
		return fields{"search": "partner.example", "digest": digest, "change": fields{
			"host": fields{"from": "partner.example", "to": "new.example"}, "addLabels": []string{"moved"},
		}}
	}
	plan := ilse.send("POST", "/api/destination-changes", body(""))
	require.Equal(t, http.StatusOK, plan.status, "%v", plan.body)
	rows := plan.body["rows"].([]any)
	require.Len(t, rows, 2)
	for _, row := range rows {
		row := row.(map[string]any)
		if row["title"] == "Clay" {
			assert.Contains(t, row["wrong"], "as another destination", "two would be the same")
			continue
		}
		assert.Equal(t, map[string]any{"address": "https://new.example/kiln?id=12", "labels": []any{"shop", "moved"}}, row["after"])
		assert.Nil(t, row["wrong"])
	}
	assert.Len(t, ilse.kept("partner.example"), 2, "nothing is changed before it was seen")
	stale := ilse.send("POST", "/api/destination-changes", body("another plan"))
	assert.Equal(t, true, stale.body["stale"])
	assert.Len(t, ilse.kept("partner.example"), 2)

	done := ilse.send("POST", "/api/destination-changes", body(plan.body["digest"]))
	require.Equal(t, http.StatusOK, done.status, "%v", done.body)
	change := done.body["changed"].(map[string]any)
	assert.Equal(t, 1.0, change["count"])
	kiln := ilse.kept("Kiln")[0]
	assert.Equal(t, "https://new.example/kiln?id=12", kiln["details"].(map[string]any)["address"])
	led := ilse.send("GET", "/api/destinations/"+kiln["id"].(string), nil).body["history"].([]any)
	assert.Len(t, led, 2)

	undo := "/api/destination-changes/" + change["id"].(string) + "/undo"
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", undo, nil).status)
	assert.Empty(t, rolf.send("GET", "/api/destination-changes", nil).list)
	require.Len(t, ilse.send("GET", "/api/destination-changes", nil).list, 1)
	undone := ilse.send("POST", undo, nil)
	assert.Equal(t, map[string]any{"back": 1.0, "stay": 0.0}, undone.body)
	assert.Equal(t, []any{"shop"}, ilse.kept("Kiln")[0]["details"].(map[string]any)["labels"])
	assert.Equal(t, http.StatusNotFound, ilse.send("POST", undo, nil).status, "once")
}

func TestWhatWasChangedSinceStaysWhenAChangeOfManyIsUndone(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.keepLinks("address,title\nhttps://kiln.example/?id=12,A\nhttps://clay.example/?id=12,B")
	body := fields{"search": "", "change": fields{"parameter": fields{"name": "id", "from": "12", "to": "13"}}}
	body["digest"] = ilse.send("POST", "/api/destination-changes", body).body["digest"]
	done := ilse.send("POST", "/api/destination-changes", body)
	require.NotNil(t, done.body["changed"], "%v", done.body)
	clay := ilse.kept("clay.example")[0]
	require.Equal(t, http.StatusOK, ilse.send("PUT", "/api/destinations/"+clay["id"].(string), fields{
		"revision": clay["revision"],
		"details":  fields{"address": "https://clay.example/new", "title": "B", "note": "", "labels": []string{}},
	}).status)
	undone := ilse.send("POST", "/api/destination-changes/"+done.body["changed"].(map[string]any)["id"].(string)+"/undo", nil)
	assert.Equal(t, map[string]any{"back": 1.0, "stay": 1.0}, undone.body)
	assert.Len(t, ilse.kept("id=12"), 1)
	assert.Len(t, ilse.kept("clay.example/new"), 1)
	nothing := ilse.send("POST", "/api/destination-changes", fields{"search": "", "change": fields{}})
	assert.Equal(t, http.StatusUnprocessableEntity, nothing.status)
}

func TestMergedDestinationsLeadAlikeUntilTheyAreTakenApart(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	saved := ilse.send(
		"PUT",
		at+"/draft",
		draft(1, button("one1", "Old shop", "kiln.example/old"), button("two2", "Shop", "kiln.example/shop")),
	)
	require.Equal(t, http.StatusOK, saved.status)
	old, shop := ilse.kept("/old")[0]["id"].(string), ilse.kept("/shop")[0]["id"].(string)
	addresses := func() (all []string) {
		for _, block := range ilse.send("GET", at, nil).body["document"].(map[string]any)["blocks"].([]any) {
			all = append(all, block.(map[string]any)["button"].(map[string]any)["address"].(string))
		}
		return all
	}
	assert.Equal(t, http.StatusNotFound, rolf.send("PUT", "/api/destinations/"+old+"/merged", fields{"into": shop}).status)
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("PUT", "/api/destinations/"+old+"/merged", fields{"into": old}).status)
	merged := ilse.send("PUT", "/api/destinations/"+old+"/merged", fields{"into": shop})
	require.Equal(t, http.StatusOK, merged.status, "%v", merged.body)
	assert.Equal(t, 2.0, merged.body["pages"].([]any)[0].(map[string]any)["places"], "both places are its own")
	assert.Equal(t, []any{map[string]any{"id": old, "title": "Old shop", "address": "https://kiln.example/old"}}, merged.body["merged"])
	assert.Equal(t, []string{"https://kiln.example/shop", "https://kiln.example/shop"}, addresses())
	assert.Empty(t, ilse.kept("/old"), "it is in no list")
	assert.Equal(t, http.StatusNotFound, ilse.send("GET", "/api/destinations/"+old, nil).status)

	// Whoever still has the page from before goes on meaning what it was merged with.
	saved = ilse.send("PUT", at+"/draft", draft(2,
		fields{"key": "one1", "kind": "button", "shown": true, "button": fields{
			"title": "Old shop, by its old name", "address": "https://kiln.example/old", "destinationId": old,
		}}, button("two2", "Shop", "kiln.example/shop")))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	assert.Equal(t, []string{"https://kiln.example/shop", "https://kiln.example/shop"}, addresses())
	assert.Empty(t, ilse.kept("/old"))

	assert.Equal(t, http.StatusNotFound, rolf.send("DELETE", "/api/merged-destinations/"+old, nil).status)
	apart := ilse.send("DELETE", "/api/merged-destinations/"+old, nil)
	require.Equal(t, http.StatusOK, apart.status, "%v", apart.body)
	assert.Len(t, ilse.kept("/old"), 1)
	assert.Equal(t, []string{"https://kiln.example/shop", "https://kiln.example/shop"}, addresses(), "what was saved meanwhile stays")
}
