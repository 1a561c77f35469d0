package render

import (
	"fmt"
	"html"
	"html/template"
	"strings"

	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/icons"
)

// How wide pictures are shown, for browsers to choose a size by.
const (
	smallSize  = "96px"
	columnSize = "(min-width:37.5rem) 520px,calc(100vw - 40px)"
	coverSize  = "(min-width:37.5rem) 520px,100vw"
	halfSize   = "(min-width:37.5rem) 254px,calc(50vw - 26px)"
)

// sources are the attributes of an img that say where the picture is, in which
// sizes, and how large it is, so that nothing moves when it arrives.
func sources(p *picture.Picture, shown string) string {
	out := fmt.Sprintf(` src="/media/%s" width="%d" height="%d"`, html.EscapeString(p.Media), p.Width, p.Height)
	if len(p.Sizes) == 0 {
		return out
	}
	var set []string
	for _, size := range p.Sizes {
		set = append(set, fmt.Sprintf("/media/%s %dw", size.Media, size.Width))
	}
	set = append(set, fmt.Sprintf("/media/%s %dw", p.Media, p.Width))
	return out + fmt.Sprintf(` srcset="%s" sizes="%s"`, html.EscapeString(strings.Join(set, ", ")), shown)
}

// pictureHTML draws a picture. What is far down the page is fetched when it
// comes near.
func pictureHTML(p *picture.Picture, class, alt, shown string, lazy bool) template.HTML {
	if p == nil {
		return ""
	}
	out := "<img"
	if class != "" {
		out += ` class="` + class + `"`
	}
	out += sources(p, shown) + ` alt="` + html.EscapeString(alt) + `"`
	if lazy {
		out += ` loading="lazy" decoding="async"`
	}
	return template.HTML(out + ">") //nolint:gosec // names are digests, the text is escaped
}

// iconHTML draws an icon in the colour of the text around it, or a mark in its
// own.
func iconHTML(icon page.Icon, branded bool) template.HTML {
	if icon.Set == "own" {
		return template.HTML(`<img src="/media/` + html.EscapeString(icon.Name) + `" width="24" height="24" alt="">`) //nolint:gosec // escaped
	}
	found, ok := icons.Find(icon.Set, icon.Name)
	if !ok {
		return ""
	}
	if found.Set == icons.Signs {
		return template.HTML(`<svg class="sign" viewBox="0 0 24 24" aria-hidden="true">` + found.Draws + `</svg>`) //nolint:gosec // our own data
	}
	fill := ""
	if branded {
		fill = ` fill="` + found.Colour + `"`
	} else {
		fill = ` class="mark"`
	}
	return template.HTML(
		`<svg viewBox="0 0 24 24"` + fill + ` aria-hidden="true"><path d="` + found.Draws + `"/></svg>`,
	) //nolint:gosec // our own data
}
