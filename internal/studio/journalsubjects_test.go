package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

func TestTheJournalNamesWhatWasChangedOrDeleted(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	ilse.published("The film")
	made := func(path string, body any) string {
		t.Helper()
		got := ilse.send("POST", path, body)
		require.Less(t, got.status, 300, "%s: %s", path, got.raw)
		return got.body["id"].(string)
	}
	card := made(ilse.page()+"/sources", fields{"name": "Card"})
	link := made("/api/short-links", aLink("https://alder.example/kiln"))
	kept := ilse.send("POST", ilse.page()+"/partner-reports?keep=true&name=Wavecastle", []byte(partnerReport)).body["kept"].(string)
	destination := ilse.kept("https://alder.example/kiln")[0]["id"].(string)
	for _, step := range []struct {
		method, path string
		body         any
		did, about   string
	}{
		{"PATCH", ilse.page() + "/sources/" + card, fields{"retired": true}, "change-source", "Card"},
		{"DELETE", ilse.page() + "/partners/" + kept, nil, "delete-partner", "Wavecastle"},
		{"PUT", "/api/destinations/" + destination, fields{"revision": 1, "details": fields{
			"address": "https://alder.example/kiln", "title": "Kiln", "note": "", "labels": []string{},
		}}, "change-destination", "https://alder.example/kiln"},
		{"DELETE", "/api/short-links/" + link, nil, "delete-short-link", ""},
	} {
		b.now = b.now.Add(time.Second)
		got := ilse.send(step.method, step.path, step.body)
		require.Less(t, got.status, 300, "%s %s: %s", step.method, step.path, got.raw)
		last := ilse.entries()[0]
		assert.Equal(t, step.did, last[1])
		if step.about == "" {
			assert.NotEmpty(t, last[3], step.did)
			continue
		}
		assert.Equal(t, step.about, last[3], step.did)
	}
	// Nothing of another workspace is named, and every query is one that the tables know.
	who, err := b.store.Page(t.Context(), uuid.Nil, uuid.Nil)
	assert.ErrorIs(t, err, store.ErrNotFound)
	for _, kind := range store.SubjectKinds() {
		name, err := b.store.Subject(t.Context(), who.WorkspaceID, kind, uuid.MustParse(card))
		require.NoError(t, err, kind)
		assert.Empty(t, name, kind)
	}
	assert.Equal(t, http.StatusNotFound, rolf.send("PATCH", ilse.page()+"/sources/"+card, fields{"retired": false}).status)
}
