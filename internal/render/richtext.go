package render

import (
	"strconv"

	"jundle/internal/core/richtext"
)

// span is a stretch of a text with the way its link leads.
type span struct {
	richtext.Span
	// Item is the number of its link among all of the text's, which its clicks
	// are kept under; empty where it is no link.
	Item string
	Href any
}

// Spans gives every link of a text its number, counted from 1 as page.Text
// counts its targets.
func (v blockView) Spans(text richtext.Text) [][]span {
	var paragraphs [][]span
	link := 0
	for _, paragraph := range text {
		var spans []span
		for _, each := range paragraph {
			one := span{Span: each}
			if each.Address != "" {
				link++
				one.Item = strconv.Itoa(link)
				one.Href = v.Href(one.Item)
			}
			spans = append(spans, one)
		}
		paragraphs = append(paragraphs, spans)
	}
	return paragraphs
}
