package render_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/render"
)

// alternates are the addresses of a page in its languages, as it names them.
func alternates(t *testing.T, text string) map[string]string {
	t.Helper()
	root, err := html.Parse(strings.NewReader(text))
	require.NoError(t, err)
	found := make(map[string]string)
	for node := range root.Descendants() {
		said := make(map[string]string)
		for _, each := range node.Attr {
			said[each.Key] = each.Val
		}
		if node.Data == "link" && said["rel"] == "alternate" {
			found[said["hreflang"]] = said["href"]
		}
	}
	return found
}

// Each version names itself and all others, so that every link has its way back (HTML, link
// type alternate; that search engines want it reciprocal is common practice).
func TestEachLanguageOfAPageNamesAllOthers(t *testing.T) {
	doc := pagetest.Everything()
	doc.Translations = []page.Translation{
		{Language: "de", Texts: map[string]string{"header/line": "Im Holzfeuer gebrannt"}},
		{Language: "he", Texts: map[string]string{}},
		{Language: "pt-BR", Texts: map[string]string{}},
	}
	want := map[string]string{
		"en": "https://pages.example/quarrow-clay", "x-default": "https://pages.example/quarrow-clay",
		"de": "https://pages.example/quarrow-clay?lang=de", "he": "https://pages.example/quarrow-clay?lang=he",
		"pt-BR": "https://pages.example/quarrow-clay?lang=pt-BR",
	}
	for _, language := range []string{"", "de", "he"} {
		asked := visit
		asked.Language = language
		drawn, _, err := render.Page(doc, asked)
		require.NoError(t, err)
		text := string(drawn)
		assert.Equal(t, want, alternates(t, text), language)
		shown := language
		if shown == "" {
			shown = "en"
		}
		assert.Contains(t, text, `<link rel="canonical" href="`+want[shown]+`">`)
		assert.Contains(t, text, `<html lang="`+shown+`"`)
		assert.Contains(t, text, `<a href="/quarrow-clay/card?lang=de" hreflang="de" lang="de"`, "the tag goes along")
		assert.Equal(t, 1, strings.Count(text, `aria-current="true"`))
	}
	asked := visit
	asked.Language = "de"
	drawn, _, err := render.Page(doc, asked)
	require.NoError(t, err)
	assert.Contains(t, string(drawn), "Im Holzfeuer gebrannt")
	assert.Contains(t, string(drawn), ">עברית</a>")
	assert.Contains(t, string(drawn), ">Português", "as it begins a line of its own")
	assert.Empty(t, alternates(t, draw(t, pagetest.Everything())), "a page in one language names none")
}
