package render_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/render"
)

func heading(key string, folds bool, first int) page.Block {
	return page.Block{Key: key, Kind: "heading", Shown: true, Heading: &page.Heading{Text: "About " + key, Folds: folds, First: first}}
}

func button(key string) page.Block {
	return page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: key, Address: "https://kiln.example/" + key}}
}

// outline is what of a page is folded, like "a About b(c d) +(e)".
func outline(t *testing.T, blocks ...page.Block) string {
	t.Helper()
	doc := page.New()
	doc.Blocks = blocks
	html, _, err := render.Page(doc, render.Visit{Address: "quarrow-clay", Edition: 1})
	require.NoError(t, err)
	_, body, _ := strings.Cut(string(html), `<ul class="blocks">`)
	var said []string
	for _, found := range regexp.MustCompile(`<details|</details>|Show \d+ more|"title">\w+<|About \w+<`).FindAllString(body, -1) {
		found = strings.TrimPrefix(strings.Trim(found, "<>"), `"title">`)
		said = append(said, strings.NewReplacer("/details", ")", "details", "(").Replace(found))
	}
	return strings.Join(said, " ")
}

func TestAHeadingFoldsWhatStandsUnderItUpToTheNext(t *testing.T) {
	for _, c := range []struct {
		want   string
		blocks []page.Block
	}{
		{"a About h b c", []page.Block{button("a"), heading("h", false, 0), button("b"), button("c")}},
		{"a ( About h b c ) About i d", []page.Block{
			button("a"), heading("h", true, 0), button("b"), button("c"), heading("i", false, 0), button("d"),
		}},
		{"About h a b ( Show 2 more c d ) About i e", []page.Block{
			heading("h", false, 2), button("a"), button("b"), button("c"), button("d"), heading("i", false, 2), button("e"),
		}},
		{"( About h a ( Show 1 more b ) )", []page.Block{heading("h", true, 1), button("a"), button("b")}},
		{"About h About i a", []page.Block{heading("h", true, 0), heading("i", false, 0), button("a")}},
	} {
		assert.Equal(t, c.want, outline(t, c.blocks...))
	}
}

func TestHeadingsCanBeJumpedToWhereThereAreMoreThanThree(t *testing.T) {
	drawn := func(jump bool, headings ...string) string {
		doc := page.New()
		doc.Jump = jump
		for _, key := range headings {
			doc.Blocks = append(doc.Blocks, heading(key, false, 0), button("to"+key))
		}
		html, _, err := render.Page(doc, render.Visit{Address: "quarrow-clay", Edition: 1})
		require.NoError(t, err)
		return string(html)
	}
	long := drawn(true, "dates", "pots", "films", "letters")
	assert.Contains(t, long, `<nav class="jumps" aria-label="On this page"><a href="#at-dates">About dates</a>`)
	assert.Contains(t, long, `<li id="at-letters">`)
	assert.NotContains(t, drawn(true, "dates", "pots", "films"), "On this page", "three need no list")
	assert.NotContains(t, drawn(false, "dates", "pots", "films", "letters"), "at-dates", "unless it is asked for")
}
