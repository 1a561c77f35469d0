package render

import (
	"html"
	"html/template"
	"strconv"
	"strings"

	"jundle/internal/core/richtext"
)

// HTML writes a text with the way each link leads. It is written here and not by a template: a template takes
// some ten microseconds for each span, and a page may have thousands.
//
// A link's number among all of the text's, counted from 1 as page.Text counts its targets, is what its clicks are
// kept under.
func (v blockView) HTML(text richtext.Text) template.HTML {
	var out strings.Builder
	link := 0
	for _, paragraph := range text {
		out.WriteString("<p>")
		for _, span := range paragraph {
			if span.Address == "" {
				writeSpan(&out, span)
				continue
			}
			link++
			out.WriteString("<a")
			if href := v.painter.link(v.Key, strconv.Itoa(link)); href != "" {
				out.WriteString(` href="` + html.EscapeString(safeAddress(href)) + `"`)
			}
			out.WriteString(">")
			writeSpan(&out, span)
			out.WriteString("</a>")
		}
		out.WriteString("</p>")
	}
	return template.HTML(out.String()) //nolint:gosec // every text in it is escaped
}

func writeSpan(out *strings.Builder, span richtext.Span) {
	if span.Text == "\n" {
		out.WriteString("<br>")
		return
	}
	if span.Bold {
		out.WriteString("<strong>")
	}
	if span.Italic {
		out.WriteString("<em>")
	}
	out.WriteString(html.EscapeString(span.Text))
	if span.Italic {
		out.WriteString("</em>")
	}
	if span.Bold {
		out.WriteString("</strong>")
	}
}

// safeAddress is an address that a browser may be led to, and # for any other: addresses were parsed when they
// were saved, and this holds for those of any age.
func safeAddress(address string) string {
	for _, start := range []string{"/", "https://", "http://", "mailto:", "tel:", "sms:"} {
		if strings.HasPrefix(address, start) {
			return address
		}
	}
	return "#"
}
