package studio_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/media"
)

func pngFile(t *testing.T, width, height int) []byte {
	t.Helper()
	picture := image.NewNRGBA(image.Rect(0, 0, width, height))
	for i := range picture.Pix {
		picture.Pix[i] = 255
	}
	picture.Set(0, 0, color.Black)
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, picture))
	return out.Bytes()
}

// withDocument is a draft of a page that a change was made to.
func withDocument(revision int, change func(*page.Document)) fields {
	doc := page.New()
	change(&doc)
	return fields{"revision": revision, "document": doc}
}

func TestAPictureWaitsItsTurnHoweverLongThatTakes(t *testing.T) {
	if testing.Short() {
		t.Skip("it waits for six seconds")
	}
	b := open(t).browser()
	b.signUp("quarrow-clay")
	kept := b.send("POST", "/api/pictures", pngFile(t, 90, 60))
	require.Equal(t, http.StatusOK, kept.status, "%v", kept.body)
	for range media.DecodedAtOnce {
		turn, err := media.TakeTurn(t.Context())
		require.NoError(t, err)
		time.AfterFunc(6*time.Second, turn.Done)
	}
	cut := b.send("POST", "/api/pictures/cut", fields{"original": kept.body["media"], "use": "small"})
	assert.Equal(t, http.StatusOK, cut.status, "%s", cut.raw)
}

func TestAPictureIsUploadedOnceAndCutAsOftenAsLiked(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	kept := b.send("POST", "/api/pictures", pngFile(t, 900, 600))
	require.Equal(t, http.StatusOK, kept.status, "%v", kept.body)
	assert.EqualValues(t, 900, kept.body["width"])
	whole := b.send("POST", "/api/pictures/cut", fields{"original": kept.body["media"], "use": "column"})
	require.Equal(t, http.StatusOK, whole.status, "%v", whole.body)
	assert.EqualValues(t, 900, whole.body["width"])
	assert.Len(t, whole.body["sizes"], 4)
	part := b.send("POST", "/api/pictures/cut", fields{
		"original": kept.body["media"], "use": "small",
		"cut": fields{"x": 0, "y": 100, "width": 300, "height": 300, "turn": 90, "flipX": true, "flipY": false},
	})
	require.Equal(t, http.StatusOK, part.status, "%v", part.body)
	assert.EqualValues(t, 288, part.body["width"])
	assert.Equal(t, kept.body["media"], part.body["original"])
	outside := b.send("POST", "/api/pictures/cut", fields{
		"original": kept.body["media"], "use": "small", "cut": fields{
			"x": 800, "y": 0, "width": 300, "height": 300, "turn": 0, "flipX": false,
			"flipY": false,
		},
	})
	assert.Equal(t, http.StatusUnprocessableEntity, outside.status)
	assert.Contains(t, outside.detail(), "outside the picture")

	saved := b.send("PUT", b.page()+"/draft", fields{"revision": 1, "document": map[string]any{
		"header": fields{"name": "x", "line": "", "picture": part.body}, "blocks": []any{}, "language": "en",
		"icons": page.New().Icons, "footer": page.New().Footer, "look": page.New().Look,
	}})
	assert.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	stranger := b.browser()
	stranger.signUp("somebody-else")
	theirs := stranger.send("POST", "/api/pictures/cut", fields{"original": kept.body["media"], "use": "small"})
	assert.Equal(t, http.StatusNotFound, theirs.status, "nobody cuts what is not theirs")
}

func TestAnUploadThatCannotBeUsedSaysWhy(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	for _, c := range []struct {
		path   string
		upload []byte
		status int
		says   string
	}{
		{"/api/pictures", []byte("Dear Ilse"), 422, "not a picture"},
		{"/api/pictures", make([]byte, 9<<20), 413, "larger than 8 MB"},
		{"/api/icons", []byte("<svg></svg>"), 422, "not an SVG drawing"},
		{"/api/icons", []byte("Dear Ilse"), 422, "not a picture"},
		{"/api/films", []byte("<html>"), 422, "not a film"},
		{"/api/films", make([]byte, 7<<20), 413, "larger than 6 MB"},
		{"/api/files", make([]byte, 16<<20), 413, "larger than 15 MB"},
	} {
		got := b.send("POST", c.path, c.upload)
		assert.Equal(t, c.status, got.status, "%s %s", c.path, c.says)
		assert.Contains(t, got.detail(), c.says, c.path)
	}
	assert.Equal(t, http.StatusUnauthorized, b.browser().send("POST", "/api/pictures", pngFile(t, 2, 2)).status)
}

func TestUploadsAreLimitedAndComeBack(t *testing.T) {
	b := open(t)
	member := b.browser()
	member.signUp("quarrow-clay")
	upload := func() answer { return member.send("POST", "/api/icons", []byte("<svg></svg>")) }
	var last answer
	for range 151 {
		last = upload()
	}
	assert.Equal(t, http.StatusTooManyRequests, last.status)
	assert.Contains(t, last.detail(), "what was uploaded is kept")
	assert.Equal(t, "2", last.header.Get("Retry-After"))
	b.now = b.now.Add(2 * time.Second)
	assert.Equal(t, http.StatusUnprocessableEntity, upload().status)
}

func TestAnUploadedIconIsHarmlessOrRefused(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	drawing := b.send("POST", "/api/icons",
		[]byte(`<svg viewBox="0 0 24 24"><script>alert(1)</script><path d="M0 0h24v24z" onclick="x"/></svg>`))
	require.Equal(t, http.StatusOK, drawing.status, "%v", drawing.body)
	assert.Equal(t, []any{}, drawing.body["leftOut"])
	name := drawing.body["icon"].(map[string]any)["name"].(string)
	assert.True(t, strings.HasSuffix(name, ".svg"))
	kept := b.send("GET", "/media/"+name, nil)
	require.Equal(t, http.StatusOK, kept.status)
	assert.NotContains(t, string(kept.raw), "alert")
	square := b.send("POST", "/api/icons", pngFile(t, 300, 200))
	assert.Equal(t, "own", square.body["icon"].(map[string]any)["set"])
	lettered := b.send("POST", "/api/icons", []byte(`<svg><path d="M0 0"/><text>Quarrow</text></svg>`))
	assert.Equal(t, []any{"text"}, lettered.body["leftOut"], "whoever uploads it is told what is missing")
	saved := b.send("PUT", b.page()+"/draft", withDocument(1, func(doc *page.Document) {
		doc.Icons.Items = []page.IconLink{{Key: "aaaa", Icon: page.Icon{Set: "own", Name: name}, Name: "Mine", Address: "https://kiln.example/"}}
	}))
	assert.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	assert.Contains(t, saved.body["strip"].(map[string]any)["icons"], "/media/"+name)
}

func TestAFileOfSomebodyElseCannotBeShownOrHandedOut(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	file := b.send("POST", "/api/files", []byte("glaze"))
	require.Equal(t, http.StatusOK, file.status)
	handsOut := withDocument(1, func(doc *page.Document) {
		doc.Blocks = []page.Block{{Key: "aaaa", Kind: "file", Shown: true, File: &page.File{
			Title: "Glaze", Media: file.body["media"].(string),
			Name: "glaze.txt",
		}}}
	})
	stranger := b.browser()
	stranger.signUp("somebody-else")
	refused := stranger.send("PUT", stranger.page()+"/draft", handsOut)
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "no longer here")
	b.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"})
	assert.Equal(t, http.StatusOK, b.send("PUT", b.page()+"/draft", handsOut).status)
}

func TestThePageIsShownInEveryThemeAndInThoseOfTheWorkspace(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	mine := look.Default()
	mine.Text = "#123456"
	kept := b.send("POST", "/api/themes", fields{"name": " Mine ", "look": mine})
	require.Equal(t, http.StatusCreated, kept.status, "%v", kept.body)
	themes := b.send("GET", b.page()+"/themes", nil).list
	require.Len(t, themes, len(look.Themes())+1)
	assert.Equal(t, "Mine", themes[0]["name"])
	assert.Equal(t, true, themes[0]["own"])
	assert.Contains(t, themes[0]["strip"].(map[string]any)["style"], "--text:#123456")

	stranger := b.browser()
	stranger.signUp("somebody-else")
	assert.Len(t, stranger.send("GET", stranger.page()+"/themes", nil).list, len(look.Themes()))
	assert.Equal(t, http.StatusNotFound, stranger.send("DELETE", "/api/themes/"+kept.body["id"].(string), nil).status)
	b.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"})
	assert.Equal(t, http.StatusNoContent, b.send("DELETE", "/api/themes/"+kept.body["id"].(string), nil).status)

	mine.Text = "red}body{display:none"
	refused := b.send("POST", "/api/themes", fields{"name": "Bad", "look": mine})
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "not a colour code")
	nameless := b.send("POST", "/api/themes", fields{"name": " ", "look": look.Default()})
	assert.Contains(t, nameless.detail(), "needs a name")
}

func TestContrastIsSaidOfThePageAndOfBlocksWithLooksOfTheirOwn(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	saved := b.send("PUT", b.page()+"/draft", withDocument(1, func(doc *page.Document) {
		doc.Look.Text = "#f0f0f0"
		style := &look.Override{Buttons: doc.Look.Buttons}
		style.Buttons.Text = "#fefefe"
		doc.Blocks = []page.Block{{
			Key: "aaaa", Kind: "button", Shown: true, Style: style,
			Button: &page.Button{Title: "Dates", Address: "https://kiln.example/"},
		}}
	}))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	failing := map[string]any{}
	for _, figure := range saved.body["contrast"].([]any) {
		if figure := figure.(map[string]any); figure["passes"] == false {
			failing[figure["where"].(string)] = figure["better"]
		}
	}
	assert.Len(t, failing, 2)
	for _, where := range []string{"text", "blocks/aaaa/style/buttons/text"} {
		assert.Regexp(t, `^#[0-9a-f]{6}$`, failing[where], where)
	}
}

func TestStartersCarryTheNameOfWhoeverBegins(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	starters := b.send("GET", b.page()+"/starters", nil).list
	require.GreaterOrEqual(t, len(starters), 8)
	for _, starter := range starters {
		assert.Contains(t, starter["strip"].(map[string]any)["header"], "<h1>Quarrow Clay</h1>")
	}
	begun := b.send("PUT", b.page()+"/draft", fields{"revision": 1, "document": starters[0]["document"]})
	assert.Equal(t, http.StatusOK, begun.status, "what is shown can be begun from: %v", begun.body)
	pages := b.send("GET", "/api/pages", nil).list
	assert.Equal(t, false, pages[0]["empty"])
}

func TestAnAddressIsReadWithTheIconThatBelongsToIt(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	for address, want := range map[string][2]any{
		"photoloft.example/quarrow": {"https://photoloft.example/quarrow", "globe"},
		"mailto:ilse@kiln.example":  {"mailto:ilse@kiln.example", "mail"},
		"tel:+442079460018":         {"tel:+442079460018", "phone"},
	} {
		read := b.send("GET", "/api/addresses?address="+strings.ReplaceAll(address, "+", "%2B"), nil)
		assert.Equal(t, want[0], read.body["address"])
		assert.Equal(t, want[1], read.body["icon"].(map[string]any)["name"])
		assert.Equal(t, false, read.body["known"])
	}
	assert.Contains(t, b.send("GET", "/api/addresses?address=javascript:alert(1)", nil).detail(), "https, http, mailto, tel or sms")
	assert.NotEmpty(t, b.send("GET", "/api/icons?q=ticket", nil).list)
	assert.Equal(t, http.StatusOK, b.send("GET", "/api/looks", nil).status)
}
