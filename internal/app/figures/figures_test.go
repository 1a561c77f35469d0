package figures_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/app/figures"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
)

func TestRowsAreThoseOfThePageThenTheHiddenThenWhatIsGone(t *testing.T) {
	button := func(key, title string, shown bool) page.Block {
		return page.Block{Key: key, Kind: "button", Shown: shown, Button: &page.Button{Title: title, Address: "https://kiln.example/" + key}}
	}
	document := page.New()
	document.Blocks = []page.Block{
		button("dates", "Kiln dates", true), button("sale", "Seconds sale", false),
		{Key: "head", Kind: "heading", Shown: true, Heading: &page.Heading{Text: "To see"}},
		button("film", "The film", true),
	}
	document.Blocks[3].Button.Plain = true
	document.Footer.Links = []page.FooterLink{{Key: "terms", Title: "Terms", Address: "https://kiln.example/terms"}}
	with := func(key string) readings.BlockReading { return readings.BlockReading{Block: key} }
	got := figures.Rows(document, map[string]string{"workshop": "Workshop seats"}, []readings.BlockReading{
		with("workshop"), with("dates"), with("unknown"),
	})
	assert.Equal(t, []figures.Row{
		{Key: "dates", Title: "Kiln dates", Place: 1, OnPage: true},
		{Key: "film", Title: "The film", Place: 3, Plain: true, OnPage: true},
		{Key: page.FooterKey, Title: "Footer links", Items: []figures.Item{{Key: "terms", Title: "Terms"}}, OnPage: true},
		{Key: "sale", Title: "Seconds sale"},
		{Key: "workshop", Title: "Workshop seats"},
		{Key: "unknown", Title: "(deleted)"},
	}, got)
}
