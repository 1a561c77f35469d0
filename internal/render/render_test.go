package render_test

import (
	"bytes"
	"compress/gzip"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/fuzzing"
	"jundle/internal/render"
)

func document(titles ...string) page.Document {
	doc := page.New()
	doc.Header.Name, doc.Header.Line = "Quarrow Clay", "Wood-fired pots"
	for i, title := range titles {
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: fmt.Sprintf("key%d", i), Kind: "button", Shown: true,
			Button: &page.Button{Title: title, Address: "https://kiln.example/"},
		})
	}
	return doc
}

var visit = render.Visit{Origin: "https://pages.example", Address: "quarrow-clay", Edition: 3, Tag: "card"}

func draw(t *testing.T, doc page.Document) string {
	t.Helper()
	out, _, err := render.Page(doc, visit)
	require.NoError(t, err)
	return string(out)
}

func TestAButtonLeadsThroughUsWithPageEditionBlockAndTag(t *testing.T) {
	assert.Contains(t, draw(t, document("Dates")), `href="/quarrow-clay/-/3/key0/card"`)
	assert.Equal(t, "/quarrow-clay/-/3/key0", render.ClickPath(render.Visit{Address: "quarrow-clay", Edition: 3}, "key0", ""))
	assert.Equal(t, "/quarrow-clay/-/3/key0.bowl/card", render.ClickPath(visit, "key0", "bowl"))
}

func TestHiddenBlocksAreOnTheStripAndNotOnThePage(t *testing.T) {
	doc := document("Dates", "Secret")
	doc.Blocks[1].Shown = false
	assert.NotContains(t, draw(t, doc), "Secret")
	strip, err := render.Fragments(doc, at)
	require.NoError(t, err)
	assert.Contains(t, strip.Blocks["key1"], "Secret")
}

func TestThePageHoldsTheVeryFragmentsOfTheStrip(t *testing.T) {
	doc := document("Dates", "Sale")
	strip, err := render.Fragments(doc, at)
	require.NoError(t, err)
	out := draw(t, doc)
	assert.Contains(t, out, strip.Header)
	for key, fragment := range strip.Blocks {
		href := fmt.Sprintf(` href="/quarrow-clay/-/3/%s/card"`, key)
		assert.Contains(t, strings.ReplaceAll(out, href, ""), fragment)
	}
}

func TestWhatACreatorWritesStaysText(t *testing.T) {
	attack := `</style><script>alert(1)</script>"><img src=x onerror=alert(1)>`
	doc := document(attack)
	doc.Header.Name, doc.Header.Line = attack, attack
	root, err := html.Parse(strings.NewReader(draw(t, doc)))
	require.NoError(t, err)
	for node := range root.Descendants() {
		assert.False(t, isScript(node), node.FirstChild)
		if node.Type == html.ElementNode {
			assert.NotEqual(t, "img", node.Data)
			for _, attribute := range node.Attr {
				assert.False(t, strings.HasPrefix(attribute.Key, "on"), attribute.Key)
			}
		}
	}
}

// Source: RFC 6928, an initial window of ten segments; of some 1,460 bytes each
// this leaves 14,000 for the body.
func TestAPageOfTenButtonsTravelsInTheFirstTenSegments(t *testing.T) {
	var titles []string
	for i := range 10 {
		titles = append(titles, fmt.Sprintf("A title of an ordinary length for button number %d", i))
	}
	assert.LessOrEqual(t, packed(t, draw(t, document(titles...))), 14_000)
}

// packed is how many bytes a page has once it is compressed for sending.
func packed(t *testing.T, html string) int {
	t.Helper()
	var out bytes.Buffer
	writer := gzip.NewWriter(&out)
	_, err := writer.Write([]byte(html))
	require.NoError(t, err)
	require.NoError(t, writer.Close())
	return out.Len()
}

func TestNothingOnAPageNeedsAScriptOrAnotherHost(t *testing.T) {
	doc := pagetest.Without(pagetest.Everything(), "place", "dates", "countdown", "code", "player")
	out := draw(t, doc)
	assert.NotContains(t, strings.ReplaceAll(out, data, ""), "<script")
	assert.NotContains(t, out, "style=")
	_, policy, err := render.Page(doc, visit)
	require.NoError(t, err)
	assert.Contains(t, policy, "default-src 'none'")
	assert.NotContains(t, policy, "unsafe")
}

func FuzzPage(f *testing.F) {
	f.Add("Dates", "https://kiln.example/")
	f.Add("{{.}}</a><script>", "javascript:alert(1)")
	f.Fuzz(func(t *testing.T, title, address string) {
		fuzzing.Bounded(t, func() {
			doc := document(title)
			doc.Header.Name, doc.Header.Line, doc.Blocks[0].Button.Address = title, title, address
			out, _, err := render.Page(doc, visit)
			if err != nil {
				t.Fatal(err)
			}
			root, err := html.Parse(bytes.NewReader(out))
			if err != nil {
				t.Fatal(err)
			}
			buttons := 0
			for node := range root.Descendants() {
				if isScript(node) {
					t.Fatalf("%q made a script", title)
				}
				if node.Type == html.ElementNode && node.Data == "a" {
					buttons++
				}
			}
			if buttons != 1 {
				t.Fatalf("%q made %d links", title, buttons)
			}
		})
	})
}

// data is what begins a part of a page that programs read and no browser runs: a data block
// (HTML Living Standard, the script element).
const data = `<script type="application/ld+json">`

// isScript tells whether browsers run an element.
func isScript(node *html.Node) bool {
	return node.Type == html.ElementNode && node.Data == "script" &&
		!slices.Contains(node.Attr, html.Attribute{Key: "type", Val: "application/ld+json"})
}
