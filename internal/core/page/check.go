package page

import (
	"fmt"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"jundle/internal/core/address"
)

// Limits on a document. Texts are counted in characters.
const (
	MaxBlocks = 100
	MaxName   = 60
	MaxLine   = 160
	MaxTitle  = 120
)

// Problem is one thing that keeps a document from being saved.
type Problem struct {
	// Where is the place in the document, such as "blocks/2/button/address".
	Where string
	// Says is the message for the creator.
	Says string
}

// InvalidError lists everything wrong with a document at once, so that nobody
// mends one thing to be told of the next.
type InvalidError struct{ Problems []Problem }

func (e *InvalidError) Error() string {
	says := make([]string, len(e.Problems))
	for i, problem := range e.Problems {
		says[i] = problem.Says
	}
	return strings.Join(says, " ")
}

var (
	keyPattern   = regexp.MustCompile(`^[a-z0-9]{4,16}$`)
	mediaPattern = regexp.MustCompile(`^[0-9a-f]{64}\.(png|jpg)$`)
)

// Tidy returns the document as it is to be stored: texts trimmed and freed of
// control characters, addresses in their parsed form. When something cannot be
// stored it returns an *InvalidError that names every problem.
func Tidy(doc Document) (Document, error) {
	var problems problemList
	doc.Header.Name = problems.text("header/name", "The name", doc.Header.Name, MaxName)
	doc.Header.Line = problems.text("header/line", "The line about yourself", doc.Header.Line, MaxLine)
	problems.picture("header/picture", doc.Header.Picture)
	if len(doc.Blocks) > MaxBlocks {
		problems.add("blocks", "A page holds at most %d blocks; this one would have %d. Nothing was added.", MaxBlocks, len(doc.Blocks))
	}
	blocks := make([]Block, len(doc.Blocks))
	seen := make(map[string]bool, len(doc.Blocks))
	for i, block := range doc.Blocks {
		where := fmt.Sprintf("blocks/%d", i)
		if !keyPattern.MatchString(block.Key) || seen[block.Key] {
			problems.add(where+"/key", "Block %d has no key of its own.", i+1)
		}
		seen[block.Key] = true
		blocks[i] = problems.block(where, block)
	}
	doc.Blocks = blocks
	if len(problems) > 0 {
		return Document{}, &InvalidError{Problems: problems}
	}
	return doc, nil
}

type problemList []Problem

func (p *problemList) add(where, format string, args ...any) {
	*p = append(*p, Problem{Where: where, Says: fmt.Sprintf(format, args...)})
}

func (p *problemList) block(where string, block Block) Block {
	if block.Kind != KindButton || block.Button == nil {
		p.add(where+"/kind", "“%s” is no kind of block.", block.Kind)
		return block
	}
	button := *block.Button
	button.Title = p.text(where+"/button/title", "The title", button.Title, MaxTitle)
	link, err := address.ParseLink(button.Address)
	if err != nil {
		p.add(where+"/button/address", "%s", err.Error())
	}
	button.Address = link.URL
	p.picture(where+"/button/picture", button.Picture)
	block.Button = &button
	return block
}

func (p *problemList) text(where, what, text string, limit int) string {
	text = oneLine(text)
	if n := utf8.RuneCountInString(text); n > limit {
		p.add(where, "%s has at most %d characters; this one has %d.", what, limit, n)
	}
	return text
}

func (p *problemList) picture(where string, picture *Picture) {
	if picture == nil {
		return
	}
	if !mediaPattern.MatchString(picture.Media) || picture.Width < 1 || picture.Height < 1 || picture.Width > 8192 || picture.Height > 8192 {
		p.add(where, "This picture is not one that was uploaded here.")
	}
}

// oneLine trims a text and turns line breaks and other control characters into
// blanks.
func oneLine(text string) string {
	text = strings.ToValidUTF8(text, "")
	text = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || r == '\u2028' || r == '\u2029' {
			return ' '
		}
		return r
	}, text)
	return strings.TrimSpace(text)
}
