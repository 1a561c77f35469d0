// Package render draws a page. It is the one renderer: the public page, the
// strip in the studio and the miniatures of themes and starters are made of the
// same templates and the same style sheet.
//
// Everything a creator wrote goes through html/template, which escapes it for
// the place it stands in. There are no inline style attributes, and no script but
// small ones of ours on pages with what needs them (see policy.go). A kind of block is one
// template, templates/kind_….gohtml, and rules of its own in kinds/….css.
package render

import (
	"bytes"
	"cmp"
	"embed"
	"fmt"
	"html/template"
	"io/fs"
	"net/url"
	"regexp"
	"strings"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/colour"
	"jundle/internal/core/locale"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/fonts"
	"jundle/internal/icons"
)

//go:embed templates/*.gohtml page.css codes.css form.css kinds/*.css
var files embed.FS

var (
	templates = template.Must(template.New("").Funcs(functions).ParseFS(files, "templates/*.gohtml"))
	style     = mustStyle("page.css")
	// codesStyle are the rules of what is asked where tracking codes run.
	codesStyle = mustStyle("codes.css")
	// formStyle are the rules of forms that visitors send.
	formStyle = mustStyle("form.css")
	// kindStyles are the rules of kinds that have their own.
	kindStyles = mustKindStyles()
)

// Visit says for whom and where a page is drawn.
type Visit struct {
	To audience.Audience
	// Origin is the public origin, such as https://kiln.example.
	Origin string
	// Address is the page's present address.
	Address string
	// Front: it stands at the origin itself, too.
	Front bool
	// Edition is the number of the edition drawn.
	Edition int
	// Tag is the tag of the entry address, empty when it had none.
	Tag string
	// Find is what the visitor looks for; the page is drawn whole where it is empty.
	Find string
	// Language is the one of the page's languages that is drawn; its own where it is empty.
	Language string
	// Reads is the language that addresses carry on; empty for a page in one language. Page sets it.
	Reads string
	// Pays are the hosts that its forms may lead to for paying, as PayHosts has them.
	Pays []string
	// Codes: the page's tracking codes run.
	Codes bool
	// Reroute replaces the address of a player or a tracking code; nil to leave it. The demo
	// reaches made-up sites by it.
	Reroute func(address string) string
}

// canonical is the address that a page is best known by.
func (v Visit) canonical() string {
	if v.Front {
		return v.Origin + "/"
	}
	return v.Origin + "/" + v.Address
}

// entryPath is the path under which the page is opened.
func entryPath(visit Visit) string {
	if visit.Tag == "" {
		return "/" + visit.Address
	}
	return "/" + visit.Address + "/" + visit.Tag
}

// EntryAddress is the path that leads back to the page as the visitor opened it: with the tag of
// their source and the language they read.
func EntryAddress(visit Visit) string { return WithLanguage(entryPath(visit), visit.Reads) }

// WithLanguage adds the language that is read to an address without a query; none where it is empty.
func WithLanguage(path, language string) string {
	if language == "" {
		return path
	}
	return path + "?lang=" + url.QueryEscape(language)
}

// ScrollKey stands in the place of a block's key where it is told how far a visit got; no block has such a key.
const ScrollKey = "-"

// ClickPath is the path on the public listener that leads through to what can be
// pressed under a key, and under an item where there are several.
func ClickPath(visit Visit, key, item string) string {
	path := fmt.Sprintf("/%s/-/%d/%s", visit.Address, visit.Edition, key)
	if item != "" {
		path += "." + item
	}
	if visit.Tag != "" {
		path += "/" + visit.Tag
	}
	return WithLanguage(path, visit.Reads)
}

// carriedLanguage is the language that the addresses of a page carry, so that whoever reads one of
// several goes on reading it; empty where there is but one.
func carriedLanguage(doc page.Document, shown string) string {
	if len(doc.Languages()) < 2 {
		return ""
	}
	return cmp.Or(shown, doc.Language)
}

// Page draws the whole public page, and returns the policy to serve it with.
func Page(doc page.Document, visit Visit) (html []byte, policy string, err error) {
	visit.Reads = carriedLanguage(doc, visit.Language)
	leads := func(key, item string) string { return ClickPath(visit, key, item) }
	return drawPage(doc, visit, drawing{leads: leads, counting: true})
}

// WorkingCopy is Page with words at the top that say what it is, for a page that is not
// counted: what can be pressed leads where leads says.
func WorkingCopy(
	doc page.Document,
	visit Visit,
	words string,
	leads func(key, item string) string,
) (html []byte, policy string, err error) {
	return drawPage(doc, visit, drawing{preview: words, leads: leads})
}

// previewBar is how the words at the top of a preview look, whatever the page does.
const previewBar = ".preview-bar{position:sticky;top:0;z-index:9;margin:0;padding:8px 16px;" +
	"background:#fbe7cc;color:#1b1a17;font:600 14px/1.4 system-ui,sans-serif;text-align:center}"

// drawing says how a page is drawn.
type drawing struct {
	// preview are words at the top that say what it is; none for the page itself.
	preview string
	// leads is where what can be pressed leads.
	leads func(key, item string) string
	// counting: presses on plain addresses are counted by a script of ours.
	counting bool
	// elsewhere: it is served by a host that is not ours, and says nothing of where it is with us.
	elsewhere bool
}

func drawPage(doc page.Document, visit Visit, as drawing) (html []byte, policy string, err error) {
	doc = doc.LeadingAt(visit.To.At)
	own, offered := doc.Language, doc.Languages()
	doc = doc.In(visit.Language)
	words := CharactersOf(doc)
	sheet := Style(doc, words)
	if as.preview != "" {
		sheet += previewBar
	}
	codes := codesOf(doc, visit)
	if codes != nil {
		sheet += codesStyle
	}
	measures := as.counting && doc.Scrolls && visit.Find == ""
	p := painter{doc: doc, to: visit.To, look: doc.Look.Sound(), href: as.leads, find: visit.Find, visit: visit, measures: measures}
	data := pageData{
		Preview: as.preview,
		Pieces:  p.pieces(), Language: doc.Language, Align: doc.Header.Align, Style: template.CSS(sheet), //nolint:gosec // written by Style
		Title: doc.SharedTitle(), Description: doc.SharedDescription(), Canonical: canonicalOf(visit, own, doc.Language),
		Shared: pictureOf(doc, visit), Icon: iconOf(doc), Unlisted: doc.Sharing.Unlisted || as.preview != "",
		Header: doc.Header, ThemeColour: p.look.Ground.Colour, IconsBelow: doc.Icons.Place == "below",
	}
	if !data.Unlisted && !as.elsewhere {
		data.Profile = profileOf(doc, visit)
	}
	for _, file := range Fonts(doc, words) {
		data.Preload = append(data.Preload, file.Path)
	}
	if !as.elsewhere && len(offered) > 1 {
		data.Languages = languagesOf(visit, own, offered, doc.Language)
		for i := range data.Languages {
			if as.preview != "" {
				data.Languages[i].Path = "?lang=" + data.Languages[i].Tag // of the preview, not of the page
			}
		}
	}
	if data.Title == "" {
		data.Title = visit.Address
	}
	if p.err != nil {
		return nil, "", p.err
	}
	needed := needsOf(doc, doc.Visible(visit.To), visit, as.counting)
	if as.counting && doc.CanBeSearched(visit.To) {
		data.Search = &searchField{Action: entryPath(visit), Find: visit.Find, Found: p.foundWords(), Lang: visit.Reads}
		needed.forms = true
	}
	if measures {
		data.Scrolls = as.leads(ScrollKey, "")
		needed.scripts = append(needed.scripts, scrolling)
	}
	if data.Codes = codes; codes != nil {
		needed.letIn(doc, visit, codes)
	}
	data.Scripts = needed.texts()
	html, err = execute("page", data)
	return html, policyFor(sheet, needed), err
}

// Notice is a page with a heading and a sentence, for an address that leads
// nowhere, or to something this device may not be able to do.
type Notice struct {
	// Language is the BCP 47 tag of what it says; English where it is empty.
	Language    string
	Title, Text string
	// Value is something to be read out or copied, and may be empty; Link leads
	// to it all the same: a tel or sms address.
	Value, Link string
	// Report is where misuse is reported, and may be empty.
	Report string
	// Back leads to the page that the notice is about; empty for none.
	Back string
}

// Message draws a notice, and returns the policy to serve it with.
func Message(notice Notice) (html []byte, policy string, err error) {
	notice.Language = cmp.Or(notice.Language, "en")
	sheet := Style(page.New(), Characters{})
	html, err = execute("message", struct {
		Notice
		Style template.CSS
		Link  template.URL
	}{notice, template.CSS(sheet), template.URL(notice.Link)}) //nolint:gosec // our own style sheet, addresses that were parsed
	return html, ContentSecurityPolicy(sheet), err
}

// Strip is a page in pieces, for Arrange: each to be put in a shadow root with
// the style sheet.
type Strip struct {
	Style  string            `json:"style"  doc:"The page's style sheet."`
	Fonts  []fonts.Slice     `json:"fonts"  doc:"Fonts the style sheet names; a shadow root loads none by itself." nullable:"false"`
	Align  string            `json:"align"  doc:"Class of the page: centre or left."`
	Dir    string            `json:"dir"    doc:"How its language is written: ltr or rtl."`
	Ground string            `json:"ground" doc:"HTML of what lies behind the page."`
	Header string            `json:"header" doc:"HTML of the page's header."`
	Icons  string            `json:"icons"  doc:"HTML of the row of profile icons; empty when there are none."`
	Blocks map[string]string `json:"blocks" doc:"HTML of each block by its key, hidden ones included."`
	Footer string            `json:"footer" doc:"HTML of the page's end; empty when nothing stands there."`
}

// Fragments draws the pieces of a page as of a moment. Nothing in them leads anywhere: a
// press in Arrange selects the row.
func Fragments(doc page.Document, at time.Time) (Strip, error) {
	strip, err := WithoutBlocks(doc, CharactersOf(doc))
	if err != nil {
		return strip, err
	}
	p := painter{doc: doc, to: audience.Audience{At: at}, look: doc.Look.Sound(), strip: true}
	for _, block := range doc.Blocks {
		drawn := string(p.block(page.Placed{Block: block}))
		if halved(block) {
			drawn = `<div class="strip-half">` + drawn + `</div>`
		}
		strip.Blocks[block.Key] = drawn
	}
	return strip, p.err
}

// WithoutBlocks is Fragments without the blocks, for a page whose words are known.
func WithoutBlocks(doc page.Document, words Characters) (Strip, error) {
	p := painter{doc: doc, look: doc.Look.Sound(), strip: true}
	pieces := p.pieces()
	return Strip{
		Style: Style(doc, words), Fonts: Fonts(doc,
			words), Align: doc.Header.Align, Dir: locale.Direction(doc.Language), Ground: string(pieces.Ground),
		Header: string(pieces.Head), Icons: string(pieces.Icons),
		Footer: string(pieces.Footer),
		Blocks: make(map[string]string, len(doc.Blocks)),
	}, p.err
}

type pageData struct {
	Pieces     pieces
	Header     page.Header
	Style      template.CSS
	Scripts    []template.JS
	Preload    []string
	IconsBelow bool
	// Scrolls is where how far a visit got is told; empty where it is not measured.
	Scrolls                       string
	Language, Align, ThemeColour  string
	Title, Description, Canonical string
	Shared                        sharedPicture
	Icon                          string
	Unlisted                      bool
	Profile                       *profilePage
	Preview                       string
	Search                        *searchField
	Languages                     []offeredLanguage
	Codes                         *runCodes
}

// searchField is the field by which visitors find blocks on a long page; nil for none.
type searchField struct {
	// Action is the path that it asks for.
	Action string
	// Find is what was looked for; Found says in how many blocks it was found.
	Find, Found string
	// Lang is the language that is drawn; empty for a page in one language.
	Lang string
}

// pieces are the parts of a page, drawn.
type pieces struct {
	Ground, Head, Icons, Footer template.HTML
	Blocks                      []piece
	Jumps                       []jump
}

// painter draws the pieces of one page and keeps the first thing that goes
// wrong.
type painter struct {
	doc   page.Document
	to    audience.Audience
	look  look.Look
	find  string                        // what is looked for
	found int                           // in how many blocks it was found
	href  func(key, item string) string // nil in the strip
	strip bool
	visit Visit
	// measures: it is measured how far down visits get.
	measures bool
	err      error
}

func (p *painter) pieces() pieces {
	drawn := pieces{Ground: template.HTML(groundHTML(p.look))} //nolint:gosec // written by groundHTML
	drawn.Head = p.paint("header", p.doc.Header)
	if len(p.doc.Icons.Items) > 0 {
		drawn.Icons = p.paint("icons", iconsView{p.doc.Icons, p})
	}
	if p.doc.Footer.Text != "" || len(p.doc.Footer.Links) > 0 {
		drawn.Footer = p.paint("footer", footerView{p.doc.Footer, p})
	}
	if p.strip {
		return drawn
	}
	visible := p.doc.Visible(p.to)
	if p.find != "" {
		visible = p.doc.Matching(visible, p.find)
		p.found = len(visible)
	}
	drawn.Blocks = p.grouped(visible)
	drawn.Jumps = p.jumps(visible)
	return drawn
}

// foundWords say in how many blocks what is looked for was found.
func (p *painter) foundWords() string {
	if p.find == "" {
		return ""
	}
	speaks := locale.Of(p.doc.Language)
	return speaks.Say("found", "Found", speaks.Number(p.found), "Of", speaks.Number(len(p.doc.Visible(p.to))))
}

func (p *painter) block(block page.Placed) template.HTML {
	content := block.Content()
	if content == nil {
		return ""
	}
	own := ""
	if blockRules(block.Block) != "" {
		own = " " + ownClass(block.Key)
	}
	corners := p.look.Buttons.Corners
	if style := block.Style.Sound(); style != nil {
		corners = style.Buttons.Corners
	}
	return p.paint("kind_"+string(block.Kind), blockView{
		Placed: block, C: content, Own: own, Corners: string(corners),
		Language: p.doc.Language, painter: p,
	})
}

func (p *painter) paint(name string, data any) template.HTML {
	drawn, err := execute(name, data)
	if err != nil && p.err == nil {
		p.err = err
	}
	return template.HTML(drawn) //nolint:gosec // drawn by html/template
}

// link is where something leads; empty in the strip.
func (p *painter) link(key, item string) string {
	if p.href == nil {
		return ""
	}
	return p.href(key, item)
}

// halved tells whether a block takes half the width.
func halved(block page.Block) bool {
	content, ok := block.Content().(page.HalfWide)
	return ok && content.IsHalfWide()
}

// blockView is what the template of a kind is given.
type blockView struct {
	page.Placed
	// C is the content, for templates to name its fields shortly.
	C page.Content
	// Own is the class of a block with rules of its own, with a blank before it.
	Own      string
	Corners  string
	Language string
	painter  *painter
}

// Href is where the block leads, or one item of it.
func (v blockView) Href(item string) any { return device(v.painter.link(v.Key, item)) }

// device lets an address through that a device opens by itself, which the template would not:
// it knows no more schemes than http, https and mailto.
func device(href string) any {
	for _, scheme := range []string{"tel:", "sms:", "geo:"} {
		if strings.HasPrefix(href, scheme) {
			return template.URL(href) //nolint:gosec // no such address runs anything
		}
	}
	return href
}

// Reached is what a visitor who cannot press may read instead: the number or the mailbox. Where a passcode is asked for
// it is not to be read.
func (v blockView) Reached() string {
	if content, ok := v.C.(*page.Contact); ok && !v.AsksPasscode() {
		return content.Reached()
	}
	return ""
}

// Leads tells whether anything leads anywhere: not so in the strip, where scripts do nothing.
func (v blockView) Leads() bool { return !v.painter.strip }

// Plain is the address of a block that leads there without us in between; empty
// for all others.
func (v blockView) Plain() string {
	for _, target := range v.Targets() {
		if target.Plain {
			return target.Address
		}
	}
	return ""
}

// Lazy tells whether the block is far enough down to be fetched late.
func (v blockView) Lazy(after int) bool { return v.Place > after }

type iconsView struct {
	page.Icons
	painter *painter
}

// Language is that of the page.
func (v iconsView) Language() string { return v.painter.doc.Language }

func (v iconsView) Href(item string) string { return v.painter.link(page.IconsKey, item) }

// Branded tells whether an icon is drawn in its own colour.
func (v iconsView) Branded(icon page.Icon) bool {
	return v.Colour == "brand" && icon.Set == icons.Marks
}

// Chip is the class of the disc under a mark in its own colour, which may be
// any: white where the mark can be seen on it, and night where not.
func (v iconsView) Chip(icon page.Icon) string {
	found, ok := icons.Find(icon.Set, icon.Name)
	if !ok || !v.Branded(icon) {
		return ""
	}
	if c, err := colour.Parse(found.Colour); err == nil && colour.Contrast(c, colour.RGB{R: 255, G: 255, B: 255}) < colour.NeedEdge {
		return "chip night"
	}
	return "chip"
}

type footerView struct {
	page.Footer
	painter *painter
}

// Language is that of the page.
func (v footerView) Language() string { return v.painter.doc.Language }

func (v footerView) Href(item string) string { return v.painter.link(page.FooterKey, item) }

func execute(name string, data any) ([]byte, error) {
	var out bytes.Buffer
	if err := templates.ExecuteTemplate(&out, name, data); err != nil {
		return nil, fmt.Errorf("draw %s: %w", name, err)
	}
	return bytes.TrimSpace(out.Bytes()), nil
}

// functions are what templates may call.
var functions = template.FuncMap{
	"initial": initial, "picture": pictureHTML, "icon": iconHTML, "rel": rel, "portraitClass": portraitClass,
	"smallSize": func() string { return smallSize }, "columnSize": func() string { return columnSize },
	"coverSize": func() string { return coverSize }, "halfSize": func() string { return halfSize },
	"last":    func(i, of int) bool { return i == of-1 },
	"say":     func(language, id string) string { return locale.Of(language).Say(id) },
	"dir":     notFromTheLeft,
	"machine": func(at time.Time) string { return at.UTC().Format(time.RFC3339) },
}

// notFromTheLeft is the direction a language is written in, where browsers would not take it.
func notFromTheLeft(language string) string {
	if direction := locale.Direction(language); direction != "ltr" {
		return direction
	}
	return ""
}

// initial is what stands in for a missing picture.
func initial(name string) string {
	for _, r := range strings.TrimSpace(name) {
		return strings.ToUpper(string(r))
	}
	return ""
}

func portraitClass(header page.Header) string {
	class := "portrait " + header.Shape
	if header.Shadow {
		class += " shadow"
	}
	return class
}

// rel is the value of a button's rel attribute.
func rel(button *page.Button) string {
	var tokens []string
	for _, token := range []struct {
		on   bool
		name string
	}{{button.Nofollow, "nofollow"}, {button.Sponsored, "sponsored"}, {button.NewWindow, "noopener"}} {
		if token.on {
			tokens = append(tokens, token.name)
		}
	}
	return strings.Join(tokens, " ")
}

var blanks = regexp.MustCompile(`\s*\n\s*`)

// mustStyle reads the style sheet, with its comments and line breaks taken out:
// a page travels in the first round trip or it does not.
func mustStyle(name string) string {
	sheet, err := files.ReadFile(name)
	if err != nil {
		panic(err)
	}
	text := regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(string(sheet), "")
	text = strings.TrimSpace(blanks.ReplaceAllString(text, ""))
	return regexp.MustCompile(`\s*([{};,])\s*|(:)\s+`).ReplaceAllString(text, "$1$2")
}

func mustKindStyles() map[page.Kind]string {
	styles := make(map[page.Kind]string)
	for _, kind := range page.Kinds() {
		name := "kinds/" + string(kind) + ".css"
		if _, err := fs.Stat(files, name); err == nil {
			styles[kind] = mustStyle(name)
		}
	}
	return styles
}
