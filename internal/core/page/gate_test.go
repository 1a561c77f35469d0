package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/contact"
	"jundle/internal/core/page"
)

func TestAPasscodeIsRefusedWhereEverythingStandsOnThePage(t *testing.T) {
	blocks := map[page.Kind]page.Block{
		"heading": {Heading: &page.Heading{Text: "Glazes"}}, "text": {Text: &page.Text{HTML: "<p>Ash</p>"}},
		"code": {Code: &page.Code{Title: "Ten off", Letters: "ASH10"}}, "place": {Place: &page.Venue{Name: "The kiln"}},
		"divider": {Divider: &page.Divider{}},
		"button":  {Button: &page.Button{Title: "A film", Address: "https://film.example/"}},
		"contact": {Contact: &page.Contact{Title: "Ilse", Way: "card", Card: &contact.Card{Name: "Ilse"}}},
		"booking": {Booking: &page.Booking{Title: "A talk", Minutes: 45, Ahead: 7}},
	}
	for kind, block := range blocks {
		block.Key, block.Kind, block.Shown, block.Gate = "block01", kind, true, &page.Gate{Kind: "passcode"}
		doc := page.New()
		doc.Header.Name, doc.Blocks = "Quarrow Clay", []page.Block{block}
		_, err := page.Tidy(doc)
		if kind == "button" || kind == "contact" || kind == "booking" {
			assert.NoError(t, err, kind)
			continue
		}
		require.Error(t, err, kind)
		assert.Contains(t, err.Error(), "A passcode cannot protect this block", kind)
		doc.Blocks[0].Gate = &page.Gate{Kind: "notice"}
		_, err = page.Tidy(doc)
		assert.NoError(t, err, "a notice can stand before %s", kind)
	}
}

func TestAPasscodeIsTheSameInAnyCaseAndWithBlanksAround(t *testing.T) {
	for _, typed := range []string{"Ash Glaze", " ash glaze ", "ASH GLAZE\n", "ash\u00a0glaze"} {
		assert.Equal(t, "ash glaze", page.FoldPasscode(typed), "%q", typed)
	}
}

func TestAPictureWithoutWordsIsCalledAfterWhereItLeads(t *testing.T) {
	block := page.Block{Key: "pics", Kind: "pictures", Shown: true, Pictures: &page.Pictures{Items: []page.PictureItem{
		{Key: "bowl", Address: "https://shop.quarrow.example/bowl"}, {Key: "cup", Alt: "A cup", Address: "https://shop.quarrow.example/cup"},
	}}}
	targets := block.Targets()
	require.Len(t, targets, 2)
	assert.Equal(t, []string{"shop.quarrow.example", "A cup"}, []string{targets[0].Name, targets[1].Name})
}
