package render

import (
	"crypto/sha256"
	"encoding/base64"
	"html"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
)

// The bound is of the page's own: under 600 bytes.
func TestTheScriptThatMeasuresHowFarVisitsGetIsSmall(t *testing.T) {
	assert.Less(t, len(scrolling.text), 600)
}

func TestOnlyAPageThatMeasuresItCarriesTheScript(t *testing.T) {
	doc := page.New()
	doc.Blocks = []page.Block{
		{Key: "words1", Kind: "text", Shown: true, Text: &page.Text{HTML: "<p>Hello</p>"}},
		{Key: "shop01", Kind: "button", Shown: true, Button: &page.Button{Title: "Shop", Address: "https://kiln.example/"}},
	}
	doc.Scrolls = true
	doc, err := page.Tidy(doc)
	require.NoError(t, err)
	visit := Visit{Address: "clay", Edition: 3, Tag: "card"}
	drawn, policy, err := Page(doc, visit)
	require.NoError(t, err)
	assert.Contains(t, string(drawn), `<ul class="blocks" data-tell="/clay/-/3/-/card">`)
	assert.Contains(t, string(drawn), `data-block="shop01"`)
	assert.NotContains(t, string(drawn), `data-block="words1"`, "what cannot be pressed has no figures")
	sum := sha256.Sum256([]byte(scrolling.text))
	assert.Contains(t, policy, "'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'")
	assert.Contains(t, policy, "connect-src 'self'")
	assert.Contains(t, html.UnescapeString(string(drawn)), scrolling.text)

	strip, err := Fragments(doc, visit.To.At)
	require.NoError(t, err)
	assert.NotContains(t, strip.Blocks["shop01"], "data-block", "nothing is measured in Arrange")
	doc.Scrolls = false
	drawn, policy, err = Page(doc, visit)
	require.NoError(t, err)
	assert.NotContains(t, string(drawn), "data-tell")
	assert.NotContains(t, policy, "script-src")
}
