package page_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
)

func button(key, title string) page.Block {
	return page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: title, Address: "https://kiln.example/" + key}}
}

func document(blocks ...page.Block) page.Document {
	doc := page.New()
	doc.Header.Name, doc.Header.Line, doc.Blocks = "Quarrow Clay", "Pots", blocks
	return doc
}

func words(changes []page.Change) []string {
	said := []string{}
	for _, change := range changes {
		said = append(said, change.Sentence)
	}
	return said
}

func TestHiddenBlocksTakeNoPlaceOnThePage(t *testing.T) {
	hidden := button("bbbb", "B")
	hidden.Shown = false
	visible := document(button("aaaa", "A"), hidden, button("cccc", "C")).SwitchedOn()
	require.Len(t, visible, 2)
	assert.Equal(t, "cccc", visible[1].Key)
	assert.Equal(t, 2, visible[1].Place)
}

func TestADocumentIsTidiedForStorage(t *testing.T) {
	block := button("aaaa", "  Kiln\nopening \x00")
	block.Button.Address = " kiln.example "
	doc := document(block)
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, "Kiln opening", tidy.Blocks[0].Button.Title)
	assert.Equal(t, "https://kiln.example/", tidy.Blocks[0].Button.Address)
	assert.Equal(t, " kiln.example ", doc.Blocks[0].Button.Address, "the document handed in is left alone")
}

func TestEverythingWrongWithADocumentIsSaidAtOnce(t *testing.T) {
	badAddress := button("aaaa", "A")
	badAddress.Button.Address = "javascript:alert(1)"
	badPicture := button("bbbb", "B")
	badPicture.Button.Picture = &picture.Picture{Media: "../../etc/passwd", Width: 1, Height: 1}
	doc := document(badAddress, button("aaaa", strings.Repeat("x", 121)), badPicture, page.Block{Key: "dddd", Kind: "script"})
	doc.Header.Name = strings.Repeat("n", 61)
	_, err := page.Tidy(doc)
	var refused *invalid.Error
	require.True(t, errors.As(err, &refused))
	var where []string
	for _, problem := range refused.Problems {
		where = append(where, problem.Where)
	}
	assert.Equal(t, []string{
		"header/name", "blocks/0/button/address", "blocks/1/key", "blocks/1/button/title", "blocks/2/button/picture",
		"blocks/3/kind",
	}, where)
	assert.Contains(t, err.Error(), "https, http, mailto, tel or sms")
}

func TestAPageHoldsAHundredBlocksAndNoMore(t *testing.T) {
	doc := document()
	for i := range 100 {
		doc.Blocks = append(doc.Blocks, button(fmt.Sprintf("key%d", i), "A"))
	}
	_, err := page.Tidy(doc)
	require.NoError(t, err)
	doc.Blocks = append(doc.Blocks, button("onemore", "A"))
	_, err = page.Tidy(doc)
	assert.ErrorContains(t, err, "at most 100 blocks")
}

func TestPublishingIsPutIntoWords(t *testing.T) {
	a, b, c, d := button("aaaa", "Dates"), button("bbbb", "Sale"), button("cccc", "Film"), button("dddd", "Tip")
	hidden := func(block page.Block) page.Block { block.Shown = false; return block }
	with := func(block page.Block, change func(*page.Button)) page.Block {
		copied := *block.Button
		change(&copied)
		block.Button = &copied
		return block
	}
	pictures := func(columns int) page.Block {
		return page.Block{Key: "pppp", Kind: "pictures", Shown: true, Pictures: &page.Pictures{Columns: columns}}
	}
	cases := []struct {
		name       string
		live, next page.Document
		want       []string
	}{
		{"nothing", document(a, b), document(a, b), []string{}},
		{"an added button", document(a), document(b, a), []string{"“Sale” is added at place 1."}},
		{"a deleted button", document(a, b), document(a), []string{"“Sale” is deleted; it was at place 2."}},
		{"a hidden button", document(a, b), document(hidden(a), b), []string{"“Dates” is hidden; it was at place 1."}},
		{"a button shown again", document(hidden(a), b), document(a, b), []string{"“Dates” is shown again at place 1."}},
		{"a hidden block that moves changes nothing", document(hidden(a), b), document(b, hidden(a)), []string{}},
		{"one move is one sentence", document(a, b, c, d), document(d, a, b, c), []string{"“Tip” moves from place 4 to place 1."}},
		{
			"a move that leaves its number", document(a, b, c), document(d, b, a),
			[]string{"“Tip” is added at place 1.", "“Sale” moves below “Tip”.", "“Film” is deleted; it was at place 3."},
		},
		{
			"settings of what has no name", document(pictures(3)), document(pictures(1)),
			[]string{"The columns of the pictures become “1”."},
		},
		{
			"a new title", document(a), document(with(a, func(b *page.Button) { b.Title = "Kiln days" })),
			[]string{"“Dates” is now called “Kiln days”."},
		},
		{
			"a new destination", document(a), document(with(a, func(b *page.Button) { b.Address = "https://new.example/" })),
			[]string{"“Dates” leads to https://new.example/ instead of https://kiln.example/aaaa."},
		},
		{
			"a picture",
			document(a),
			document(with(a, func(b *page.Button) { b.Picture = &picture.Picture{Media: strings.Repeat("0", 64) + ".png"} })),
			[]string{"The picture of “Dates” is new."},
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, words(page.Changes(&c.live, c.next)))
		})
	}
	assert.Equal(t, []string{"The page goes live for the first time, with 2 blocks."}, words(page.Changes(nil, document(a, b))))

	renamed := document(a)
	renamed.Header.Name, renamed.Header.Line, renamed.Header.Picture = "Ilse", "", &picture.Picture{Media: strings.Repeat("0", 64) + ".png"}
	base := document(a)
	assert.Equal(t, []string{"The name becomes “Ilse”.", "The line below the name is taken away.", "The picture at the top is new."},
		words(page.Changes(&base, renamed)))
}

func TestNoWordsAreSaidExactlyWhenVisitorsSeeNoDifference(t *testing.T) {
	draw := rapid.Custom(func(t *rapid.T) page.Document {
		keys := rapid.Permutation([]string{"aaaa", "bbbb", "cccc", "dddd"}).Draw(t, "order")
		var doc page.Document
		for _, key := range keys[:rapid.IntRange(0, 4).Draw(t, "how many")] {
			block := button(key, rapid.SampledFrom([]string{"A", "B"}).Draw(t, "title"))
			block.Shown = rapid.Bool().Draw(t, "shown")
			doc.Blocks = append(doc.Blocks, block)
		}
		return doc
	})
	rapid.Check(t, func(t *rapid.T) {
		live, next := draw.Draw(t, "live"), draw.Draw(t, "next")
		look := func(doc page.Document) string {
			seen := doc.Header.Name
			for _, block := range doc.SwitchedOn() {
				seen += fmt.Sprintf("|%s %s %s", block.Key, block.Title(), block.Button.Address)
			}
			return seen
		}
		changed := len(page.Changes(&live, next)) > 0
		if changed != (look(live) != look(next)) {
			t.Fatalf("%v\nfrom %s\nto   %s", page.Changes(&live, next), look(live), look(next))
		}
	})
}

func ExampleChanges() {
	live := document(button("aaaa", "Dates"), button("bbbb", "Sale"))
	next := document(button("bbbb", "Sale"), button("aaaa", "Dates"))
	for _, change := range page.Changes(&live, next) {
		fmt.Println(change.Sentence)
	}
	// Output: “Sale” moves from place 2 to place 1.
}

func TestChangesAreKeptInBrief(t *testing.T) {
	var changes []page.Change
	for range 33 {
		changes = append(changes, page.Change{Key: "dates", Sentence: strings.Repeat("é", 500)})
	}
	brief := page.Brief(changes)
	require.Len(t, brief, 31)
	assert.Equal(t, 240, utf8.RuneCountInString(brief[0].Sentence))
	assert.Equal(t, "And 3 more.", brief[30].Sentence)
	few := []page.Change{{Sentence: "The language becomes “de”."}}
	assert.Equal(t, few, page.Brief(few))
}
