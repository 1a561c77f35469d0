package studio_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/picture"
	"jundle/internal/pagefile"
	"jundle/internal/render"
	"jundle/internal/store"
)

// furnish gives a page a picture, a file, sources, rules and times, and publishes it.
func (b *browser) furnish() {
	b.t.Helper()
	at := b.page()
	made := func(got answer) map[string]any {
		b.t.Helper()
		require.Less(b.t, got.status, 300, "%v", got.body)
		return got.body
	}
	original := made(b.send("POST", "/api/pictures", pngFile(b.t, 600, 400)))["media"]
	cut := made(b.send("POST", "/api/pictures/cut", fields{
		"original": original, "use": "column",
		"cut": fields{"x": 0, "y": 0, "width": 400, "height": 300, "turn": 0, "flipX": false, "flipY": false},
	}))
	icon := made(
		b.send("POST", "/api/icons", []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="M2 2h20v20z"/></svg>`)),
	)
	recipe := made(b.send("POST", "/api/files", []byte("ash 40, feldspar 60")))["media"]
	card := made(b.send("POST", at+"/sources", fields{"name": "Printed card", "tag": "card"}))["id"]
	made(b.send("PATCH", at+"/sources/"+card.(string), fields{"tag": "card-2026"}))
	fair := made(b.send("POST", at+"/sources", fields{"name": "Old fair", "tag": "fair"}))["id"]
	made(b.send("PATCH", at+"/sources/"+fair.(string), fields{"retired": true}))
	sale := button("sale", "Seconds sale", "https://kiln.example/sale?utm_source=x#top")
	sale["button"].(fields)["picture"] = cut
	sale["to"] = fields{"rule": "but", "sources": []any{card, fair}}
	sale["when"] = fields{
		"zone":  "Europe/Lisbon",
		"spans": []any{fields{"from": "2026-06-01T09:00:00Z", "to": "2036-06-03T18:00:00Z"}},
	}
	text := fields{"key": "text", "kind": "text", "shown": true, "text": fields{
		"html": `<p>Ask at <a href="https://kiln.example/">the kiln</a>, or /media/x.</p>`, "align": "left",
	}}
	file := fields{
		"key":   "recipe",
		"kind":  "file",
		"shown": true,
		"file":  fields{"title": "Glaze recipe", "media": recipe, "name": "glaze.txt"},
	}
	saved := draft(1, sale, text, file)
	document := saved["document"].(fields)
	document["icons"].(map[string]any)["items"] = []any{fields{
		"key": "loft", "icon": fields{"set": "own", "name": icon["icon"].(map[string]any)["name"]},
		"name": "Photoloft", "address": "https://photoloft.example/clay",
	}}
	made(b.send("PUT", at+"/draft", saved))
	made(b.send("PUT", at+"/labels", fields{"labels": []string{"shop", "2026"}}))
	made(b.send("POST", at+"/publish", fields{"revision": 2}))
}

// drawnAt is a page as its visitors see it, at one edition and address for all.
func (b *browser) drawnAt(at time.Time, source string) string {
	b.t.Helper()
	me, err := b.store.MemberByEmail(b.t.Context(), b.send("GET", "/api/me", nil).body["email"].(string))
	require.NoError(b.t, err)
	live, err := b.store.LiveEdition(b.t.Context(), me.WorkspaceID, uuid.MustParse(b.pageID()))
	require.NoError(b.t, err)
	html, _, err := render.Page(live.Document, render.Visit{
		To: audience.Audience{At: at, Source: source}, Origin: "https://pages.example", Address: "quarrow-clay", Edition: 1,
	})
	require.NoError(b.t, err)
	return string(html)
}

func TestAPageIsTakenOutWipedAndTakenInTheSame(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.furnish()
	shown := time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)
	before, drawn := ilse.send("GET", ilse.page()+"/page.json", nil), ilse.drawnAt(shown, "")
	require.Equal(t, http.StatusOK, before.status, "%v", before.body)
	assert.Contains(t, before.header.Get("Content-Disposition"), "quarrow-clay.page.json")
	assert.NotContains(t, string(before.raw), "estinationId", "what is ours alone stays here")
	packed := ilse.send("GET", ilse.page()+"/page.zip", nil)
	require.Equal(t, http.StatusOK, packed.status, "%v", packed.body)

	me, err := b.store.MemberByEmail(t.Context(), "quarrow-clay@quarrow.example")
	require.NoError(t, err)
	require.NoError(t, b.store.EraseWorkspace(t.Context(), me.WorkspaceID, b.now))
	b.now = b.now.Add(91 * 24 * time.Hour)
	again := b.browser()
	again.signUp("elsewhere")
	alone := again.send("POST", "/api/page-files", before.raw)
	assert.Equal(t, http.StatusUnprocessableEntity, alone.status)
	assert.Contains(t, alone.detail(), "no longer here", "the pictures did not come along")
	made := again.send("POST", "/api/page-files", packed.raw)
	require.Equal(t, http.StatusCreated, made.status, "%v", made.body)
	assert.Equal(t, 0.0, made.body["liveEdition"])
	at := "/api/pages/" + made.body["id"].(string)
	after := again.send("GET", at+"/page.json", nil)
	assert.Equal(t, string(before.raw), string(after.raw))

	require.Equal(t, http.StatusOK, again.send("POST", at+"/publish", fields{"revision": 1}).status)
	require.Equal(t, http.StatusNoContent, again.send("DELETE", again.page(), nil).status)
	other := again.send("GET", at+"/sources", nil).list
	require.Len(t, other, 2)
	me, err = b.store.MemberByEmail(t.Context(), "elsewhere@quarrow.example")
	require.NoError(t, err)
	live, err := b.store.LiveEdition(t.Context(), me.WorkspaceID, uuid.MustParse(made.body["id"].(string)))
	require.NoError(t, err)
	html, _, err := render.Page(live.Document, render.Visit{
		To: audience.Audience{At: shown}, Origin: "https://pages.example", Address: "quarrow-clay", Edition: 1,
	})
	require.NoError(t, err)
	assert.Equal(t, drawn, string(html))

	taken := again.send("POST", "/api/page-files", packed.raw)
	assert.Contains(t, taken.detail(), "taken")
	second := again.send("POST", "/api/page-files?address=quarrow-two", packed.raw)
	assert.Equal(t, http.StatusCreated, second.status, "%v", second.body)
	rolf := b.browser()
	rolf.signUp("rolf-iron")
	for _, path := range []string{"/page.json", "/page.zip", "/plain-files.zip"} {
		assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+path, nil).status, path)
	}
}

func TestWhatIsTakenOutIsOfThePublishedShape(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.furnish()
	published, err := jsonschema.UnmarshalJSON(bytes.NewReader(b.browser().send("GET", "/api/page-schema", nil).raw))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	require.NoError(t, compiler.AddResource("schema.json", published))
	schema, err := compiler.Compile("schema.json")
	require.NoError(t, err)
	whole, err := pagefile.Of(store.Page{Address: "quarrow-clay", Draft: pagetest.Everything()}, nil).JSON()
	require.NoError(t, err)
	for _, text := range [][]byte{ilse.send("GET", ilse.page()+"/page.json", nil).raw, whole} {
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		require.NoError(t, err)
		require.NoError(t, schema.Validate(value))
		for _, broken := range []string{`"format": "1"`, `"unknown": 1, "format": 1`, ``} {
			value, err := jsonschema.UnmarshalJSON(strings.NewReader(strings.Replace(string(text), `"format": 1`, broken, 1)))
			if err == nil {
				assert.Error(t, schema.Validate(value), broken)
			}
		}
	}
}

// zipOf is a zip of those entries.
func zipOf(t *testing.T, entries map[string]string) []byte {
	t.Helper()
	var out bytes.Buffer
	packed := zip.NewWriter(&out)
	for name, text := range entries {
		entry, err := packed.Create(name)
		require.NoError(t, err)
		_, err = io.WriteString(entry, text)
		require.NoError(t, err)
	}
	require.NoError(t, packed.Close())
	return out.Bytes()
}

func TestASmallZipOfVeryManyPixelsIsRefusedBeforeAnythingIsUnpacked(t *testing.T) {
	alone(t)
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	doc := page.New()
	entries, large := map[string]string{}, string(pngFile(t, 2400, 2400))
	for i := range 60 {
		name := fmt.Sprintf("%064x.png", i)
		entries["media/"+name] = large
		if i%20 == 0 {
			doc.Blocks = append(doc.Blocks, page.Block{
				Key: fmt.Sprintf("pics%d", i), Kind: "pictures", Shown: true, Pictures: &page.Pictures{Columns: 2},
			})
		}
		shown := doc.Blocks[len(doc.Blocks)-1].Pictures
		shown.Items = append(shown.Items, page.PictureItem{
			Key: fmt.Sprintf("item%d", i), Alt: "A bowl", Picture: &picture.Picture{Media: name, Width: 2400, Height: 2400},
		})
	}
	text, err := pagefile.Of(store.Page{Address: "quarrow-two", Draft: doc}, nil).JSON()
	require.NoError(t, err)
	entries["page.json"] = string(text)
	packed := zipOf(t, entries)
	var refused answer
	took := measured(func() { refused = ilse.send("POST", "/api/page-files?address=quarrow-two", packed) })
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "more than 200 million pixels")
	took.within(t, fmt.Sprintf("a zip of 60 pictures in %d kB", len(packed)>>10), 2*time.Second, 100<<20, len(refused.raw))
}

func TestAFileThatIsNoPageChangesNothingAndSaysWhere(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	good := string(ilse.send("GET", ilse.page()+"/page.json", nil).raw)
	named := func(name string) string {
		var file map[string]any
		require.NoError(t, json.Unmarshal([]byte(good), &file))
		file["document"].(map[string]any)["header"].(map[string]any)["picture"] = fields{"media": name, "width": 40, "height": 30}
		text, err := json.Marshal(file)
		require.NoError(t, err)
		return string(text)
	}
	picture, film := strings.Repeat("a", 64)+".jpg", strings.Repeat("a", 64)+".mp4"
	blanks := strings.Repeat(" ", 16<<20)
	for what, c := range map[string]struct {
		file []byte
		says string
	}{
		"no JSON":           {[]byte("{\n  \"format\": 1,\n  “x”\n}"), "Line 3, column 3: invalid character"},
		"cut off":           {[]byte(good[:len(good)/2]), "unexpected end of JSON input"},
		"of another kind":   {[]byte("{\n\"format\": \"one\"}"), "Line 2, column"},
		"another JSON":      {[]byte(`{"a":1}`), "This is not a page file"},
		"of a later format": {[]byte(`{"format":9}`), "has format 9"},
		"of a later schema": {[]byte(strings.Replace(good, fmt.Sprintf(`"schema": %d`, page.Schema), `"schema": 99`, 1)), "schema 99"},
		"an empty file":     {[]byte(" "), "This is not a page file"},
		"a picture":         {pngFile(t, 4, 3), "This is not a page file"},
		"a zip of nothing":  {zipOf(t, nil), "This is not a page file"},
		"a zip of another":  {zipOf(t, map[string]string{"../page.json": good}), "This is not a page file"},
		"no zip":            {[]byte("PK\x03\x04 and nothing"), "This is not a page file"},
		"a bomb":            {zipOf(t, map[string]string{"page.json": strings.Repeat(" ", 5<<20)}), "larger than the 4 MB"},
		"no picture":        {zipOf(t, map[string]string{"page.json": named(picture), "media/" + picture: "GIF89a"}), "is not a picture"},
		"a large picture":   {zipOf(t, map[string]string{"page.json": named(picture), "media/" + picture: blanks}), "larger than"},
		"a film as picture": {zipOf(t, map[string]string{"page.json": named(film), "media/" + film: "x"}), "film"},
		"a name of a place": {zipOf(t, map[string]string{"page.json": named("../x.jpg"), "media/../x.jpg": "x"}), "This is not a page file"},
		"without its files": {[]byte(named(picture)), "no longer here"},
	} {
		b.now = b.now.Add(30 * time.Second) // they are not to be too many
		refused := ilse.send("POST", "/api/page-files?address=quarrow-two", c.file)
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, what)
		assert.Contains(t, refused.detail(), c.says, what)
	}
	assert.Len(t, ilse.send("GET", "/api/pages", nil).list, 1)
	var many []string
	for n := range 120 {
		many = append(many, fmt.Sprintf(`{"tag":"t%d","name":"T","kind":"print","medium":"","profiles":[],"names":[],"networks":[]}`, n))
	}
	refused := ilse.send("POST", "/api/page-files?address=quarrow-two",
		[]byte(strings.Replace(good, `"sources": []`, `"sources": [`+strings.Join(many, ",")+`]`, 1)))
	assert.Contains(t, refused.detail(), "at most 100 sources")
}

func TestPlainFilesLeadStraightOnOrThroughTheCount(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	refused := ilse.send("GET", ilse.page()+"/plain-files.zip?counted=true", nil)
	assert.Contains(t, refused.detail(), "once the page was published")
	ilse.furnish()
	b.now = time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)
	ilse.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"})
	unpacked := func(query string) map[string]string {
		got := ilse.send("GET", ilse.page()+"/plain-files.zip"+query, nil)
		require.Equal(t, http.StatusOK, got.status, "%v", got.body)
		archive, err := zip.NewReader(bytes.NewReader(got.raw), int64(len(got.raw)))
		require.NoError(t, err)
		found := make(map[string]string)
		for _, entry := range archive.File {
			from, err := entry.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(from)
			require.NoError(t, err)
			found[entry.Name] = string(text)
		}
		return found
	}
	straight := unpacked("")
	index := straight["index.html"]
	for _, want := range []string{
		`href="https://kiln.example/sale?utm_source=x#top"`, `href="https://photoloft.example/clay"`, `src="media/`, `or /media/x.`,
		`glaze.txt"`,
	} {
		assert.Contains(t, index, want)
	}
	for _, not := range []string{"pages.example", `"/media/`, "/-/", "ping=", "<script"} {
		assert.NotContains(t, index, not)
	}
	var named []string
	for name := range straight {
		named = append(named, name)
		if strings.HasPrefix(name, "files/") {
			assert.Equal(t, "ash 40, feldspar 60", straight[name])
		}
	}
	assert.Contains(t, straight["README.txt"], "Nothing is counted")
	assert.Greater(t, len(named), 6, "%v", named)

	counted := unpacked("?counted=true")
	assert.Contains(t, counted["index.html"], `href="https://pages.example/quarrow-clay/-/1/sale"`)
	assert.Contains(t, counted["README.txt"], "where presses are counted as before")
}

func TestZipsArePackedAFewTimesOnly(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	for range 10 {
		require.Equal(t, http.StatusOK, ilse.send("GET", ilse.page()+"/page.zip", nil).status)
	}
	held := ilse.send("GET", ilse.page()+"/page.zip", nil)
	assert.Equal(t, http.StatusTooManyRequests, held.status)
	assert.Contains(t, held.detail(), "Wait half a minute")
	assert.Equal(t, http.StatusTooManyRequests, ilse.send("POST", "/api/page-files", []byte("{}")).status)
	assert.Equal(t, http.StatusOK, ilse.send("GET", ilse.page()+"/page.json", nil).status, "what is cheap goes on")
	b.now = b.now.Add(30 * time.Second)
	assert.Equal(t, http.StatusOK, ilse.send("GET", ilse.page()+"/page.zip", nil).status)
}
