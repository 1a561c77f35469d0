// Package starters holds ready-made pages to begin from, one for each of a few
// trades, in our own words and with pictures drawn by us.
package starters

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"regexp"
	"strings"
	"sync"

	"jundle/internal/core/colour"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
)

//go:embed drawings/*.svg
var drawings embed.FS

// Starter is a ready-made page.
type Starter struct {
	ID    string
	Trade string
	// Description is what the page is good for.
	Description string
	document    func(name string) page.Document
}

// All lists the starters.
func All() []Starter { return starters }

// Find finds a starter by its ID.
func Find(id string) (Starter, bool) {
	for _, starter := range starters {
		if starter.ID == id {
			return starter, true
		}
	}
	return Starter{}, false
}

// Document is the page with somebody's name on it. newKey makes the keys of its
// blocks and items, each once.
func (s Starter) Document(name string, newKey func() string) page.Document {
	doc := s.document(name)
	for i := range doc.Blocks {
		doc.Blocks[i].Key = newKey()
		if pictures := doc.Blocks[i].Pictures; pictures != nil {
			for j := range pictures.Items {
				pictures.Items[j].Key = newKey()
			}
		}
	}
	for i := range doc.Icons.Items {
		doc.Icons.Items[i].Key = newKey()
	}
	for i := range doc.Footer.Links {
		doc.Footer.Links[i].Key = newKey()
	}
	return doc
}

// Drawing is one of the pictures, an SVG under the digest of its bytes.
type Drawing struct {
	Bytes   []byte
	picture picture.Picture
}

var library = sync.OnceValues(func() (byFile map[string]Drawing, byDrawing map[string]Drawing) {
	byFile, byDrawing = map[string]Drawing{}, map[string]Drawing{}
	err := fs.WalkDir(drawings, ".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		data, err := drawings.ReadFile(path)
		if err != nil {
			return err
		}
		data = []byte(strings.TrimSpace(string(data)))
		sum := sha256.Sum256(data)
		drawing := Drawing{Bytes: data, picture: describe(hex.EncodeToString(sum[:])+".svg", string(data))}
		byFile[drawing.picture.Media] = drawing
		byDrawing[strings.TrimSuffix(entry.Name(), ".svg")] = drawing
		return nil
	})
	if err != nil {
		panic(fmt.Sprintf("starters: %v", err)) // they ship with the program
	}
	return byFile, byDrawing
})

var (
	codes   = regexp.MustCompile(`#[0-9a-f]{6}`)
	viewBox = regexp.MustCompile(`viewBox="0 0 (\d+) (\d+)"`)
)

// describe notes size and colours of a drawing of ours.
func describe(name, svg string) picture.Picture {
	p := picture.Picture{Media: name}
	_, _ = fmt.Sscanf(viewBox.FindString(svg), `viewBox="0 0 %d %d"`, &p.Width, &p.Height)
	var used []colour.RGB
	for _, code := range codes.FindAllString(svg, -1) {
		used = append(used, colour.MustParse(code))
	}
	darkest, lightest := used[0], used[0]
	for _, c := range used {
		if c.Luminance() < darkest.Luminance() {
			darkest = c
		}
		if c.Luminance() > lightest.Luminance() {
			lightest = c
		}
	}
	p.Darkest, p.Lightest = darkest.Hex(), lightest.Hex()
	for _, c := range colour.Palette(used) {
		p.Palette = append(p.Palette, c.Hex())
	}
	return p
}

// File finds a drawing by its file name. They are nobody's in particular, so
// every workspace may show them.
func File(name string) (Drawing, bool) {
	byFile, _ := library()
	drawing, ok := byFile[name]
	return drawing, ok
}

func drawn(name string) *picture.Picture {
	_, byDrawing := library()
	drawing, ok := byDrawing[name]
	if !ok {
		panic("starters: no drawing is called " + name)
	}
	copied := drawing.picture
	return &copied
}

func begin(name, line, cover, theme string, blocks ...page.Block) page.Document {
	doc := page.New()
	doc.Header.Name, doc.Header.Line, doc.Blocks = name, line, blocks
	if cover != "" {
		doc.Header.Cover = drawn(cover)
	}
	if found, ok := look.FindTheme(theme); ok {
		doc.Look = found.Look
	}
	return doc
}

// site is where a starter's buttons lead until they lead somewhere: a host that
// is reserved for examples (RFC 2606).
const site = "https://your-site.example/"

func button(title, line, path, icon string) page.Block {
	b := &page.Button{Title: title, Line: line, Address: site + path, Shape: "beside", Movement: "none"}
	if icon != "" {
		b.Icon = &page.Icon{Set: "signs", Name: icon}
	}
	return page.Block{Kind: "button", Shown: true, Button: b}
}

func labelled(block page.Block, label string) page.Block {
	block.Button.Label = label
	return block
}

func heading(text string) page.Block {
	return page.Block{Kind: "heading", Shown: true, Heading: &page.Heading{Text: text, Size: "medium", Align: "centre"}}
}

func text(words string) page.Block {
	return page.Block{Kind: "text", Shown: true, Text: &page.Text{HTML: "<p>" + words + "</p>", Align: "centre"}}
}

func quote(words, who string) page.Block {
	return page.Block{Kind: "quote", Shown: true, Quote: &page.Quote{Said: words, Who: who}}
}

func offer(name, about, amount, drawing string) page.Block {
	o := &page.Offer{Name: name, Text: about, Amount: amount, Currency: "EUR", Address: site + "shop", Shown: "row"}
	if drawing != "" {
		o.Picture, o.Shown = drawn(drawing), "catalogue"
	}
	return page.Block{Kind: "offer", Shown: true, Offer: o}
}

func mail(title, subject string) page.Block {
	return page.Block{Kind: "contact", Shown: true, Contact: &page.Contact{
		Lead: page.Lead{Icon: &page.Icon{
			Set:  "signs",
			Name: "mail",
		}}, Title: title, Way: "mail", Mailbox: "hello@your-site.example", Subject: subject,
	}}
}

func call(title string) page.Block {
	return page.Block{Kind: "contact", Shown: true, Contact: &page.Contact{
		Lead: page.Lead{Icon: &page.Icon{Set: "signs", Name: "phone"}}, Title: title, Way: "call", Number: "+44 20 7946 0018",
	}}
}

func withIcons(doc page.Document, place string, signs ...string) page.Document {
	doc.Icons.Place = place
	for _, sign := range signs {
		name, icon, _ := strings.Cut(sign, ":")
		doc.Icons.Items = append(doc.Icons.Items, page.IconLink{
			Icon: page.Icon{Set: "signs", Name: icon}, Name: name,
			Address: site + strings.ToLower(name),
		})
	}
	return doc
}
