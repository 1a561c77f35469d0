package render_test

import (
	"crypto/sha256"
	"encoding/base64"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/render"
)

func TestAPlainAddressStandsOnThePageAndItsClicksAreTold(t *testing.T) {
	doc := page.New()
	doc.Blocks = []page.Block{
		{Key: "partner1", Kind: "button", Shown: true, Button: &page.Button{
			Title: "Kiln parts", Address: "https://partner.example/?a=1&b=2",
			Plain: true, Sponsored: true,
		}},
		{Key: "mailmail", Kind: "button", Shown: true, Button: &page.Button{Title: "Write", Address: "mailto:ilse@quarrow.example", Plain: true}},
	}
	doc, err := page.Tidy(doc)
	require.NoError(t, err)
	html, policy, err := render.Page(doc, render.Visit{Origin: "https://pages.example", Address: "clay", Edition: 3, Tag: "card"})
	require.NoError(t, err)
	assert.Contains(t, string(html), `href="https://partner.example/?a=1&amp;b=2" ping="/clay/-/3/partner1/card" rel="sponsored"`)
	assert.Contains(t, string(html), `href="/clay/-/3/mailmail/card"`, "only an address of the web can be plain")

	script := regexp.MustCompile(`(?s)<script>(.*)</script>`).FindStringSubmatch(string(html))
	require.NotNil(t, script)
	sum := sha256.Sum256([]byte(script[1]))
	assert.Contains(t, policy, "script-src 'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'")
	assert.Contains(t, policy, "connect-src 'self'")

	strip, err := render.Fragments(doc, at)
	require.NoError(t, err)
	assert.NotContains(t, strip.Blocks["partner1"], "href", "nothing leads anywhere in Arrange")

	doc.Blocks[0].Shown = false
	html, policy, err = render.Page(doc, render.Visit{Address: "clay"})
	require.NoError(t, err)
	assert.False(t, strings.Contains(strings.ReplaceAll(string(html), data, ""), "<script") || strings.Contains(policy, "script-src"),
		"a page without one has no script")
}
