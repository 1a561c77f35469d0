package pagetest

import (
	"fmt"
	"strings"

	"jundle/internal/core/page"
)

// Costliest is a page that is as much work as the limits allow: texts with as much formatting and as many
// links as there can be, in as many languages. Save it as it is: every limit takes it.
func Costliest() page.Document {
	doc := page.New()
	doc.Header.Name = "Quarrow Clay"
	spans, links := page.MaxSpans, page.MaxLinks-10
	const blocks = page.MaxBlocks - 2
	for i := range blocks {
		var html strings.Builder
		html.WriteString("<p>")
		for range spans/blocks/2 - 4 {
			html.WriteString("<b>a</b>&lt;")
		}
		for j := range links / blocks {
			fmt.Fprintf(&html, `<a href="https://quarrow.example/%d/%d">b</a>`, i, j)
		}
		html.WriteString(strings.Repeat("Glazes of wood ash and river clay. ", 50))
		html.WriteString("</p>")
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: fmt.Sprintf("text%04d", i), Kind: "text", Shown: true, Text: &page.Text{HTML: html.String()},
		})
	}
	for _, language := range []string{"de", "fr", "pl", "it", "es", "nl", "pt", "tr"} {
		doc.Translations = append(doc.Translations, page.Translation{
			Language: language, Texts: map[string]string{"header/line": strings.Repeat("ä", 100)},
		})
	}
	return doc
}
