package render_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page/pagetest"
	"jundle/internal/render"
)

func TestAPlainFileNamesWhatLiesBesideItAndNoHostOfOurs(t *testing.T) {
	doc := pagetest.Without(pagetest.Everything(), "place", "dates", "countdown", "code", "player")
	doc.Header.Line = `Look at /media/x.jpg and url(/fonts/y) <b>`
	visit := render.Visit{Origin: "https://pages.example", Address: "quarrow-clay", Edition: 3}
	leads := func(key, item string) string { return "https://kiln.example/" + key + "/media/" + item }
	plain, needs, err := render.PlainFile(doc, visit, leads, false)
	require.NoError(t, err)
	drawn, _, err := render.Page(doc, visit)
	require.NoError(t, err)
	text := string(plain)
	assert.Contains(t, text, "Look at /media/x.jpg and url(/fonts/y) &lt;b&gt;", "words stay what they are")
	assert.Contains(t, text, `href="https://kiln.example/button/media/"`)
	for _, not := range []string{"pages.example", `"/media`, `"/fonts`, "(/fonts/a", " ping=", "<script", "canonical"} {
		assert.NotContains(t, text, not)
	}
	assert.Equal(t, strings.Count(string(drawn), "<a "), strings.Count(text, "<a "))
	assert.Equal(t, strings.Count(string(drawn), "viewBox"), strings.Count(text, "viewBox"), "drawings stay as they are")
	assert.Contains(t, needs, "/media/"+strings.Repeat("a", 64)+".jpg")
	assert.Contains(t, needs, "/media/"+strings.Repeat("a", 63)+"0.jpg", "each size of a picture")
	assert.True(t, slices.ContainsFunc(needs, func(name string) bool { return strings.HasPrefix(name, "/fonts/") }))
	assert.False(t, slices.ContainsFunc(needs, func(name string) bool { return strings.HasSuffix(name, "x.jpg") }))
}
