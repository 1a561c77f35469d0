package page

import (
	"strings"
	"unicode"

	"golang.org/x/text/runes"
	"golang.org/x/text/transform"
	"golang.org/x/text/unicode/norm"

	"jundle/internal/core/audience"
)

const (
	// fewBlocks is how many blocks need no search field.
	fewBlocks = 30
	// MaxFind is how many characters of what a visitor looks for are read.
	MaxFind = 60
)

// CanBeSearched tells whether an audience can search the page: it is wanted, there are
// more than thirty blocks, and no gate stands before them, whose mark a form would lose.
func (d Document) CanBeSearched(to audience.Audience) bool {
	return d.Search && d.Gate == nil && len(d.Visible(to)) > fewBlocks
}

// Matching returns those of blocks in which every word of a text stands, whatever its case
// and accents. Headings part the whole page and are none of them.
func (d Document) Matching(placed []Placed, text string) []Placed {
	words := strings.Fields(folded(text))
	found := []Placed{}
	for _, block := range placed {
		content := block.Content()
		if content == nil || block.Kind == "heading" {
			continue
		}
		headings, rest := content.Texts(d.Language)
		all := folded(block.Title() + "\n" + headings + "\n" + rest)
		holds := headings+rest != ""
		for _, word := range words {
			holds = holds && strings.Contains(all, word)
		}
		if holds {
			found = append(found, block)
		}
	}
	return found
}

// folded is a text in small letters without accents (Unicode, UAX #15: decomposed, and
// without its nonspacing marks).
func folded(text string) string {
	plain, _, err := transform.String(transform.Chain(norm.NFKD, runes.Remove(runes.In(unicode.Mn))), text)
	if err != nil {
		plain = text
	}
	return strings.ToLower(plain)
}
