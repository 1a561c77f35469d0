package page

import (
	"strconv"
	"unicode/utf8"

	lru "github.com/hashicorp/golang-lru/v2"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
	"jundle/internal/core/richtext"
)

// Heading parts a long page.
type Heading struct {
	nothingElse
	Text  string `json:"text" spoken:"line" doc:"At most 120 characters."`
	Size  string `json:"size,omitempty" enum:"medium,large,small"`
	Align string `json:"align,omitempty" enum:"centre,left"`
	Folds bool   `json:"folds,omitempty" doc:"What stands under it, up to the next heading, is folded away until it is pressed."`
	Order string `json:"order,omitempty" enum:"newest,pull" doc:"What stands under it keeps an order by itself; as it was put when left out."`
	First int    `json:"first,omitempty" doc:"So many blocks under it are shown, the others behind a press; all of them for 0. At most 50."`
}

// maxFirst is how many blocks a heading shows at most before the others.
const maxFirst = 50

func (h *Heading) name() string { return h.Text }

func (h *Heading) tidy(problems *invalid.List, where string) {
	h.Text = problems.Line(where+"/text", "The heading", h.Text, MaxTitle)
	h.Size = invalid.Choice(problems, where+"/size", "size of a heading", h.Size, "medium", "large", "small")
	h.Align = invalid.Choice(problems, where+"/align", "alignment", h.Align, "centre", "left")
	if h.Order != "" {
		h.Order = invalid.Choice(problems, where+"/order", "order", h.Order, "newest", "pull")
	}
	problems.Range(where+"/first", "How many blocks are shown first", h.First, 0, maxFirst)
}

// Texts implements Content.
func (h *Heading) Texts(string) (headings, text string) { return h.Text, "" }

func (h *Heading) facts() []fact {
	folds, first := "", ""
	if h.Folds {
		folds = "until it is pressed"
	}
	if h.First > 0 {
		first = count(h.First, "block")
	}
	order := map[string]string{"newest": "newest first", "pull": "by pull"}[h.Order]
	return []fact{{"order", order}, {"size", h.Size}, {"alignment", h.Align}, {"folding", folds}, {"number shown first", first}}
}

// Text is a text with a little formatting. Its links are counted.
type Text struct {
	HTML  string `json:"html" spoken:"html" doc:"Paragraphs with strong, em, br and a, and nothing else. At most 3,000 characters of text."`
	Align string `json:"align,omitempty" enum:"left,centre"`
}

const maxText = 3000

func (t *Text) derivesName()  {}
func (q *Quote) derivesName() {}

// name is how the text begins.
func (t *Text) name() string {
	const length = 40
	plain := []rune(invalid.OneLine(t.Parsed().PlainText()))
	if len(plain) > length {
		return string(plain[:length-1]) + "…"
	}
	return string(plain)
}

// parsedTexts holds texts as they were understood a moment ago: one save or drawing of a page asks for each of its
// texts a dozen times. Longer ones are few on a page, and are not held.
var parsedTexts, _ = lru.New[string, richtext.Text](300)

// longestHeld is the longest text that is held, in bytes.
const longestHeld = 16 << 10

// Parsed is the text as it was understood; empty for one that could not be stored. It is shared, and not to be changed.
func (t *Text) Parsed() richtext.Text {
	if held, ok := parsedTexts.Get(t.HTML); ok {
		return held
	}
	parsed, _, _ := richtext.Parse(t.HTML)
	if len(t.HTML) <= longestHeld {
		parsedTexts.Add(t.HTML, parsed)
	}
	return parsed
}

func (t *Text) tidy(problems *invalid.List, where string) {
	t.HTML = richtext.Tidy(problems, where+"/html", "The text", t.HTML, maxText)
	t.Align = invalid.Choice(problems, where+"/align", "alignment", t.Align, "left", "centre")
}

// targets are the links in the text, told apart by their number.
func (t *Text) targets() []Target {
	var targets []Target
	for i, leads := range t.Parsed().Links() {
		targets = append(
			targets,
			Target{Item: strconv.Itoa(i + 1), Name: leads.Address, Address: leads.Address, DestinationID: leads.DestinationID},
		)
	}
	return targets
}

func (t *Text) links(visit func(link Link)) {
	var changed richtext.Text
	for i, paragraph := range t.Parsed() {
		for j, span := range paragraph {
			if span.Address == "" {
				continue
			}
			before := span
			if visit(Link{&span.Address, &span.DestinationID, span.Text}); span == before {
				continue
			}
			if changed == nil {
				changed = t.Parsed().Clone()
			}
			changed[i][j] = span
		}
	}
	if changed != nil {
		t.HTML = changed.HTML()
	}
}

func (t *Text) pictures(func(where string, p *picture.Picture)) {}
func (t *Text) files() map[string]string                        { return nil }

// Texts implements Content.
func (t *Text) Texts(string) (headings, text string) { return "", t.Parsed().PlainText() }

func (t *Text) facts() []fact { return []fact{{"wording", t.HTML}, {"alignment", t.Align}} }

// Divider is a line across.
type Divider struct {
	nothingElse
	Line string `json:"line,omitempty" enum:"plain,dotted,wave,short"`
}

func (d *Divider) name() string { return "divider" }

func (d *Divider) tidy(problems *invalid.List, where string) {
	d.Line = invalid.Choice(problems, where+"/line", "line", d.Line, "plain", "dotted", "wave", "short")
}

// Texts implements Content.
func (d *Divider) Texts(string) (headings, text string) { return "", "" }

func (d *Divider) facts() []fact { return []fact{{"line", d.Line}} }

// Space is empty room.
type Space struct {
	nothingElse
	Height int `json:"height" doc:"8 to 160 pixels."`
}

func (s *Space) name() string { return "space" }

func (s *Space) tidy(problems *invalid.List, where string) {
	problems.Range(where+"/height", "The height of a space", s.Height, 8, 160)
}

// Texts implements Content.
func (s *Space) Texts(string) (headings, text string) { return "", "" }

// Measures implements Measured.
func (s *Space) Measures() []Measure { return []Measure{{"height", pixels(s.Height)}} }

func pixels(n int) string { return strconv.Itoa(n) + "px" }

func (s *Space) facts() []fact { return []fact{{"height", strconv.Itoa(s.Height) + " pixels"}} }

// Quote is what somebody said.
type Quote struct {
	Said    string           `json:"words" spoken:"lines" doc:"At most 500 characters."`
	Who     string           `json:"who,omitempty" spoken:"line" doc:"At most 120 characters."`
	Picture *picture.Picture `json:"picture,omitempty"`
}

func (q *Quote) name() string {
	if utf8.RuneCountInString(q.Said) > 40 {
		return string([]rune(q.Said)[:39]) + "…"
	}
	return q.Said
}

func (q *Quote) tidy(problems *invalid.List, where string) {
	q.Said = problems.Lines(where+"/words", "The quote", q.Said, 500)
	q.Who = problems.Line(where+"/who", "Who said it", q.Who, MaxTitle)
	q.Picture.Tidy(problems, where+"/picture")
}

func (q *Quote) targets() []Target     { return nil }
func (q *Quote) links(func(link Link)) {}
func (q *Quote) pictures(visit func(where string, p *picture.Picture)) {
	visit("picture", q.Picture)
}
func (q *Quote) files() map[string]string { return nil }

// Texts implements Content.
func (q *Quote) Texts(string) (headings, text string) { return q.Said, q.Who }

func (q *Quote) facts() []fact {
	return []fact{{"words", q.Said}, {"speaker", q.Who}, {"picture", pictureValue(q.Picture)}}
}
