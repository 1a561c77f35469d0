package studio_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

const someLinks = "Titel;Adresse;Schlagworte\r\n\"Töpfe; alle\";kiln.example/pots;shop\r\n" +
	"Brand;kiln.example/fire;\r\nKaputt;javascript:x;\r\n"

func TestAFileOfLinksIsReadShownKeptAndUndone(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	require.Equal(t, http.StatusOK, ilse.send("PUT", ilse.page()+"/draft", draft(1, button("fire", "Fire", "kiln.example/fire"))).status)
	kept := func() int { return len(ilse.send("GET", "/api/destinations", nil).list) }

	read := ilse.send("POST", "/api/link-files", []byte(someLinks))
	require.Equal(t, http.StatusOK, read.status, "%v", read.body)
	assert.Equal(t, 1, kept(), "to read is not to keep")
	assert.Equal(t, ";", read.body["delimiter"])
	assert.Equal(t, []any{"Titel", "Adresse", "Schlagworte"}, read.body["columns"])
	assert.Equal(t, map[string]any{"address": 1.0, "title": 0.0, "note": -1.0, "labels": -1.0, "head": true}, read.body["mapping"])
	assert.Equal(t, []any{1.0, 1.0, 1.0}, []any{read.body["new"], read.body["there"], read.body["wrong"]})
	first := read.body["rows"].([]any)[0].(map[string]any)
	assert.Equal(t, 4.0, first["line"], "what is wrong comes first")
	assert.NotEmpty(t, first["wrong"])

	mapped := "?address=1&title=0&labels=2&head=true"
	done := ilse.send("POST", "/api/link-files"+mapped+"&keep=true&label=spring", []byte(someLinks))
	require.Equal(t, http.StatusOK, done.status, "%v", done.body)
	assert.Equal(t, 1.0, done.body["new"])
	require.Equal(t, 2, kept())
	pots := ilse.send("GET", "/api/destinations?search=pots", nil).list[0]
	assert.Equal(t, "Töpfe; alle", pots["details"].(map[string]any)["title"])
	assert.Equal(t, []any{"spring", "shop"}, pots["details"].(map[string]any)["labels"])
	again := ilse.send("POST", "/api/link-files", []byte(strings.ReplaceAll(someLinks, "pots", "bowls")))
	assert.Equal(t, true, again.body["remembered"])
	assert.Equal(t, 2.0, again.body["mapping"].(map[string]any)["labels"])
	assert.Equal(t, false, rolf.send("POST", "/api/link-files", []byte(someLinks)).body["remembered"], "by this workspace")
	nothing := ilse.send("POST", "/api/link-files"+mapped+"&keep=true", []byte(someLinks))
	assert.Contains(t, nothing.detail(), "no link in this file that you do not have")

	undo := "/api/imports/" + done.body["import"].(string) + "/undo"
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", undo, nil).status)
	undone := ilse.send("POST", undo, nil)
	assert.Equal(t, []any{1.0, 0.0}, []any{undone.body["gone"], undone.body["stay"]})
	assert.Equal(t, 1, kept())
	assert.Equal(t, http.StatusNotFound, ilse.send("POST", undo, nil).status, "once")
}

func TestUndoingAnImportLeavesWhatIsInUse(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	done := ilse.send("POST", "/api/link-files?keep=true", []byte("kiln.example/a\nkiln.example/b\nkiln.example/c"))
	require.Equal(t, http.StatusOK, done.status, "%v", done.body)
	require.Equal(t, http.StatusOK, ilse.send("PUT", ilse.page()+"/draft", draft(1, button("abcd", "A", "kiln.example/a"))).status)
	list := ilse.send("GET", "/api/destinations", nil).list
	require.Len(t, list, 3)
	changed := list[2]
	details := changed["details"].(map[string]any)
	details["note"] = "mine"
	got := ilse.send("PUT", "/api/destinations/"+changed["id"].(string), fields{"revision": changed["revision"], "details": details})
	require.Equal(t, http.StatusOK, got.status, "%v", got.body)
	undone := ilse.send("POST", "/api/imports/"+done.body["import"].(string)+"/undo", nil)
	assert.Equal(t, []any{1.0, 2.0}, []any{undone.body["gone"], undone.body["stay"]})
}

func TestWhatIsWrittenIsReadAgainAsTheSameLinks(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	var file strings.Builder
	file.WriteString("title,address,note,labels\n")
	for n := range 40 {
		fmt.Fprintf(&file, "\"=Pot %d, \"\"blue\"\"\",https://kiln.example/%d?a=1&b=2,\"line one\nline two\",shop; n%d\n", n, n, n%3)
	}
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/link-files?keep=true", []byte(file.String())).status)
	written := func(of *browser, path string) []byte {
		got := of.send("GET", path, nil)
		require.Equal(t, http.StatusOK, got.status)
		assert.Contains(t, got.header.Get("Content-Disposition"), "attachment")
		return got.raw
	}
	table := written(ilse, "/api/destinations.csv")
	assert.Contains(t, string(table), `'=Pot`, "no spreadsheet runs it")
	done := rolf.send("POST", "/api/link-files?keep=true", table)
	require.Equal(t, http.StatusOK, done.status, "%v", done.body)
	assert.Equal(t, string(table), string(written(rolf, "/api/destinations.csv")))

	bookmarks := written(ilse, "/api/bookmarks.html")
	carla := b.browser()
	carla.signUp("carla-glass")
	read := carla.send("POST", "/api/link-files?keep=true", bookmarks)
	require.Equal(t, http.StatusOK, read.status, "%v", read.body)
	assert.Equal(t, true, read.body["bookmarks"])
	assert.Equal(t, 40.0, read.body["new"])
	one := carla.send("GET", "/api/destinations", nil).list[0]["details"].(map[string]any)
	assert.Equal(t, `=Pot 0, "blue"`, one["title"])
	assert.Equal(t, "https://kiln.example/0?a=1&b=2", one["address"])
	assert.Equal(t, []any{"shop"}, one["labels"])
}

func TestAFileThatCannotBeReadChangesNothingAndSaysWhere(t *testing.T) {
	quotas := store.DefaultQuotas
	quotas.Destinations = 5
	b := openWith(t, store.Options{Quotas: quotas})
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	for what, c := range map[string]struct{ file, query, says string }{
		"a quotation mark left open": {"a,b\nc,\"d", "", "Line 2, column 3: the quotation mark that opens here is not closed"},
		"a picture":                  {"\x89PNG\r\n\x1a\n\x00\x00", "", "no text"},
		"too many rows":              {strings.Repeat("kiln.example/a,b\n", 5_002), "", "at most 5000 rows"},
		"no address in it":           {"words\nand more words", "?keep=true", "no link in this file"},
		"a column that is not there": {"a,kiln.example/a", "?keep=true&address=7", "no link in this file"},
		"more than there is room for": {
			"kiln.example/1\nkiln.example/2\nkiln.example/3\nkiln.example/4\nkiln.example/5\nkiln.example/6", "?keep=true", "5 different addresses",
		},
	} {
		refused := ilse.send("POST", "/api/link-files"+c.query, []byte(c.file))
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, what)
		assert.Contains(t, refused.detail(), c.says, what)
	}
	assert.Empty(t, ilse.send("GET", "/api/destinations", nil).list)
}
