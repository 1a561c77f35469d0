package render

import (
	"html/template"

	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
)

// Preview draws what a network is shown of a short link that has a preview of its own
// (Open Graph), and returns the policy to serve it with. The address is the
// link's present one, and leads where it leads now.
func Preview(own shortlink.Preview, origin, address, leads string) (html []byte, policy string, err error) {
	sheet := Style(page.New(), Characters{})
	html, err = execute("preview", struct {
		shortlink.Preview
		Style                 template.CSS
		Address, Image, Leads string
	}{Preview: own, Style: template.CSS(sheet), Address: origin + "/" + address, Leads: leads, Image: imageOf(own,
		origin)}) //nolint:gosec // our own style sheet
	return html, ContentSecurityPolicy(sheet), err
}

func imageOf(own shortlink.Preview, origin string) string {
	if own.Picture == nil {
		return ""
	}
	return origin + "/media/" + own.Picture.Media
}
