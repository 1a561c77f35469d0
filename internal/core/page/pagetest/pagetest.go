// Package pagetest has a page with everything on it, for tests of whatever
// reads, draws or stores pages.
package pagetest

import (
	"strings"

	"jundle/internal/core/contact"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
)

// Picture is a picture with two sizes.
func Picture(letter string) *picture.Picture {
	return &picture.Picture{
		Media: strings.Repeat(letter, 64) + ".jpg", Width: 720, Height: 480, Sizes: []picture.Size{{
			Media: strings.Repeat(letter, 63) + "0.jpg",
			Width: 288,
		}},
		Original: strings.Repeat(letter, 63) + "1.jpg", Cut: &picture.Cut{
			Width:  720,
			Height: 480,
		}, Darkest: "#202020", Lightest: "#e0e0e0", Palette: []string{"#8a4b2a"},
	}
}

// Everything is a page that holds each kind of block, in the form it is stored
// in.
func Everything() page.Document {
	doc := page.New()
	doc.Header = page.Header{
		Name: "Quarrow Clay", Line: "Wood-fired pots", About: "The kiln opens\nfour times a year.", Picture: Picture("a"), Shape: "rounded",
		Shadow: true,
		Cover:  Picture("b"), CoverHeight: "tall", Align: "left",
	}
	doc.Icons.Items = []page.IconLink{
		{Key: "loft", Icon: page.Icon{Set: "signs", Name: "camera"}, Name: "Photoloft", Address: "https://photoloft.example/quarrowclay"},
		{
			Key: "ownn", Icon: page.Icon{Set: "own", Name: strings.Repeat("c", 64) + ".svg"}, Name: "Pinmoss",
			Address: "https://pinmoss.example/quarrowclay",
		},
	}
	style := &look.Override{Buttons: look.Default().Buttons, Pair: "almanac"}
	style.Buttons.Corners = "pill"
	block := func(key string, b page.Block) page.Block {
		b.Key, b.Kind, b.Shown = key, page.Kind(key), true
		return b
	}
	doc.Blocks = []page.Block{
		block("button", page.Block{Style: style, Button: &page.Button{
			Lead: page.Lead{Picture: Picture("d")}, Title: "Kiln dates", Line: "Four times a year", Address: "https://quarrow.example/dates",
			Shape: "card",
			Label: "free", Nofollow: true, Sponsored: true, NewWindow: true, Movement: "nudge",
		}}),
		block("contact", page.Block{Contact: &page.Contact{
			Lead: page.Lead{Emoji: "📇"}, Title: "My card", Way: "card", Card: &contact.Card{Name: "Ilse Quarrow", Phone: "+44 20 7946 0018"},
		}}),
		block("heading", page.Block{Heading: &page.Heading{Text: "To see", Size: "large", Align: "left"}}),
		block(
			"text",
			page.Block{
				Text: &page.Text{
					HTML:  `<p>Fired for <strong>forty</strong> hours, <a href="https://quarrow.example/film">on film</a>.</p>`,
					Align: "centre",
				},
			},
		),
		block("divider", page.Block{Divider: &page.Divider{Line: "wave"}}),
		block("space", page.Block{Space: &page.Space{Height: 40}}),
		block("pictures", page.Block{Pictures: &page.Pictures{Columns: 2, Gap: 6, Corners: 10, LastWide: true, Items: []page.PictureItem{
			{Key: "bowl", Picture: Picture("e"), Alt: "A bowl", Address: "https://shop.quarrow.example/bowl"}, {
				Key: "kiln", Picture: Picture("f"),
				Alt: "The kiln",
			},
		}}}),
		block("file", page.Block{File: &page.File{
			Lead: page.Lead{Icon: &page.Icon{Set: "signs", Name: "download"}}, Title: "Glaze recipes", Media: strings.Repeat("9",
				64) + ".bin", Name: "glaze recipes.pdf", Bytes: 120_400,
		}}),
		block("offer", page.Block{Offer: &page.Offer{
			Name: "Tea bowl", Text: "Ash glaze", Picture: Picture("8"), Amount: "24.50", Currency: "EUR",
			Address: "https://shop.quarrow.example/tea", Shown: "catalogue",
		}}),
		block("quote", page.Block{Quote: &page.Quote{Said: "The bowl I reach for.", Who: "Rolf", Picture: Picture("7")}}),
	}
	doc.Footer = page.Footer{Text: "Quarrow Clay, by the river", Links: []page.FooterLink{{
		Key: "privacy", Title: "Privacy",
		Address: "https://quarrow.example/privacy",
	}}}
	return doc
}
