// Package page holds what a page is made of: its document (header and ordered
// blocks), the rules a document has to keep before it may be saved, and the
// words for what publishing it would change.
//
// It knows nothing of where documents are stored or how they are drawn.
package page

import (
	"fmt"

	"jundle/internal/core/address"
)

// Kind names what a block is. Each kind has one struct of its own in Block.
type Kind string

// KindButton is a block that leads to one destination.
const KindButton Kind = "button"

// Document is everything a creator puts on a page, in order. The working copy
// and every edition have this shape.
type Document struct {
	Header Header  `json:"header"`
	Blocks []Block `json:"blocks" nullable:"false" doc:"In the order of the page, hidden ones included. At most 100."`
}

// Header is the top of the page: who this is.
type Header struct {
	Name    string   `json:"name" doc:"At most 60 characters; shown as the page's main heading."`
	Line    string   `json:"line" doc:"One line about the creator, at most 160 characters."`
	Picture *Picture `json:"picture,omitempty"`
}

// Block is one row of the page.
type Block struct {
	Key    string  `json:"key" doc:"What the block's figures are kept under; never changes. 4 to 16 of a-z and 0-9."`
	Kind   Kind    `json:"kind" enum:"button"`
	Shown  bool    `json:"shown" doc:"Hidden blocks stay in the working copy and are left out of editions' pages."`
	Button *Button `json:"button,omitempty" doc:"Set when kind is button."`
}

// Button leads to one destination.
type Button struct {
	Title   string   `json:"title" doc:"At most 120 characters."`
	Address string   `json:"address" doc:"Where it leads: https, http, mailto, tel or sms; at most 2,048 characters."`
	Picture *Picture `json:"picture,omitempty" doc:"A small picture beside the title."`
}

// Picture is an uploaded or fetched picture, kept re-encoded under the digest of
// its bytes.
type Picture struct {
	Media  string `json:"media" doc:"File name below /media/: a SHA-256 in hex with its ending."`
	Width  int    `json:"width" doc:"In pixels."`
	Height int    `json:"height" doc:"In pixels."`
}

// Title is what a block is called in lists and messages.
func (b Block) Title() string {
	if b.Button != nil {
		return b.Button.Title
	}
	return string(b.Kind)
}

// Placed is a block together with its place on the page, counted from 1.
type Placed struct {
	Block
	Place int
}

// Visible returns the blocks a visitor sees, with their places.
func (d Document) Visible() []Placed {
	placed := make([]Placed, 0, len(d.Blocks))
	for _, block := range d.Blocks {
		if block.Shown {
			placed = append(placed, Placed{Block: block, Place: len(placed) + 1})
		}
	}
	return placed
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

// NewButton makes a shown button out of an address, titled with what can be
// known without asking anybody, so that a creator always has a title to edit.
func NewButton(key string, link address.Link) Block {
	return Block{Key: key, Kind: KindButton, Shown: true, Button: &Button{Title: link.Name(), Address: link.URL}}
}

// Pictures lists every picture of the document by its place in it.
func (d Document) Pictures() map[string]Picture {
	pictures := make(map[string]Picture)
	if d.Header.Picture != nil {
		pictures["header/picture"] = *d.Header.Picture
	}
	for i, block := range d.Blocks {
		if block.Button != nil && block.Button.Picture != nil {
			pictures[fmt.Sprintf("blocks/%d/button/picture", i)] = *block.Button.Picture
		}
	}
	return pictures
}
