package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
)

func TestWhatHasNoNameIsCalledAfterWhereItLeads(t *testing.T) {
	doc := page.New()
	doc.Icons.Items = []page.IconLink{{Key: "loft", Address: "https://www.photoloft.example/quarrow"}}
	doc.Footer.Links = []page.FooterLink{{Key: "privacy", Title: " ", Address: "https://xn--tpferei-90a.example/privacy"}}
	doc.Blocks = []page.Block{
		{Key: "dates", Kind: "button", Button: &page.Button{Address: "https://kiln.example/dates"}},
		{Key: "mail", Kind: "contact", Contact: &page.Contact{Way: "mail", Mailbox: "ilse@quarrow.example"}},
		{Key: "film", Kind: "button", Button: &page.Button{Title: "The film", Address: "https://wavecastle.example/"}},
	}
	named := page.Named(doc, "quarrow-clay")
	assert.Equal(t, "quarrow-clay", named.Header.Name)
	assert.Equal(t, "photoloft.example", named.Icons.Items[0].Name)
	assert.Equal(t, "töpferei.example", named.Footer.Links[0].Title)
	assert.Equal(t, "kiln.example", named.Blocks[0].Title())
	assert.Equal(t, "ilse@quarrow.example", named.Blocks[1].Title())
	assert.Equal(t, "The film", named.Blocks[2].Title())
	assert.Empty(t, doc.Icons.Items[0].Name, "the working copy is as it was written")

	whole := pagetest.Everything()
	assert.Equal(t, whole, page.Named(whole, "quarrow-clay"), "what has a name keeps it")
}
