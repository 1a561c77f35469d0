// Package render draws a page. It is the one renderer: the public page and the
// strip in the studio are made of the same templates and the same style sheet.
//
// Everything a creator wrote goes through html/template, which escapes it for
// the place it stands in. There are no inline style attributes and no script.
package render

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"regexp"
	"strings"

	"jundle/internal/core/page"
)

//go:embed templates/*.gohtml page.css
var files embed.FS

var (
	templates = template.Must(template.New("").Funcs(template.FuncMap{"initial": initial}).ParseFS(files, "templates/*.gohtml"))
	style     = mustStyle()
)

// Style is the style sheet of pages. In the studio it is adopted by the shadow
// roots of the strip.
func Style() string { return style }

// ContentSecurityPolicy is the policy a page is served with: its own style
// sheet, pictures of its own host, and nothing else.
func ContentSecurityPolicy() string {
	sum := sha256.Sum256([]byte(style))
	return "default-src 'none'; style-src 'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) +
		"'; img-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
}

// Visit says for whom and where a page is drawn.
type Visit struct {
	// Origin is the public origin, such as https://kiln.example.
	Origin string
	// Address is the page's present address.
	Address string
	// Edition is the number of the edition drawn.
	Edition int
	// Tag is the tag of the entry address, empty when it had none.
	Tag string
}

// ClickPath is the path on the public listener that leads through to a block's
// destination.
func ClickPath(visit Visit, block string) string {
	path := fmt.Sprintf("/%s/-/%d/%s", visit.Address, visit.Edition, block)
	if visit.Tag != "" {
		path += "/" + visit.Tag
	}
	return path
}

// Page draws the whole public page.
func Page(doc page.Document, visit Visit) ([]byte, error) {
	data := pageData{
		Header: headerData{doc.Header}, Style: template.CSS(style), //nolint:gosec // our own style sheet
		Title: doc.Header.Name, Description: doc.Header.Line, Canonical: visit.Origin + "/" + visit.Address, Origin: visit.Origin,
	}
	if data.Title == "" {
		data.Title = visit.Address
	}
	for _, block := range doc.Visible() {
		data.Blocks = append(data.Blocks, blockData{Block: block.Block, Href: ClickPath(visit, block.Key), Lazy: block.Place > 6})
	}
	return execute("page", data)
}

// Message draws a page with a heading and a sentence, for an address that leads
// nowhere.
func Message(title, says string) ([]byte, error) {
	return execute("message", struct {
		Style       template.CSS
		Title, Says string
	}{template.CSS(style), title, says}) //nolint:gosec // our own style sheet
}

// Strip is a page in pieces, for Arrange: the header and one fragment a block,
// each to be put in a shadow root with Style.
type Strip struct {
	Header string            `json:"header" doc:"HTML of the page's header."`
	Blocks map[string]string `json:"blocks" doc:"HTML of each block by its key, hidden ones included."`
}

// Fragments draws the pieces of a page. Nothing in them leads anywhere: a press
// in Arrange selects the row.
func Fragments(doc page.Document) (Strip, error) {
	header, err := execute("header", headerData{doc.Header})
	if err != nil {
		return Strip{}, err
	}
	strip := Strip{Header: string(header), Blocks: make(map[string]string, len(doc.Blocks))}
	for _, block := range doc.Blocks {
		fragment, err := execute("block", blockData{Block: block})
		if err != nil {
			return Strip{}, err
		}
		strip.Blocks[block.Key] = string(fragment)
	}
	return strip, nil
}

type pageData struct {
	Header                                headerData
	Blocks                                []blockData
	Style                                 template.CSS
	Title, Description, Canonical, Origin string
}

type headerData struct{ page.Header }

type blockData struct {
	page.Block
	Href string
	Lazy bool
}

func execute(name string, data any) ([]byte, error) {
	var out bytes.Buffer
	if err := templates.ExecuteTemplate(&out, name, data); err != nil {
		return nil, fmt.Errorf("draw %s: %w", name, err)
	}
	return out.Bytes(), nil
}

// initial is what stands in for a missing picture.
func initial(name string) string {
	for _, r := range strings.TrimSpace(name) {
		return strings.ToUpper(string(r))
	}
	return ""
}

var blanks = regexp.MustCompile(`\s*\n\s*`)

// mustStyle reads the style sheet, with its line breaks taken out: a page
// travels in the first round trip or it does not.
func mustStyle() string {
	sheet, err := files.ReadFile("page.css")
	if err != nil {
		panic(err)
	}
	text := regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(string(sheet), "")
	return strings.TrimSpace(blanks.ReplaceAllString(text, ""))
}
