// Package richtext reads the little formatting a text block may have: bold,
// italic and links, in paragraphs. Whatever else is in the HTML it is given, a
// script, a handler, a style, is not carried over: only what is understood is
// kept, and it is written out anew.
package richtext

import (
	"html"
	"strings"
	"unicode"

	xhtml "golang.org/x/net/html"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
)

// Text is a text in paragraphs.
type Text []Paragraph

// Paragraph is a run of spans.
type Paragraph []Span

// Span is a stretch of text in one format.
type Span struct {
	// Text may be "\n", a line break within the paragraph.
	Text         string
	Bold, Italic bool
	// Address is where the span leads; empty when it is no link.
	Address string
}

// maxDepth bounds how deep elements may be nested.
const maxDepth = 60

// Parse reads HTML. It never fails: what it does not know is left out, and
// links that may not be linked lose their address and are named in refused.
func Parse(text string) (parsed Text, refused []string) {
	root, err := xhtml.Parse(strings.NewReader(strings.ToValidUTF8(text, "")))
	if err != nil {
		return nil, nil
	}
	r := &reader{}
	r.walk(root, Span{}, 0)
	r.endParagraph()
	return r.text, r.refused
}

type reader struct {
	text    Text
	now     Paragraph
	refused []string
}

func (r *reader) walk(node *xhtml.Node, format Span, depth int) {
	if depth > maxDepth {
		return
	}
	if node.Type == xhtml.TextNode {
		r.add(node.Data, format)
		return
	}
	breaks := false
	if node.Type == xhtml.ElementNode {
		switch node.Data {
		case "script", "style", "head", "title", "template", "noscript", "iframe", "object", "textarea", "select", "svg", "math":
			return
		case "strong", "b":
			format.Bold = true
		case "em", "i":
			format.Italic = true
		case "a":
			format.Address = r.address(node)
		case "br":
			r.now = append(r.now, Span{Text: "\n"})
		case "p", "div", "li", "h1", "h2", "h3", "h4", "h5", "h6", "blockquote", "tr", "pre":
			breaks = true
		}
	}
	if breaks {
		r.endParagraph()
	}
	for child := node.FirstChild; child != nil; child = child.NextSibling {
		r.walk(child, format, depth+1)
	}
	if breaks {
		r.endParagraph()
	}
}

func (r *reader) address(link *xhtml.Node) string {
	for _, attribute := range link.Attr {
		if attribute.Key != "href" || attribute.Namespace != "" || strings.TrimSpace(attribute.Val) == "" {
			continue
		}
		parsed, err := address.ParseLink(attribute.Val)
		if err != nil {
			r.refused = append(r.refused, err.Error())
			return ""
		}
		return parsed.URL
	}
	return ""
}

func (r *reader) add(data string, format Span) {
	var text strings.Builder
	blank := false
	for _, c := range data {
		if unicode.IsSpace(c) && c != '\u00a0' || unicode.IsControl(c) || c == '\u2028' || c == '\u2029' {
			blank = true
			continue
		}
		if blank {
			text.WriteByte(' ')
			blank = false
		}
		text.WriteRune(c)
	}
	if blank {
		text.WriteByte(' ')
	}
	format.Text = text.String()
	if format.Text == "" {
		return
	}
	if n := len(r.now); n > 0 && r.now[n-1].Text != "\n" {
		last := &r.now[n-1]
		if strings.HasSuffix(last.Text, " ") {
			format.Text = strings.TrimLeft(format.Text, " ")
		}
		if last.Bold == format.Bold && last.Italic == format.Italic && last.Address == format.Address {
			last.Text += format.Text
			return
		}
	} else {
		format.Text = strings.TrimLeft(format.Text, " ")
	}
	if format.Text != "" {
		r.now = append(r.now, format)
	}
}

func (r *reader) endParagraph() {
	paragraph := r.now
	r.now = nil
	for len(paragraph) > 0 && paragraph[0].Text == "\n" {
		paragraph = paragraph[1:]
	}
	for len(paragraph) > 0 {
		last := &paragraph[len(paragraph)-1]
		if last.Text = strings.TrimRight(last.Text, " \n"); last.Text != "" {
			break
		}
		paragraph = paragraph[:len(paragraph)-1]
	}
	if len(paragraph) > 0 {
		r.text = append(r.text, paragraph)
	}
}

// HTML writes the text in the one form it is stored in.
func (t Text) HTML() string {
	var out strings.Builder
	for _, paragraph := range t {
		out.WriteString("<p>")
		for _, span := range paragraph {
			span.write(&out)
		}
		out.WriteString("</p>")
	}
	return out.String()
}

func (s Span) write(out *strings.Builder) {
	if s.Text == "\n" {
		out.WriteString("<br>")
		return
	}
	var closing string
	open := func(tag, attributes string) {
		out.WriteString("<" + tag + attributes + ">")
		closing = "</" + tag + ">" + closing
	}
	if s.Address != "" {
		open("a", ` href="`+html.EscapeString(s.Address)+`"`)
	}
	if s.Bold {
		open("strong", "")
	}
	if s.Italic {
		open("em", "")
	}
	out.WriteString(html.EscapeString(s.Text) + closing)
}

// Plain is the text without its formatting, paragraphs on lines of their own.
func (t Text) Plain() string {
	lines := make([]string, len(t))
	for i, paragraph := range t {
		for _, span := range paragraph {
			lines[i] += span.Text
		}
	}
	return strings.Join(lines, "\n")
}

// Addresses lists where the links of the text lead, in order.
func (t Text) Addresses() []string {
	var addresses []string
	for _, paragraph := range t {
		for _, span := range paragraph {
			if span.Address != "" {
				addresses = append(addresses, span.Address)
			}
		}
	}
	return addresses
}

// Tidy returns a text as it is stored, and notes links that may not be linked
// and a text longer than limit characters.
func Tidy(problems *invalid.List, where, what, text string, limit int) string {
	parsed, refused := Parse(text)
	for _, says := range refused {
		problems.Add(where, "A link in the text: %s", says)
	}
	problems.Lines(where, what, parsed.Plain(), limit)
	return parsed.HTML()
}
