// Package page holds what a page is made of: its document (header, profile
// icons, ordered blocks, footer and look), the rules a document has to keep
// before it may be saved, and the words for what publishing it would change.
//
// It knows nothing of where documents are stored or how they are drawn. A kind
// of block is one file, kind_….go, and one field of Block.
package page

import (
	"fmt"
	"slices"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/contact"
	"jundle/internal/core/destination"
	"jundle/internal/core/look"
	"jundle/internal/core/picture"
	"jundle/internal/core/window"
)

// Document is everything a creator puts on a page, in order. The working copy
// and every edition have this shape.
type Document struct {
	Schema   int       `json:"schema" required:"false" doc:"Number of the shape; 0 or absent for a page from before there were numbers."`
	Language string    `json:"language" doc:"BCP 47 tag of the language the page is written in; prices are written as it writes them."`
	Header   Header    `json:"header"`
	Icons    Icons     `json:"icons"`
	Blocks   []Block   `json:"blocks" nullable:"false" doc:"In the order of the page, hidden ones included. At most 100."`
	Footer   Footer    `json:"footer"`
	Look     look.Look `json:"look"`
	Tagging  Tagging   `json:"tagging,omitzero"`
	// Translations are the other languages it is offered in.
	Translations []Translation `json:"translations,omitempty" doc:"Its texts in other languages; at most 8."`
	Sharing      Sharing       `json:"sharing,omitzero" required:"false" doc:"How it is shown by search engines and with posts."`
	// Codes are those of services that look on, such as site statistics.
	Codes []TrackingCode `json:"codes,omitempty" doc:"Tracking codes; at most 10. Whoever runs the service may let none run."`
	// When is nil for a page that shows always.
	When    *window.Times `json:"when,omitempty" doc:"The times in which the page as a whole shows; always when left out."`
	Jump    bool          `json:"jump,omitempty" doc:"Links to its headings stand at the top, where there are more than three."`
	Search  bool          `json:"search,omitempty" doc:"Visitors can search it, once it has more than thirty blocks."`
	Scrolls bool          `json:"scrolls,omitempty" doc:"How far down visits get is measured, by a script that reports it once."`
	Gate    *Gate         `json:"gate,omitempty" doc:"Stands before the page; absent where it opens to everybody."`
	// Takeovers stand in editions only: they are no work on the page.
	Takeovers []Takeover `json:"takeovers,omitempty" doc:"What takes its place for a while; in editions, and left out of what is saved."`
	// Trial, too, stands in editions only.
	Trial *Trial `json:"trial,omitempty" doc:"Variants that are tried at present; in editions, and left out of what is saved."`
	// Resting, too, stands in editions only; nil for a page that is awake.
	Resting *Resting `json:"resting,omitempty" doc:"Set while the page rests; in editions, and left out of what is saved."`
	// swapped are the destinations that lead somewhere else at some time, by their IDs.
	swapped map[string]destination.Lead
}

// New is a page with nothing on it.
func New() Document {
	return Document{
		Schema: Schema, Language: "en", Icons: Icons{
			Place: "above", Size: "medium", Colour: "page",
			Items: []IconLink{},
		}, Blocks: []Block{}, Footer: Footer{Links: []FooterLink{}},
		Header: Header{Shape: "circle", CoverHeight: "medium", Align: "centre"}, Look: look.Default(),
	}
}

// Block is one row of the page: what is the same for all kinds, and one field a
// kind, of which the one named by Kind is set.
type Block struct {
	Key   string `json:"key" doc:"What the block's figures are kept under; never changes. 4 to 16 of a-z and 0-9."`
	Kind  Kind   `json:"kind" doc:"The field below that is set."`
	Shown bool   `json:"shown" doc:"Hidden blocks stay in the working copy and are left out of editions' pages."`
	// Added is when it was put under a heading that has the newest first; zero elsewhere.
	Added time.Time      `json:"added,omitzero" required:"false" doc:"When it was put under a heading that keeps the newest first."`
	Style *look.Override `json:"style,omitempty" doc:"Its own looks; absent where it looks as the page does."`
	Showing
	Gate *Gate `json:"gate,omitempty" doc:"Stands before where it leads; absent where it leads there at once."`

	Button   *Button   `json:"button,omitempty"`
	Contact  *Contact  `json:"contact,omitempty"`
	Heading  *Heading  `json:"heading,omitempty"`
	Text     *Text     `json:"text,omitempty"`
	Divider  *Divider  `json:"divider,omitempty"`
	Space    *Space    `json:"space,omitempty"`
	Pictures *Pictures `json:"pictures,omitempty"`
	File     *File     `json:"file,omitempty"`
	Offer    *Offer    `json:"offer,omitempty"`
	Quote    *Quote    `json:"quote,omitempty"`

	Player    *Player    `json:"player,omitempty"`
	Feed      *Feed      `json:"feed,omitempty"`
	SignUp    *SignUp    `json:"signup,omitempty"`
	Place     *Venue     `json:"place,omitempty"`
	Dates     *Dates     `json:"dates,omitempty"`
	Countdown *Countdown `json:"countdown,omitempty"`
	Questions *Questions `json:"questions,omitempty"`
	Code      *Code      `json:"code,omitempty"`
	Payment   *Payment   `json:"payment,omitempty"`
	Booking   *Booking   `json:"booking,omitempty"`
}

// Kind names what a block is: the JSON name of its field in Block.
type Kind string

// Content returns what the block holds; nil when it is of no kind we know or
// holds nothing.
func (b Block) Content() Content {
	for _, each := range kinds {
		if each.kind == b.Kind {
			return each.content(&b)
		}
	}
	return nil
}

// Title is what a block is called in lists and messages.
func (b Block) Title() string {
	content := b.Content()
	if content == nil {
		return string(b.Kind)
	}
	if title := content.name(); title != "" {
		return title
	}
	return string(b.Kind)
}

// Target is one thing on a page that can be pressed.
type Target struct {
	// Item tells apart the several targets of one block; empty where there is
	// but one.
	Item string
	// Name is what the target is called.
	Name string
	// Address is where it leads: an address by the rules for links, or a path
	// below /media/ for a file of ours. Empty for a card.
	Address string
	// DestinationID is the destination whose address it is; empty for what leads to
	// none.
	DestinationID string
	// Card, Calendar, Venue, SignUp, Pay and Book are what is there instead, where one is set: a contact
	// card and dates to be handed out, somewhere to go to, forms that are sent here, and times to ask for.
	Card     *contact.Card
	Calendar *Dates
	Venue    *Venue
	SignUp   *SignUp
	Pay      *Payment
	Book     *Booking
	// Told: nothing leads here; that it was pressed is what a script of the page tells.
	Told bool
	// Frame is the address of a player that a script of the page loads in place, which then
	// tells of the press; empty for none.
	Frame string
	// Plain: the page carries the address itself, and a click is counted by what the
	// browser tells of it.
	Plain bool
	// Gate stands before it; nil for none.
	Gate *Gate
}

// Targets lists what can be pressed on the block.
func (b Block) Targets() []Target {
	content := b.Content()
	if content == nil {
		return nil
	}
	targets := content.targets()
	for i := range targets {
		targets[i].Gate = b.Gate
		if b.Gate != nil { // the address is not to be read
			targets[i].Plain, targets[i].Frame = false, ""
		}
	}
	return targets
}

// TargetsOf lists what can be pressed under a key: of a block, the icons or the footer.
func (d Document) TargetsOf(key string) []Target {
	switch key {
	case IconsKey:
		return d.Icons.targets()
	case FooterKey:
		return d.Footer.targets()
	}
	block, _ := d.Find(key)
	return block.Targets()
}

// Keys that stand for what is on a page beside its blocks.
const (
	IconsKey  = "icons"
	FooterKey = "footer"
)

// Targets are all things that can be pressed on a page, found by key and item.
type Targets map[string]map[string]PlacedTarget

// PlacedTarget is a target with its place among the visible blocks; icons, footer and
// what is not visible have place 0.
type PlacedTarget struct {
	Target
	Place int
	// Off: the audience is not shown it now, and was not a while ago (see LeadsOn).
	Off bool
}

// Targets finds out what an audience can press on the page, once, so that a press
// costs nothing but a look. What is switched on and not shown to them now is among it.
func (d Document) Targets(to audience.Audience) Targets {
	d = d.LeadingAt(to.At)
	all := make(Targets)
	add := func(key string, place int, off bool, targets []Target) {
		all[key] = make(map[string]PlacedTarget, len(targets))
		for _, target := range targets {
			if _, taken := all[key][target.Item]; !taken {
				all[key][target.Item] = PlacedTarget{target, place, off}
			}
		}
	}
	open, lately := d.IsOpen(to.At), d.Resting.lately(to.At) && lately(d.When, to.At)
	add(IconsKey, 0, !lately, d.Icons.targets())
	add(FooterKey, 0, !lately, d.Footer.targets())
	for _, block := range d.SwitchedOn() {
		add(block.Key, 0, !lately || !block.lately(to), block.Targets())
	}
	if !open {
		return all
	}
	for _, block := range d.Visible(to) {
		add(block.Key, block.Place, false, block.Targets())
	}
	return all
}

// DestinationIDs are the destinations that can be pressed.
func (t Targets) DestinationIDs() map[string]bool {
	ids := make(map[string]bool)
	for _, items := range t {
		for _, target := range items {
			if target.DestinationID != "" {
				ids[target.DestinationID] = true
			}
		}
	}
	return ids
}

// Find returns what can be pressed under a key, and under an item where there are
// several. Hidden blocks are not found.
func (t Targets) Find(key, item string) (PlacedTarget, bool) {
	placed, ok := t[key][item]
	return placed, ok
}

// Row is one thing whose figures are kept. Kind is that of the block, or "icons"
// or "footer"; Place counts from 1 among the visible blocks and is 0 off them.
type Row struct {
	Key, Title, Kind string
	Place            int
}

// Rows lists what of a page can be pressed, in its order: the icons, the blocks that
// are switched on and lead somewhere, the footer.
func (d Document) Rows() []Row {
	var rows []Row
	icons := Row{Key: IconsKey, Title: "Profile icons", Kind: "icons"}
	if len(d.Icons.Items) > 0 && d.Icons.Place != "below" {
		rows = append(rows, icons)
	}
	for _, block := range d.SwitchedOn() {
		if len(block.Targets()) > 0 {
			rows = append(rows, Row{Key: block.Key, Title: block.Title(), Kind: string(block.Kind), Place: block.Place})
		}
	}
	if len(d.Icons.Items) > 0 && d.Icons.Place == "below" {
		rows = append(rows, icons)
	}
	if len(d.Footer.Links) > 0 {
		rows = append(rows, Row{Key: FooterKey, Title: "Footer links", Kind: "footer"})
	}
	if slices.ContainsFunc(d.Takeovers, func(t Takeover) bool { return t.PassThrough != nil }) {
		rows = append(rows, Row{Key: PassThroughKey, Title: "Pass-through", Kind: PassThroughKey})
	}
	return rows
}

// Titles are what the rows of the page that can be pressed are called, by their
// keys, hidden ones included.
func (d Document) Titles() map[string]string {
	titles := make(map[string]string)
	for _, block := range d.Blocks {
		if len(block.Targets()) > 0 {
			titles[block.Key] = block.Title()
		}
	}
	for _, row := range d.Rows() {
		titles[row.Key] = row.Title
	}
	return titles
}

// Placed is a block together with its place on the page, counted from 1.
type Placed struct {
	Block
	Place int
}

// SwitchedOn returns the blocks that are shown to somebody at some time, with their
// places.
func (d Document) SwitchedOn() []Placed {
	return d.placed(func(block Block) bool { return block.Shown })
}

// Visible returns the blocks that an audience sees on the page while it is open, with
// their places.
func (d Document) Visible(to audience.Audience) []Placed {
	solo := d.Solo(to)
	return d.placed(func(block Block) bool { return block.ShownTo(to) && (solo == "" || block.Key == solo) })
}

func (d Document) placed(among func(Block) bool) []Placed {
	placed := make([]Placed, 0, len(d.Blocks))
	for _, block := range d.Blocks {
		if among(block) {
			placed = append(placed, Placed{Block: block, Place: len(placed) + 1})
		}
	}
	return placed
}

// HasPlain tells whether a block that an audience sees carries its plain address.
func (d Document) HasPlain(to audience.Audience) bool {
	return slices.ContainsFunc(d.Visible(to), func(block Placed) bool { return block.IsPlain() })
}

// IsPlain tells whether the page carries the plain address of where the block
// leads. Its clicks may then be more than were counted.
func (b Block) IsPlain() bool {
	return slices.ContainsFunc(b.Targets(), func(target Target) bool { return target.Plain })
}

// Find returns the block with that key.
func (d Document) Find(key string) (Block, bool) {
	for _, block := range d.Blocks {
		if block.Key == key {
			return block, true
		}
	}
	return Block{}, false
}

// Media lists the names of all files the document shows or hands out, by the
// place in it that names them.
func (d Document) Media() map[string][]string {
	files := make(map[string][]string)
	add := func(where string, names ...string) {
		for _, name := range names {
			if name != "" {
				files[where] = append(files[where], name)
			}
		}
	}
	visit := func(where string, p *picture.Picture) { add(where, p.Names()...) }
	visit("header/picture", d.Header.Picture)
	visit("header/cover", d.Header.Cover)
	for i, item := range d.Icons.Items {
		add(fmt.Sprintf("icons/items/%d/icon", i), item.Icon.own())
	}
	for i, block := range d.Blocks {
		where := fmt.Sprintf("blocks/%d/%s/", i, block.Kind)
		content := block.Content()
		if content == nil {
			continue
		}
		content.pictures(func(inner string, p *picture.Picture) { visit(where+inner, p) })
		for inner, name := range content.files() {
			add(where+inner, name)
		}
	}
	visit("sharing/picture", d.Sharing.Picture)
	for where, p := range d.Look.Pictures() {
		visit("look/"+where, p)
	}
	if film := d.Look.Ground.Film; film != nil {
		add("look/ground/film/media", film.Media)
	}
	return files
}

// only drops the contents of other kinds than the block's own.
func (b *Block) only(kind Kind) {
	for _, each := range kinds {
		if each.kind != kind {
			each.drop(b)
		}
	}
}
