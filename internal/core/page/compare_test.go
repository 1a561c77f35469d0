package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/page"
)

func withBlocks(keys ...string) page.Document {
	doc := page.New()
	for _, key := range keys {
		doc.Blocks = append(doc.Blocks, timed(key, page.Showing{}))
	}
	return doc
}

func TestTwoPagesAreLinedUpRowByRow(t *testing.T) {
	before, after := withBlocks("dates", "film", "sale", "letter"), withBlocks("film", "dates", "sale", "shop")
	after.Blocks[2].Button.Title = "Seconds, half price"
	assert.Equal(t, []page.ComparedRow{
		{Key: "dates", First: true, Same: true, Moved: true},
		{Key: "film", First: true, Second: true, Same: true},
		{Key: "dates", Second: true, Same: true, Moved: true},
		{Key: "sale", First: true, Second: true},
		{Key: "letter", First: true},
		{Key: "shop", Second: true},
	}, page.Compare(before, after))
}

func TestEveryRowOfBothPagesIsLinedUpInItsOrder(t *testing.T) {
	keys := rapid.SliceOfDistinct(rapid.StringMatching(`[a-f]{4}`), func(s string) string { return s })
	rapid.Check(t, func(t *rapid.T) {
		first, second := keys.Draw(t, "first"), keys.Draw(t, "second")
		var inFirst, inSecond []string
		for _, row := range page.Compare(withBlocks(first...), withBlocks(second...)) {
			if row.First {
				inFirst = append(inFirst, row.Key)
			}
			if row.Second {
				inSecond = append(inSecond, row.Key)
			}
		}
		require.ElementsMatch(t, first, inFirst)
		require.Equal(t, append([]string{}, first...), append([]string{}, inFirst...))
		require.Equal(t, append([]string{}, second...), append([]string{}, inSecond...))
	})
}
