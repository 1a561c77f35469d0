package studio_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
)

func TestEditionsSayWhatTheyChangedAndStandBesideEachOther(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	block := func(key, title string) page.Block {
		return page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: title, Address: "https://kiln.example/" + key}}
	}
	for i, blocks := range [][]page.Block{
		{block("dates", "Kiln dates")}, {block("dates", "Kiln dates"), block("sale", "Seconds sale")}, {block("sale", "Seconds sale")},
	} {
		saved := ilse.send("PUT", at+"/draft", withDocument(i+1, func(doc *page.Document) { doc.Blocks = blocks }))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
		published := ilse.send("POST", at+"/publish", fields{"revision": saved.body["revision"]})
		require.Equal(t, http.StatusOK, published.status, "%v", published.body)
	}

	var sentences []string
	next := ""
	for range 2 {
		part := ilse.send("GET", at+"/editions?limit=2&after="+next, nil)
		require.Equal(t, http.StatusOK, part.status)
		next = part.header.Get("Next-Cursor")
		for _, edition := range part.list {
			assert.Equal(t, "quarrow-clay@quarrow.example", edition["by"])
			change := edition["changes"].([]any)[0].(map[string]any)
			sentences = append(sentences, fmt.Sprint(edition["number"], ": ", change["sentence"]))
		}
	}
	assert.Equal(t, []string{
		"3: “Kiln dates” is deleted; it was at place 1.", "2: “Seconds sale” is added at place 2.",
		"1: The page goes live for the first time, with 1 block.",
	}, sentences)
	assert.Empty(t, next)

	compared := ilse.send("GET", at+"/editions/1?with=2", nil)
	assert.Equal(t, []any{
		map[string]any{"key": "dates", "first": true, "second": true, "same": true},
		map[string]any{"key": "sale", "first": false, "second": true, "same": false},
	}, compared.body["rows"])
	assert.Len(t, ilse.send("GET", at+"/editions/1", nil).body["changes"], 2, "beside the working copy")
	for _, nothing := range []string{at + "/editions/4", at + "/editions/1?with=9"} {
		assert.Equal(t, http.StatusNotFound, ilse.send("GET", nothing, nil).status, nothing)
	}
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/editions/1", nil).status, "of another workspace")
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/editions", nil).status)
}
