package render_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/feed"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
)

func journal(shown string) page.Document {
	doc := pagetest.Only(pagetest.Everything(), "feed")
	of := doc.Blocks[0].Feed
	of.Shown = shown
	of.Items = []feed.Item{
		{Key: "aaaa", Title: `Ash <glaze>`, Address: "https://notes.quarrow.example/ash", Picture: pagetest.Picture("a")},
		{Key: "bbbb", Title: "Celadon", Address: "https://notes.quarrow.example/celadon"},
		{Key: "cccc", Title: "Tenmoku", Address: "https://notes.quarrow.example/tenmoku", Picture: pagetest.Picture("b")},
		{Key: "dddd", Title: "Shino", Address: "https://notes.quarrow.example/shino"},
		{Key: "eeee", Title: "Long ago", Address: "https://notes.quarrow.example/old", Gone: true},
	}
	return doc
}

func TestAFeedShowsItsNewestAsRowsAsCardsOrAsAGrid(t *testing.T) {
	rows := draw(t, journal("rows"))
	assert.Contains(t, rows, `href="/quarrow-clay/-/3/feed.aaaa/card"`)
	assert.Contains(t, rows, "Ash &lt;glaze&gt;")
	for _, not := range []string{"Shino", "Long ago"} {
		assert.NotContains(t, rows, not, "there are no more than three, and none that are gone")
	}
	assert.Equal(t, 2, strings.Count(rows, `class="lead"`))
	assert.Equal(t, 2, strings.Count(draw(t, journal("cards")), " card\""), "what has no picture stays a row")
	grid := draw(t, journal("grid"))
	assert.Equal(t, 2, strings.Count(grid, "<li><a href"), "a grid is of pictures")
	assert.Contains(t, grid, `alt="Tenmoku"`)
}

func TestAPageWithAPlayerAMapAFeedAndAFormFitsIntoTheFirstTenSegments(t *testing.T) {
	doc := pagetest.Only(pagetest.Everything(), "player", "place", "feed", "signup", "payment", "booking")
	doc.Blocks[slices.IndexFunc(doc.Blocks, func(block page.Block) bool { return block.Feed != nil })] = journal("cards").Blocks[0]
	drawn := draw(t, doc)
	assert.LessOrEqual(t, packed(t, drawn), 14_000, "RFC 6928: an initial window of ten segments")
	scripts := strings.Count(drawn, "<script>")
	assert.Equal(t, 1, scripts, "the player states one, and nothing else does")
}
