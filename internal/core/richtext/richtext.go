// Package richtext reads the little formatting a text block may have: bold,
// italic and links, in paragraphs. Whatever else is in the HTML it is given, a
// script, a handler, a style, is not carried over: only what is understood is
// kept, and it is written out anew.
package richtext

import (
	"fmt"
	"html"
	"slices"
	"strings"
	"unicode"

	xhtml "golang.org/x/net/html"

	"jundle/internal/core/address"
	"jundle/internal/core/destination"
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
	// DestinationID is the destination whose address it is; empty where none is known.
	DestinationID string
}

// Limits on the HTML of one text.
const (
	// MaxBytes is the longest, in bytes.
	MaxBytes = 64 << 10
	// maxTokens is how many tags and stretches of text it may have.
	maxTokens = 4000
	// maxDepth is how deep formats may be nested.
	maxDepth = 60
)

// TooMuchError is answered for a text with more in it than anybody writes.
type TooMuchError struct{ Bytes, Tokens int }

func (e *TooMuchError) Error() string {
	if e.Tokens > 0 {
		return "there is more formatting in this text than can be kept. Paste it without its formatting, and format it anew"
	}
	return fmt.Sprintf("this text with its formatting takes %d kB, and %d kB are the most. Paste it without its formatting, or in parts",
		e.Bytes>>10, MaxBytes>>10)
}

// Parse reads HTML, token by token, in time and memory that grow with its length
// and no faster. What it does not know is left out, and links that may not be
// linked lose their address and are named in refused. It answers a *TooMuchError
// for a text beyond its limits.
func Parse(text string) (parsed Text, refused []string, err error) {
	if len(text) > MaxBytes {
		return nil, nil, &TooMuchError{Bytes: len(text)}
	}
	tokens := xhtml.NewTokenizer(strings.NewReader(strings.ToValidUTF8(text, "")))
	r := &reader{}
	for count := 1; ; count++ {
		kind := tokens.Next()
		if kind == xhtml.ErrorToken {
			break // its end: a reader of a string has no other error
		}
		if count > maxTokens {
			return nil, nil, &TooMuchError{Bytes: len(text), Tokens: count}
		}
		r.token(kind, tokens)
	}
	r.endParagraph()
	return r.text, r.refused, nil
}

type reader struct {
	text    Text
	now     Paragraph
	refused []string
	// open are the elements that change the format and are not closed yet, with the
	// format before each.
	open []opened
	// format is that of text that comes next.
	format Span
	// skipping is the element whose content is left out, skipped how often it was
	// opened within itself.
	skipping string
	skipped  int
}

type opened struct {
	name   string
	before Span
}

// withoutContent are elements of which nothing is carried over.
var withoutContent = map[string]bool{
	"script": true, "style": true, "title": true, "template": true, "noscript": true, "iframe": true, "object": true, "textarea": true,
	"select": true, "svg": true, "math": true,
}

// paragraphs are elements that begin and end one.
var paragraphs = map[string]bool{
	"p": true, "div": true, "li": true, "h1": true, "h2": true, "h3": true, "h4": true, "h5": true, "h6": true, "blockquote": true,
	"tr": true, "pre": true,
}

func (r *reader) token(kind xhtml.TokenType, tokens *xhtml.Tokenizer) {
	if kind == xhtml.TextToken {
		if r.skipping == "" {
			r.add(string(tokens.Text()), r.format)
		}
		return
	}
	if kind != xhtml.StartTagToken && kind != xhtml.EndTagToken && kind != xhtml.SelfClosingTagToken {
		return
	}
	tag, more := tokens.TagName()
	name := string(tag)
	switch {
	case r.skipping != "":
		r.skip(name, kind)
	case withoutContent[name]:
		if kind == xhtml.StartTagToken {
			r.skipping, r.skipped = name, 1
		}
	case name == "br":
		r.now = append(r.now, Span{Text: "\n"})
	case paragraphs[name]:
		r.endParagraph()
	case kind == xhtml.EndTagToken:
		r.close(name)
	case kind == xhtml.StartTagToken:
		r.start(name, tokens, more)
	}
}

// skip goes past what is left out, up to where its element is closed.
func (r *reader) skip(name string, kind xhtml.TokenType) {
	if name != r.skipping {
		return
	}
	switch kind {
	case xhtml.StartTagToken:
		r.skipped++
	case xhtml.EndTagToken:
		if r.skipped--; r.skipped == 0 {
			r.skipping = ""
		}
	}
}

// start opens an element that changes the format.
func (r *reader) start(name string, tokens *xhtml.Tokenizer, more bool) {
	next := r.format
	switch name {
	case "strong", "b":
		next.Bold = true
	case "em", "i":
		next.Italic = true
	case "a":
		r.close("a") // a link in a link ends the outer one
		next = r.format
		next.Address, next.DestinationID = r.link(tokens, more)
	default:
		return
	}
	if len(r.open) < maxDepth {
		r.open = append(r.open, opened{name, r.format})
		r.format = next
	}
}

// close closes the latest element of that name; formats begun in it go on.
func (r *reader) close(name string) {
	for i := len(r.open) - 1; i >= 0; i-- {
		if r.open[i].name != name {
			continue
		}
		within := append([]opened(nil), r.open[i+1:]...)
		r.format, r.open = r.open[i].before, r.open[:i]
		for _, each := range within {
			r.open = append(r.open, opened{each.name, r.format})
			r.format = r.format.with(each.name)
		}
		return
	}
}

// with is a format with that of an element added. A link does not go on beyond
// what it stood in.
func (s Span) with(name string) Span {
	s.Bold = s.Bold || name == "strong" || name == "b"
	s.Italic = s.Italic || name == "em" || name == "i"
	return s
}

// link reads where a link leads, from its attributes.
func (r *reader) link(tokens *xhtml.Tokenizer, more bool) (leads, destinationID string) {
	for more {
		var key, value []byte
		key, value, more = tokens.TagAttr()
		text := string(value)
		switch {
		case string(key) == destinationAttribute && destination.IsID(text):
			destinationID = text
		case string(key) == "href" && leads == "" && strings.TrimSpace(text) != "":
			parsed, err := address.ParseLink(text)
			if err == nil {
				leads = parsed.URL
			} else if len(r.refused) < maxRefused {
				r.refused = append(r.refused, err.Error())
			}
		}
	}
	if leads == "" {
		return "", ""
	}
	return leads, destinationID
}

// destinationAttribute names the destination of a link beside its address.
const destinationAttribute = "data-destination"

// maxRefused is how many links that may not be linked are named.
const maxRefused = 20

func (r *reader) add(data string, format Span) {
	var text strings.Builder
	text.Grow(len(data))
	blank := false
	for _, c := range data {
		if c > ' ' && c < 0x7f { // most of what there is
			if blank {
				text.WriteByte(' ')
				blank = false
			}
			text.WriteByte(byte(c))
			continue
		}
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
		if last.Bold == format.Bold && last.Italic == format.Italic && last.Address == format.Address &&
			last.DestinationID == format.DestinationID {
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
		attributes := ` href="` + html.EscapeString(s.Address) + `"`
		if s.DestinationID != "" {
			attributes += ` ` + destinationAttribute + `="` + html.EscapeString(s.DestinationID) + `"`
		}
		open("a", attributes)
	}
	if s.Bold {
		open("strong", "")
	}
	if s.Italic {
		open("em", "")
	}
	out.WriteString(html.EscapeString(s.Text) + closing)
}

// PlainText is the text without its formatting, paragraphs on lines of their own.
func (t Text) PlainText() string {
	lines := make([]string, len(t))
	for i, paragraph := range t {
		var line strings.Builder
		for _, span := range paragraph {
			line.WriteString(span.Text)
		}
		lines[i] = line.String()
	}
	return strings.Join(lines, "\n")
}

// Clone copies the text to its last span.
func (t Text) Clone() Text {
	copied := make(Text, len(t))
	for i, paragraph := range t {
		copied[i] = slices.Clone(paragraph)
	}
	return copied
}

// Spans is how many spans the text has.
func (t Text) Spans() (n int) {
	for _, paragraph := range t {
		n += len(paragraph)
	}
	return n
}

// Links lists the spans of the text that lead somewhere, in order.
func (t Text) Links() []Span {
	var links []Span
	for _, paragraph := range t {
		for _, span := range paragraph {
			if span.Address != "" {
				links = append(links, span)
			}
		}
	}
	return links
}

// Tidy returns a text as it is stored, and notes links that may not be linked, a
// text longer than limit characters, and one beyond the limits of Parse.
func Tidy(problems *invalid.List, where, what, text string, limit int) string {
	parsed, refused, err := Parse(text)
	stored := parsed.HTML()
	if err == nil && stored != text {
		// Written anew it may be longer, and it is read again with every save.
		_, _, err = Parse(stored)
	}
	if err != nil {
		problems.Add(where, "%s%s.", strings.ToUpper(err.Error()[:1]), err.Error()[1:])
		return text
	}
	for _, says := range refused {
		problems.Add(where, "A link in the text: %s", says)
	}
	problems.Lines(where, what, parsed.PlainText(), limit)
	return stored
}
