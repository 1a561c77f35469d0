package render

import (
	"html/template"

	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
)

// Card draws what a network is shown of a short link that has a card of its own
// (Open Graph), and returns the policy to serve it with. The address is the
// link's present one, and leads where it leads now.
func Card(card shortlink.Card, origin, address, leads string) (html []byte, policy string, err error) {
	sheet := Style(page.New())
	html, err = execute("card", struct {
		shortlink.Card
		Style                 template.CSS
		Address, Image, Leads string
	}{Card: card, Style: template.CSS(sheet), Address: origin + "/" + address, Leads: leads, Image: imageOf(card, origin)}) //nolint:gosec // our own style sheet
	return html, ContentSecurityPolicy(sheet), err
}

func imageOf(card shortlink.Card, origin string) string {
	if card.Picture == nil {
		return ""
	}
	return origin + "/media/" + card.Picture.Media
}
