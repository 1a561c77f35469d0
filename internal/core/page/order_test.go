package page_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
)

func headed(key, order string) page.Block {
	return page.Block{Key: key, Kind: "heading", Shown: true, Heading: &page.Heading{Text: key, Order: order}}
}

func orderOf(doc page.Document) string {
	var keys []string
	for _, block := range doc.Blocks {
		keys = append(keys, block.Key)
	}
	return strings.Join(keys, " ")
}

func TestWhatIsAddedLastComesFirstUnderAHeadingThatWantsIt(t *testing.T) {
	doc := document(
		button("aaaa", "A"),
		headed("films", "newest"),
		button("bbbb", "B"),
		button("cccc", "C"),
		headed("rest", ""),
		button("dddd", "D"),
	)
	doc.NewestFirst(noon)
	assert.Equal(t, "aaaa films bbbb cccc rest dddd", orderOf(doc), "what is there stays as it is")
	doc.Blocks = append(doc.Blocks[:4:4], append([]page.Block{button("eeee", "E")}, doc.Blocks[4:]...)...)
	doc.NewestFirst(noon.Add(time.Hour))
	assert.Equal(t, "aaaa films eeee bbbb cccc rest dddd", orderOf(doc))
	doc.NewestFirst(noon.Add(2 * time.Hour))
	assert.Equal(t, "aaaa films eeee bbbb cccc rest dddd", orderOf(doc))
	assert.Zero(t, doc.Blocks[0].Added)
}

func TestWhatPullsMostComesFirstUnderAHeadingThatWantsIt(t *testing.T) {
	doc := document(button("aaaa", "A"), headed("films", "pull"), button("bbbb", "B"), button("cccc", "C"), button("dddd", "D"))
	was := orderOf(doc)
	ordered := doc
	words := ordered.ByPull(map[string]float64{"aaaa": 9, "bbbb": 0.5, "cccc": 1.5})
	assert.Equal(t, "aaaa films dddd cccc bbbb", orderOf(ordered), "what is too new to say comes first")
	assert.Equal(t, []string{"What stands under “films” is in order by pull: “D” comes first."}, words)
	assert.Equal(t, was, orderOf(doc), "the page it was made from stays")
	assert.Empty(t, ordered.ByPull(map[string]float64{"bbbb": 0.5, "cccc": 1.5}))
	assert.True(t, doc.WantsPull())
	other := document(headed("films", "newest"), button("bbbb", "B"))
	assert.False(t, other.WantsPull())
}

func TestALongPageIsSearchedWhateverCaseAndAccents(t *testing.T) {
	doc := document(
		headed("pots", ""),
		button("aaaa", "Töpfe aus Ton"),
		button("bbbb", "Kiln dates"),
		button("cccc", "Dates of the kiln"),
	)
	find := func(text string) string {
		found := doc
		found.Blocks = nil
		for _, block := range doc.Matching(doc.Visible(audience.Audience{At: noon}), text) {
			found.Blocks = append(found.Blocks, block.Block)
		}
		return orderOf(found)
	}
	assert.Equal(t, "aaaa", find("TOPFE"))
	assert.Equal(t, "bbbb cccc", find(" kiln  dates "), "every word, in any order")
	assert.Equal(t, "", find("pots"), "a heading is none of them")
	assert.Equal(t, "", find("glaze"))
	doc.Search = true
	assert.False(t, doc.CanBeSearched(audience.Audience{At: noon}), "a short page needs none")
}
