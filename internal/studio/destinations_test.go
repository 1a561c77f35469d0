package studio_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
)

// kept lists destinations by a text.
func (b *browser) kept(search string) []map[string]any {
	b.t.Helper()
	got := b.send("GET", "/api/destinations?search="+search, nil)
	require.Equal(b.t, http.StatusOK, got.status, "%v", got.body)
	return got.list
}

func TestADestinationIsFoundChangedAndSaysWhatLeadsThere(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	saved := ilse.send("PUT", at+"/draft", withDocument(1, func(doc *page.Document) {
		doc.Header.Name = "Quarrow Clay"
		doc.Footer.Links = []page.FooterLink{
			{Key: "aaaa", Title: "Kiln dates", Address: "https://kiln.example/dates"},
			{Key: "bbbb", Title: "Dates again", Address: "kiln.example/dates"},
		}
	}))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	require.Less(t, ilse.send("POST", "/api/short-links", fields{"link": fields{
		"destination": "https://kiln.example/dates", "name": "Dates", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}}).status, 300)

	require.Len(t, ilse.kept("KILN"), 1, "it is kept once")
	assert.Empty(t, ilse.kept("%25"), "what is searched for is no pattern")
	one := ilse.kept("dates")[0]
	id := one["id"].(string)
	said := one["details"].(map[string]any)
	assert.Equal(t, "Kiln dates", said["title"], "called after what led there first")
	got := ilse.send("GET", "/api/destinations/"+id, nil)
	assert.Equal(t, []any{map[string]any{"id": ilse.pageID(), "name": "Quarrow Clay", "places": 2.0}}, got.body["pages"])
	assert.Len(t, got.body["shortLinks"], 1)

	change := func(revision int, address string) answer {
		return ilse.send("PUT", "/api/destinations/"+id, fields{"revision": revision, "details": fields{
			"address": address, "title": "Kiln dates", "note": "Ask Rolf", "labels": []string{"#kiln"},
		}})
	}
	for address, says := range map[string]string{
		"javascript:alert(1)":         "",
		"mailto:ilse@quarrow.example": "A short link leads here",
	} {
		refused := change(1, address)
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, address)
		assert.Contains(t, refused.detail(), says)
	}
	changed := change(1, "kiln.example/moved")
	require.Equal(t, http.StatusOK, changed.status, "%v", changed.body)
	assert.Len(t, changed.body["history"], 2)
	stale := change(1, "kiln.example/lost")
	assert.Equal(t, http.StatusConflict, stale.status)
	assert.Equal(t, "https://kiln.example/moved", stale.body["current"].(map[string]any)["details"].(map[string]any)["address"])
	document := ilse.send("GET", at, nil).body["document"].(map[string]any)
	for _, link := range document["footer"].(map[string]any)["links"].([]any) {
		assert.Equal(t, "https://kiln.example/moved", link.(map[string]any)["address"])
	}

	// Another destination at that address would be the same twice.
	require.Less(t, ilse.send("POST", "/api/short-links", fields{"link": fields{
		"destination": "https://kiln.example/other", "name": "Other", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}}).status, 300)
	assert.Contains(t, change(2, "https://kiln.example/other").detail(), "You keep this address already")
}
