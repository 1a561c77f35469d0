package render

import (
	"fmt"
	"net/url"
	"strings"

	"jundle/internal/core/look"
)

// drawings are our patterns: the side of a tile that repeats, and what is drawn
// on it. FILL and LINE stand for filling and drawing in the pattern's ink.
var drawings = map[string]struct {
	side int
	svg  string
}{
	"dots":    {24, `<g FILL><circle cx="6" cy="6" r="2.2"/><circle cx="18" cy="18" r="2.2"/></g>`},
	"grid":    {32, `<path d="M0 .5h32M.5 0v32" LINE="1"/>`},
	"waves":   {48, `<path d="M0 14c12 0 12-8 24-8s12 8 24 8M-24 38c12 0 12-8 24-8s12 8 24 8 12-8 24-8 12 8 24 8" LINE="3"/>`},
	"stripes": {28, `<path d="M-7 7 7-7M0 28 28 0M21 35 35 21" LINE="6"/>`},
	"checks":  {40, `<path d="M0 0h20v20H0zM20 20h20v20H20z" FILL/>`},
	"crosses": {36, `<path d="M9 5v8M5 9h8M27 23v8M23 27h8" LINE="1.6"/>`},
	"scales":  {40, `<path d="M0 20a20 20 0 0 0 40 0M-20 0a20 20 0 0 0 40 0M20 0a20 20 0 0 0 40 0" LINE="2"/>`},
	"terrazzo": {
		90,
		`<path d="m8 12 12-6 6 9-9 7zM52 8l9 3-2 10-11-3zM72 30l10 2-3 11-9-4zM30 38l8-5 8 7-7 9-10-3z` +
			`M6 56l10-3 5 8-8 8zM60 60l12-4 4 11-10 6-8-6zM36 74l8-2 2 8-8 3zM80 80l7-3 1 7zM14 82l6-4 3 7z" FILL/>`,
	},
}

// patternImage is the pattern as an image in a style sheet.
func patternImage(p look.Pattern) string {
	drawing, known := drawings[p.Name]
	if !known {
		return "none"
	}
	side := drawing.side * p.Scale / 100
	svg := strings.NewReplacer("FILL", `fill="`+p.Ink+`"`, "LINE",
		`fill="none" stroke="`+p.Ink+`" stroke-linecap="round" stroke-width`).Replace(drawing.svg)
	tile := fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d">%s</svg>`, side, side,
		drawing.side, drawing.side, svg)
	return `url("data:image/svg+xml,` + url.PathEscape(tile) + `")`
}
