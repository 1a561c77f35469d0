package render_test

import (
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/core/colour"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/icons"
	"jundle/internal/render"
)

var at = pagetest.Moment

func TestEveryKindIsDrawnWithWhatItHolds(t *testing.T) {
	strip, err := render.Fragments(pagetest.Everything(), at)
	require.NoError(t, err)
	for key, wants := range map[string][]string{
		"button": {
			"card", "nudge", `rel="nofollow sponsored noopener"`, `target="_blank"`, "Four times a year", `class="label">free`,
			`srcset="/media/`,
		},
		"contact":  {"📇", "My card"},
		"heading":  {`<h2 class="block-heading large left">To see</h2>`},
		"text":     {`<div class="text centre">`, "<strong>forty</strong>", "<a>on film</a>"},
		"divider":  {`role="separator"`, "<svg"},
		"space":    {`class="space b-space"`},
		"pictures": {`alt="A bowl"`, `class="wide"`, `alt="The kiln"`},
		"file":     {"Glaze recipes", "PDF, 120 kB", `class="sign"`},
		"offer":    {"strip-half", "Tea bowl", "Ash glaze", "€24.50"},
		"quote":    {"<blockquote>The bowl I reach for.</blockquote>", "Rolf"},
		"signup": {
			"The studio letter", `type="email" name="address"`, "Quarrow Clay may write to me.", `name="agree"`, "Write to me", "disabled",
		},
		"payment": {
			"A tip for the kiln", `type="radio" name="amount" value="500" checked><span>€5</span>`, "<span>€12.50</span>", `name="own"`,
			"Another amount (EUR)", `name="word"`, "Tip", "disabled",
		},
		"booking": {
			"A commission talk", "About a piece for your table.", "45 minutes · €25 · At the kiln", `<a class="button rounded">`,
			"Choose a time",
		},
		"place": {
			"The studio", "Mill Lane 4\nQuarrow", "Ring the bell", "class=\"now\">Closed now, opens Saturday 10:00\u202fAM<",
			"<dt>Monday</dt><dd>closed</dd>", "<dt>Wednesday</dt><dd>10:00\u202fAM – 6:00\u202fPM</dd>", ">Directions<",
		},
		"dates": {
			"Winter opening", `<time datetime="2026-12-04T18:00:00Z">Friday, December 4, 2026 at 6:00 PM – 9:00 PM</time>`, "The old mill",
			`aria-label="Tickets: Winter opening"`, `<time datetime="2027-03-12">Friday, March 12, 2027</time>`, "sold out", "Put into calendar",
		},
		"countdown": {`<p>The kiln opens in</p><p class="time-left" role="timer"`, ">2 days</p>", `datetime="2026-12-04T18:00:00Z"`},
		"questions": {"<details><summary>Do you ship?</summary><p>Yes.\nIn straw.</p></details>"},
		"code":      {`<code translate="no">KILN10</code>`, `data-copy="KILN10" data-done="Copied"`, "To the shop"},
	} {
		for _, want := range wants {
			assert.Contains(t, strip.Blocks[key], want, key)
		}
	}
	assert.Contains(t, strip.Header, `class="cover tall"`)
	assert.Contains(t, strip.Header, `class="portrait rounded shadow"`)
	assert.Contains(t, strip.Icons, `aria-label="Photoloft"`)
	assert.Contains(t, strip.Footer, "Privacy")
	assert.Equal(t, "left", strip.Align)
}

func TestEveryTargetOfAPageLeadsThroughUsUnderItsOwnItem(t *testing.T) {
	doc := pagetest.Everything()
	out := draw(t, doc)
	for _, path := range []string{
		"button", "contact", "text.1", "pictures.bowl", "file", "offer", "icons.loft", "icons.ownn",
		"footer.privacy",
	} {
		assert.Contains(t, out, `href="/quarrow-clay/-/3/`+path+`/card"`)
	}
	assert.NotContains(t, out, "https://quarrow.example/film", "no address of a destination stands on the page itself")
}

func TestOnlyWhatIsFarDownIsFetchedLate(t *testing.T) {
	out := draw(t, pagetest.Everything())
	first, _, _ := strings.Cut(out, "block-heading")
	assert.NotContains(t, first, `loading="lazy"`)
	assert.Contains(t, out, `loading="lazy"`)
	for _, image := range regexp.MustCompile(`<img[^>]*>`).FindAllString(out, -1) {
		assert.Regexp(t, ` width="\d+" height="\d+"`, image, "room is kept for every picture")
		assert.Contains(t, image, "alt=")
	}
}

func TestLooksOfItsOwnReachOneBlockAlone(t *testing.T) {
	doc := pagetest.Everything()
	sheet := render.Style(doc, render.CharactersOf(doc))
	assert.Contains(t, sheet, ".b-button{--face:#fffdf8;")
	assert.Contains(t, sheet, "--radius:32px")
	assert.Equal(t, 1, strings.Count(sheet, ".b-button{"))
	assert.Contains(t, sheet, ".b-space{--height:40px;}")
	assert.Contains(t, sheet, "--columns:2;--gap:6px;--corners:10px;")
	assert.Contains(t, sheet, `font-family:"fraunces"`, "its fonts are loaded")
}

func TestARowOfIconsHasItsWidthBeforeItsLastIconHasCome(t *testing.T) {
	doc := document("Dates")
	add := func(n int) {
		for range n {
			doc.Icons.Items = append(doc.Icons.Items, page.IconLink{
				Key: "aaaa", Icon: page.Icon{Set: "signs", Name: "camera"}, Name: "x",
				Address: "https://a.example/",
			})
		}
	}
	assert.NotContains(t, render.Style(doc, render.CharactersOf(doc)), ".page .icons{")
	add(3)
	assert.Contains(t, render.Style(doc, render.CharactersOf(doc)), ".page .icons{width:144px;justify-content:flex-start}",
		"three of 44 pixels, 6 apart")
	doc.Icons.Size = "large"
	assert.Contains(t, render.Style(doc, render.CharactersOf(doc)), ".page .icons{width:173px;")
	add(8)
	assert.NotContains(t, render.Style(doc, render.CharactersOf(doc)), ".page .icons{",
		"what does not fit in one row stays in the middle of several")
}

func TestTheSheetOfAPageLoadsNoFontItDoesNotNeed(t *testing.T) {
	doc := document("Dates")
	assert.Empty(t, render.Fonts(doc, render.CharactersOf(doc)), "the fonts of the device need no download")
	doc.Look.Type.Pair = "almanac"
	assert.Len(t, render.Fonts(doc, render.CharactersOf(doc)), 3)
	doc.Header.Line = "Öfen"
	assert.Len(t, render.Fonts(doc, render.CharactersOf(doc)), 5)
	out := draw(t, doc)
	assert.Equal(t, 5, strings.Count(out, `rel="preload"`))
	assert.Contains(t, out, "font-display:optional", "text does not move when a font comes late")
}

func TestALookThatWasNeverTidiedCannotReachTheSheet(t *testing.T) {
	doc := pagetest.Everything()
	doc.Look.Text = "tomato;}</style><script>"
	doc.Look.Type.Pair = `x";}`
	doc.Blocks[0].Style.Buttons.Edge = "peru}"
	sheet := render.Style(doc, render.CharactersOf(doc))
	assert.NotContains(t, sheet, "tomato")
	assert.NotContains(t, sheet, "peru")
	assert.Contains(t, sheet, "--text:"+look.Default().Text)
	assert.NotContains(t, draw(t, doc), "b-button")
}

func TestEveryGroundIsDrawn(t *testing.T) {
	veil := look.Veil{Colour: "#102030", Strength: 60}
	for name, c := range map[string]struct {
		ground look.Ground
		sheet  string
		html   string
	}{
		"a colour": {look.Ground{Kind: "colour", Colour: "#123456"}, "--ground:#123456;", `<div class="ground" aria-hidden="true"></div>`},
		"a gradient": {look.Ground{Kind: "gradient", Colour: "#123456", Gradient: &look.Gradient{
			Colours: []string{"#000000", "#ffffff"},
			Angle:   45,
		}}, "--ground:linear-gradient(45deg,#000000,#ffffff);", `<div class="ground"`},
		"a pattern": {
			look.Ground{Kind: "pattern", Colour: "#123456", Pattern: &look.Pattern{Name: "dots", Ink: "#abcdef", Scale: 100}},
			"data:image/svg+xml,", `<div class="ground"`,
		},
		"a picture": {look.Ground{Kind: "picture", Colour: "#123456", Picture: &look.Backdrop{
			Picture: pagetest.Picture("a"), X: 20, Y: 80,
			Blur: 6, Veil: veil,
		}}, "--at:20% 80%;--blur:6px;--veil:rgb(16 32 48/60%);", `<img class="blurred" src="/media/`},
		"a film": {look.Ground{Kind: "film", Colour: "#123456", Film: &look.Film{
			Media:  strings.Repeat("a", 64) + ".mp4",
			Poster: pagetest.Picture("b"), Veil: veil,
		}}, "--veil:rgb(16 32 48/60%);", `media="(prefers-reduced-motion: no-preference)"`},
	} {
		doc := document("Dates")
		doc.Look.Ground = c.ground
		assert.Contains(t, render.Style(doc, render.CharactersOf(doc)), c.sheet, name)
		assert.Contains(t, draw(t, doc), c.html, name)
	}
	for _, name := range look.Patterns {
		doc := document("Dates")
		doc.Look.Ground = look.Ground{Kind: "pattern", Colour: "#123456", Pattern: &look.Pattern{Name: name, Ink: "#abcdef", Scale: 100}}
		assert.Contains(t, render.Style(doc, render.CharactersOf(doc)), "%23abcdef", name)
	}
}

func TestAMarkInItsOwnColourStandsOnADiscItCanBeSeenOn(t *testing.T) {
	doc := document()
	doc.Icons.Colour = "brand"
	drawn := func(icon page.Icon) string {
		doc.Icons.Items = []page.IconLink{{Key: "sign", Icon: icon, Name: "Pictures", Address: "https://a.example/"}}
		strip, err := render.Fragments(doc, at)
		require.NoError(t, err)
		return strip.Icons
	}
	white, night := colour.MustParse("#ffffff"), colour.MustParse("#16181a")
	discs := map[string]int{}
	for _, icon := range icons.Search("a", 300) {
		if icon.Set != icons.Marks {
			continue
		}
		out, disc, class := drawn(page.Icon{Set: icon.Set, Name: icon.Name}), white, `class="chip"`
		if strings.Contains(out, `class="chip night"`) {
			disc, class = night, `class="chip night"`
		}
		discs[class]++
		assert.Contains(t, out, class, icon.Name)
		assert.Contains(t, out, `fill="`+icon.Colour+`"`, icon.Name)
		assert.GreaterOrEqual(t, colour.Contrast(colour.MustParse(icon.Colour), disc), colour.NeedEdge, icon.Name)
	}
	assert.Len(t, discs, 2, "there are pale marks and dark ones: %v", discs)
	assert.NotContains(t, drawn(page.Icon{Set: "signs", Name: "camera"}), "chip", "a sign has the colour of the page")
	assert.Contains(t, drawn(page.Icon{Set: "marks", Name: "nobody-has-this"}), `aria-label="Pictures"`,
		"an icon that is gone from the library leaves its link")
}

func TestEveryThemeMakesAPageThatTravelsInTheFirstTenSegments(t *testing.T) {
	for _, theme := range look.Themes() {
		doc := pagetest.Everything()
		doc.Look = theme.Look
		assert.LessOrEqual(t, packed(t, draw(t, doc)), 14_000, theme.Name)
	}
}

// A kind is one file on each side: its template is found by its name.
func TestEveryKindHasATemplate(t *testing.T) {
	for _, kind := range page.Kinds() {
		found := false
		files, err := os.ReadDir("templates")
		require.NoError(t, err)
		for _, file := range files {
			text, err := os.ReadFile("templates/" + file.Name())
			require.NoError(t, err)
			found = found || strings.Contains(string(text), fmt.Sprintf(`define "kind_%s"`, kind))
		}
		assert.True(t, found, kind)
	}
}

// Whatever is stored by other means than page.Tidy, nothing of it may leave the
// place it stands in.
func TestTextInEveryFieldStaysText(t *testing.T) {
	attack := `"><script>alert(1)</script><img src=x onerror=alert(1)>`
	doc := pagetest.Everything()
	of := func(key string) page.Block {
		block, found := doc.Find(key)
		require.True(t, found, key)
		return block
	}
	doc.Header.Name, doc.Header.Line, doc.Header.About, doc.Footer.Text, doc.Footer.Links[0].Title = attack, attack, attack, attack, attack
	doc.Icons.Items[0].Name = attack
	of("button").Button.Title, of("button").Button.Line, of("button").Button.Label = attack, attack, attack
	of("contact").Contact.Title, of("contact").Contact.Emoji = attack, attack
	of("heading").Heading.Text = attack
	of("text").Text.HTML = `<p onclick="alert(1)">` + attack + `</p>`
	of("pictures").Pictures.Items[0].Alt = attack
	of("file").File.Title, of("file").File.Name = attack, attack
	of("offer").Offer.Name, of("offer").Offer.Text, of("offer").Offer.Currency = attack, attack, attack
	of("quote").Quote.Said, of("quote").Quote.Who = attack, attack
	*of("signup").SignUp = page.SignUp{Title: attack, Text: attack, Button: attack, Consent: attack}
	*of("payment").Payment = page.Payment{
		Title: attack, Text: attack, Button: attack, Currency: attack, Amounts: []int64{1, 2}, Own: true, Word: true,
	}
	*of("booking").Booking = page.Booking{Title: attack, Text: attack, Where: attack, Button: attack, Price: 5, Currency: attack}
	of("place").Place.Name, of("place").Place.Address, of("place").Place.Note = attack, attack, attack
	of("dates").Dates.Title, of("dates").Dates.Items[0].What, of("dates").Dates.Items[0].Place = attack, attack, attack
	of("countdown").Countdown.Title, of("countdown").Countdown.After = attack, attack
	of("questions").Questions.Items[0] = page.Question{Asked: attack, Answer: attack}
	*of("code").Code = page.Code{Title: attack, Text: attack, Letters: attack, Label: attack, Address: "https://kiln.example/"}
	of("player").Player.Title, of("player").Player.Provider, of("player").Player.Frame = attack, attack, attack
	root, err := html.Parse(strings.NewReader(draw(t, doc)))
	require.NoError(t, err)
	scripts := 0
	for node := range root.Descendants() {
		if node.Data == "script" {
			assert.NotContains(t, node.FirstChild.Data, "<img", "it is one of ours, or data in which nothing is markup")
			scripts++
		}
		for _, attribute := range node.Attr {
			assert.False(t, strings.HasPrefix(attribute.Key, "on"), attribute.Key)
		}
		if node.Type == html.ElementNode && node.Data == "img" {
			for _, attribute := range node.Attr {
				if attribute.Key == "src" {
					assert.True(t, strings.HasPrefix(attribute.Val, "/media/"), attribute.Val)
				}
			}
		}
	}
	assert.Equal(t, 5, scripts, "the page, its place and its dates for search engines, the countdown and the copying; no player")
}
