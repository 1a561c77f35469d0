package render

import (
	"fmt"
	"html"
	"slices"
	"strings"

	"jundle/internal/core/colour"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/fonts"
)

// Everything written here comes out of a sound look: colours are hex codes,
// choices are words of ours, numbers are numbers. Nothing else can reach a style
// sheet.

// Style is the whole style sheet of a page: its fonts, its looks, those of each
// block that has its own, the rules all pages share, and those of the kinds on it.
func Style(doc page.Document, words Characters) string {
	var out strings.Builder
	for _, file := range Fonts(doc, words) {
		fmt.Fprintf(&out, `@font-face{font-family:"%s";font-weight:%d;font-display:optional;src:url(%s) format("woff2");unicode-range:%s}`,
			file.Family, file.Weight, file.Path, file.Range)
	}
	l := doc.Look.Sound()
	out.WriteString(".page{" + pageProperties(l) + buttonProperties(l.Buttons) + "}")
	out.WriteString(iconRules(doc.Icons))
	for _, block := range doc.Blocks {
		out.WriteString(blockRules(block))
	}
	out.WriteString(style)
	there := make(map[page.Kind]bool)
	if slices.ContainsFunc(doc.Blocks, func(block page.Block) bool { return block.SignUp != nil || block.Payment != nil }) {
		out.WriteString(formStyle)
	}
	for _, block := range doc.Blocks {
		if !there[block.Kind] {
			out.WriteString(kindStyles[block.Kind])
			there[block.Kind] = true
		}
	}
	return out.String()
}

// Characters is all that is written on a page, in the fonts of headings and of text.
type Characters struct{ headings, text string }

// CharactersOf gathers what is written on a page as visitors see it. It is the same in
// every look.
func CharactersOf(doc page.Document) Characters {
	var headings, text strings.Builder
	headings.WriteString(doc.Header.Name)
	text.WriteString(doc.Header.Line + doc.Header.About + doc.Footer.Text)
	for _, link := range doc.Footer.Links {
		text.WriteString(link.Title)
	}
	for _, block := range doc.SwitchedOn() {
		if content := block.Content(); content != nil {
			in, under := content.Texts(doc.Language)
			headings.WriteString(in)
			text.WriteString(under)
		}
	}
	return Characters{headings.String(), text.String()}
}

// Fonts lists the slices of fonts the page's words need.
func Fonts(doc page.Document, words Characters) []fonts.Slice {
	l := doc.Look.Sound()
	pairs := map[string]bool{}
	for _, block := range doc.SwitchedOn() {
		if block.Style != nil && block.Style.Pair != "" {
			pairs[block.Style.Pair] = true
		}
	}
	pairs[l.Type.Pair] = true
	needed := []fonts.Slice{}
	for _, pair := range look.Pairs {
		if pairs[pair.ID] {
			needed = append(needed, fonts.Needed(pair, words.headings, words.text)...)
		}
	}
	// Two pairs may share a font.
	seen := map[string]bool{}
	return slices.DeleteFunc(needed, func(file fonts.Slice) bool {
		was := seen[file.Path]
		seen[file.Path] = true
		return was
	})
}

var (
	sizes     = map[int]string{-1: "15.5px", 0: "17px", 1: "18.5px", 2: "20px"}
	radii     = map[look.Corners]string{"rounded": "12px", "square": "2px", "pill": "32px"}
	widths    = map[look.Width]string{"full": "100%", "wide": "86%", "narrow": "70%"}
	fallbacks = map[string]string{
		"sans": "ui-sans-serif,system-ui,sans-serif", "serif": "ui-serif,Georgia,serif", "mono": "ui-monospace,monospace",
		"hand": "ui-rounded,system-ui,sans-serif",
	}
)

func pageProperties(l look.Look) string {
	onText := "#000000"
	if text := colour.MustParse(l.Text); colour.Contrast(text, colour.RGB{}) < colour.Contrast(text, colour.RGB{R: 255, G: 255, B: 255}) {
		onText = "#ffffff"
	}
	out := fmt.Sprintf("--text:%s;--soft:%s;--on-text:%s;--under:%s;--size:%s;", l.Text, l.Soft, onText, l.Ground.Colour, sizes[l.Type.Step])
	out += groundProperties(l.Ground)
	pair, _ := look.FindPair(l.Type.Pair)
	return out + pairProperties(pair)
}

func groundProperties(g look.Ground) string {
	switch {
	case g.Kind == look.GradientGround && g.Gradient != nil:
		return fmt.Sprintf("--ground:linear-gradient(%ddeg,%s);", g.Gradient.Angle, strings.Join(g.Gradient.Colours, ","))
	case g.Kind == look.PatternGround && g.Pattern != nil:
		return fmt.Sprintf(`--ground:%s %s;`, patternImage(*g.Pattern), g.Colour)
	case g.Kind == look.PictureGround && g.Picture != nil:
		return fmt.Sprintf("--ground:%s;--at:%d%% %d%%;--blur:%dpx;--veil:%s;", g.Colour, g.Picture.X, g.Picture.Y, g.Picture.Blur,
			seeThrough(g.Picture.Veil.Colour, g.Picture.Veil.Strength))
	case g.Kind == look.FilmGround && g.Film != nil:
		return fmt.Sprintf("--ground:%s;--at:50%% 50%%;--veil:%s;", g.Colour, seeThrough(g.Film.Veil.Colour, g.Film.Veil.Strength))
	}
	return fmt.Sprintf("--ground:%s;", g.Colour)
}

func seeThrough(code string, percent int) string {
	c := colour.MustParse(code)
	return fmt.Sprintf("rgb(%d %d %d/%d%%)", c.R, c.G, c.B, percent)
}

func pairProperties(pair look.Pair) string {
	family := func(face look.Face) string {
		stack := fallbacks[face.Kind]
		if face.Family != "" {
			stack = `"` + face.Family + `",` + stack
		}
		return stack
	}
	return fmt.Sprintf("--head:%s;--head-weight:%d;--font:%s;--bold:%d;", family(pair.Head), pair.Head.Weight, family(pair.Text),
		pair.Text.Bold)
}

func buttonProperties(b look.Buttons) string {
	face, edge, line, underline := b.Ground, b.Edge, "1px", "none"
	switch b.Fill {
	case "outlined":
		face, line = "transparent", "2px"
	case "soft":
		face, edge = seeThrough(b.Ground, int(look.SoftShare*100)), "transparent"
	case "bare":
		face, edge, underline = "transparent", "transparent", "underline"
	}
	shadow := "none"
	switch b.Shadow {
	case "soft":
		shadow = "0 6px 18px " + seeThrough(b.Edge, 28)
	case "hard":
		shadow = "4px 4px 0 " + b.Edge
	}
	card := radii[b.Corners]
	if b.Corners == "pill" {
		card = "22px"
	}
	return fmt.Sprintf("--face:%s;--ink:%s;--edge:%s;--line:%s;--radius:%s;--card-radius:%s;--shadow:%s;--width:%s;--underline:%s;",
		face, b.Text, edge, line, radii[b.Corners], card, shadow, widths[b.Width], underline)
}

// blockRules are the looks of one block that are not the page's, and the
// measures that are set by number.
func blockRules(block page.Block) string {
	var properties string
	if style := block.Style.Sound(); style != nil {
		properties = buttonProperties(style.Buttons)
		if pair, ok := look.FindPair(style.Pair); ok && style.Pair != "" {
			properties += pairProperties(pair)
		}
	}
	if measured, ok := block.Content().(page.Measured); ok {
		for _, measure := range measured.Measures() {
			properties += "--" + measure.Name + ":" + measure.Value + ";"
		}
	}
	if properties == "" {
		return ""
	}
	return "." + ownClass(block.Key) + "{" + properties + "}"
}

// iconRules give the row of icons its width beforehand, where it fits on a small
// phone: browsers paint what has come of a page, and half a row in the middle
// would stand elsewhere than the whole row does.
func iconRules(icons page.Icons) string {
	const phone = 320 // what a phone of 360 pixels leaves between the margins
	side, apart := 44, 6
	switch icons.Size {
	case "small":
		side = 39
	case "large":
		side, apart = 51, 10
	}
	width := len(icons.Items)*(side+apart) - apart
	if width <= 0 || width > phone {
		return ""
	}
	return fmt.Sprintf(".page .icons{width:%dpx;justify-content:flex-start}", width)
}

func ownClass(key string) string { return "b-" + key }

// groundHTML is what lies behind a page beyond what a style sheet can draw.
func groundHTML(l look.Look) string {
	const front = `<div class="ground" aria-hidden="true">`
	switch g := l.Ground; {
	case g.Kind == look.PictureGround && g.Picture != nil && g.Picture.Picture != nil:
		class := ""
		if g.Picture.Blur > 0 {
			class = ` class="blurred"`
		}
		return front + "<img" + class + sources(g.Picture.Picture, "100vw") + ` alt="" fetchpriority="low"></div>`
	case g.Kind == look.FilmGround && g.Film != nil && g.Film.Media != "":
		out := front
		if g.Film.Poster != nil {
			out += "<img" + sources(g.Film.Poster, "100vw") + ` alt="">`
		}
		return out + `<video autoplay muted loop playsinline disablepictureinpicture tabindex="-1"><source src="/media/` + html.EscapeString(
			g.Film.Media,
		) + `" media="(prefers-reduced-motion: no-preference)"></video></div>`
	}
	return front + "</div>"
}
