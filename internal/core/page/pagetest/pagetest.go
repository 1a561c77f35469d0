// Package pagetest has a page with everything on it, for tests of whatever
// reads, draws or stores pages.
package pagetest

import (
	"slices"
	"strings"
	"time"

	"jundle/internal/core/contact"
	"jundle/internal/core/geo"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/core/window"
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

// Moment is before all that is dated on the page that has everything.
var Moment = time.Date(2026, 12, 2, 18, 0, 0, 0, time.UTC)

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
		block("player", page.Block{Player: &page.Player{
			Title: "Forty hours of fire", Address: "https://wavecastle.example/watch/forty-hours", Provider: "Wavecastle",
			Frame: "https://player.wavecastle.example/forty-hours", Width: 640, Height: 360, Still: Picture("5"),
		}}),
		block("feed", page.Block{Feed: &page.Feed{
			Title: "From the journal", FeedID: "0190f5fe-7c1e-7a6a-9c1e-1f2e3d4c5b6a", Address: "https://notes.quarrow.example/feed.xml", Most: 3,
			Shown: "rows",
		}}),
		block("signup", page.Block{SignUp: &page.SignUp{
			Title: "The studio letter", Text: "Four a year", Button: "Write to me", Consent: "Quarrow Clay may write to me.",
			Thanks: "See you soon.",
		}}),
		block("payment", page.Block{Payment: &page.Payment{
			Title: "A tip for the kiln", Text: "Each pays for a bag of glaze.", Currency: "EUR", Amounts: []int64{300, 500, 1250}, Own: true,
			Word: true, Button: "Tip", Thanks: "The kiln thanks you.",
		}}),
		block("booking", page.Block{Booking: &page.Booking{
			Title: "A commission talk", Text: "About a piece for your table.", Where: "At the kiln", Minutes: 45, Notice: 24, Ahead: 30,
			Hours: &window.Times{Zone: "Europe/London", Weekly: []window.Weekly{{Days: []window.Weekday{"TU", "TH"}, From: "14:00", To: "17:00"}}},
			Price: 2500, Currency: "EUR", Button: "Choose a time", Thanks: "Bring a drawing.",
		}}),
		block("place", page.Block{Place: &page.Venue{
			Name: "The studio", Address: "Mill Lane 4\nQuarrow", Note: "Ring the bell", Point: &geo.Point{Lat: 51.5, Lon: -0.12},
			Map: Picture("4"), Zoom: 16, MapBy: "Map by tiles.example",
			Hours: &window.Times{Zone: "Europe/London", Weekly: []window.Weekly{{Days: []window.Weekday{"WE", "SA"}, From: "10:00", To: "18:00"}}},
		}}),
		block("dates", page.Block{Dates: &page.Dates{Title: "Kiln openings", Zone: "Europe/London", Calendar: true, Items: []page.DateItem{
			{
				Key: "winter", What: "Winter opening", From: Moment.Add(48 * time.Hour), To: Moment.Add(51 * time.Hour), Place: "The old mill",
				Address: "https://quarrow.example/tickets",
			},
			{Key: "spring", What: "Spring opening", From: Moment.Add(2400 * time.Hour), WholeDay: true, SoldOut: "sold out"},
		}}}),
		block("countdown", page.Block{Countdown: &page.Countdown{
			Title: "The kiln opens in", Until: Moment.Add(48 * time.Hour), Zone: "Europe/London", After: "It is open",
		}}),
		block("questions", page.Block{Questions: &page.Questions{Title: "Asked often", Items: []page.Question{
			{Asked: "Do you ship?", Answer: "Yes.\nIn straw."},
		}}}),
		block("code", page.Block{Code: &page.Code{
			Title: "Ten percent off seconds", Text: "Until Sunday", Letters: "KILN10", Address: "https://shop.quarrow.example/seconds",
			Label: "To the shop",
		}}),
	}
	doc.Sharing = page.Sharing{Title: "Quarrow Clay, potter", Description: "Pots, fired with wood", Who: "organisation", Picture: Picture("6")}
	doc.Footer = page.Footer{Text: "Quarrow Clay, by the river", Links: []page.FooterLink{{
		Key: "privacy", Title: "Privacy",
		Address: "https://quarrow.example/privacy",
	}}}
	return doc
}

// Without is a page without its blocks of some kinds.
func Without(doc page.Document, kinds ...page.Kind) page.Document {
	doc.Blocks = slices.DeleteFunc(slices.Clone(doc.Blocks), func(block page.Block) bool { return slices.Contains(kinds, block.Kind) })
	return doc
}

// Only is a page with its blocks of some kinds alone.
func Only(doc page.Document, kinds ...page.Kind) page.Document {
	doc.Blocks = slices.DeleteFunc(slices.Clone(doc.Blocks), func(block page.Block) bool { return !slices.Contains(kinds, block.Kind) })
	return doc
}
