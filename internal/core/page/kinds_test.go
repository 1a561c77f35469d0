package page_test

import (
	"encoding/json"
	"errors"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/paste"
	"jundle/internal/fuzzing"
)

func TestAPageWithEverythingOnItComesBackFromItsJSON(t *testing.T) {
	doc := pagetest.Everything()
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, doc, tidy, "what is in the form it is stored in stays as it is")
	data, err := json.Marshal(doc)
	require.NoError(t, err)
	var back page.Document
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Equal(t, doc, back)
	assert.Empty(t, page.Changes(&doc, back))
}

func TestEveryKindIsOnThePageThatHasThemAll(t *testing.T) {
	have := map[page.Kind]bool{}
	for _, block := range pagetest.Everything().Blocks {
		have[block.Kind] = true
		require.NotNil(t, block.Content(), block.Kind)
	}
	for _, kind := range page.Kinds() {
		assert.True(t, have[kind], kind)
	}

	// Every field of a block that holds content is a kind.
	block, content := reflect.TypeFor[page.Block](), reflect.TypeFor[page.Content]()
	var fields []page.Kind
	for i := range block.NumField() {
		if field := block.Field(i); field.Type.Implements(content) {
			fields = append(fields, page.Kind(strings.TrimSuffix(field.Tag.Get("json"), ",omitempty")))
		}
	}
	assert.Equal(t, fields, page.Kinds())
}

func TestAnEditionFromBeforeALookLooksAsANewPageDoes(t *testing.T) {
	var doc page.Document
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(
				`{"header":{"name":"Quarrow Clay","line":"Pots"},"blocks":[{"key":"aaaa","kind":"button","shown":true,
				"button":{"title":"Dates","address":"https://kiln.example/","picture":{"media":"x","width":1,"height":1}}}]}`,
			),
			&doc,
		),
	)
	fresh := page.New()
	assert.Equal(t, fresh.Look, doc.Look)
	assert.Equal(t, "circle", doc.Header.Shape)
	assert.Equal(t, "en", doc.Language)
	assert.Equal(t, "x", doc.Blocks[0].Button.Picture.Media)
}

func block(kind page.Kind, change func(*page.Block)) page.Block {
	for _, each := range pagetest.Everything().Blocks {
		if each.Kind == kind {
			change(&each)
			return each
		}
	}
	return page.Block{}
}

func TestEachKindSaysWhatIsWrongWithItAndWhere(t *testing.T) {
	long := strings.Repeat("x", 4000)
	for _, c := range []struct {
		kind   page.Kind
		where  string
		says   string
		change func(*page.Block)
	}{
		{"button", "address", "https, http, mailto, tel or sms", func(b *page.Block) { b.Button.Address = "javascript:alert(1)" }},
		{"booking", "minutes", "from 5 to 720", func(b *page.Block) { b.Booking.Minutes = 0 }},
		{"booking", "notice", "from 0 to 336", func(b *page.Block) { b.Booking.Notice = -1 }},
		{"booking", "ahead", "from 1 to 90", func(b *page.Block) { b.Booking.Ahead = 91 }},
		{"booking", "where", "at most 160", func(b *page.Block) { b.Booking.Where = long }},
		{"booking", "currency", "no currency code", func(b *page.Block) { b.Booking.Currency = "EUX" }},
		{"booking", "price", "less than can be paid", func(b *page.Block) { b.Booking.Price = -5 }},
		{"booking", "hours/zone", "no time zone", func(b *page.Block) { b.Booking.Hours.Zone = "Quarrow" }},
		{"button", "line", "at most 160", func(b *page.Block) { b.Button.Line = long }},
		{"button", "label", "at most 24", func(b *page.Block) { b.Button.Label = long }},
		{"button", "shape", "no shape", func(b *page.Block) { b.Button.Shape = "star" }},
		{"button", "movement", "no movement", func(b *page.Block) { b.Button.Movement = `" onload="x` }},
		{"button", "picture", "not one that was uploaded here", func(b *page.Block) { b.Button.Picture.Sizes[0].Media = "../x" }},
		{"contact", "card/name", "needs a name", func(b *page.Block) { b.Contact.Card = &contact.Card{} }},
		{"contact", "number", "not a phone number", func(b *page.Block) { b.Contact.Way, b.Contact.Number = "call", "ring" }},
		{"contact", "mailbox", "not an e-mail address", func(b *page.Block) { b.Contact.Way, b.Contact.Mailbox = "mail", "ilse" }},
		{"contact", "pattern", "{number}", func(b *page.Block) {
			b.Contact.Way, b.Contact.Number, b.Contact.Pattern = "app", "+442079460018", "https://chat.example/"
		}},
		{"contact", "number", "not a phone number", func(b *page.Block) {
			b.Contact.Way, b.Contact.Pattern = "app",
				"https://chat.example/{number}"
		}},
		{"heading", "text", "at most 120", func(b *page.Block) { b.Heading.Text = long }},
		{"heading", "size", "no size", func(b *page.Block) { b.Heading.Size = "9em" }},
		{"text", "html", "at most 3000", func(b *page.Block) { b.Text.HTML = long }},
		{"text", "html", "https, http, mailto, tel or sms", func(b *page.Block) { b.Text.HTML = `<a href="javascript:alert(1)">x</a>` }},
		{"divider", "line", "no line", func(b *page.Block) { b.Divider.Line = "rope" }},
		{"signup", "consent", "at most 600", func(b *page.Block) { b.SignUp.Consent = long }},
		{"place", "point", "not on the earth", func(b *page.Block) { b.Place.Point.Lat = 91 }},
		{"place", "pattern", "{lat} and {lon}", func(b *page.Block) { b.Place.Pattern = "https://maps.example/" }},
		{"place", "pattern", "beginning with https", func(b *page.Block) { b.Place.Pattern = "mailto:me@maps.example?subject={lat},{lon}" }},
		{"dates", "zone", "no time zone", func(b *page.Block) { b.Dates.Zone = "Mars" }},
		{"dates", "items/0/from", "Say when", func(b *page.Block) { b.Dates.Items[0].From = time.Time{} }},
		{"dates", "items/0/to", "ends before it begins", func(b *page.Block) { b.Dates.Items[0].To = b.Dates.Items[0].From.Add(-time.Hour) }},
		{"dates", "items/1/key", "no key of its own", func(b *page.Block) { b.Dates.Items[1].Key = page.CalendarItem }},
		{"dates", "items/0/address", "https, http", func(b *page.Block) { b.Dates.Items[0].Address = "javascript:alert(1)" }},
		{"countdown", "until", "Say when", func(b *page.Block) { b.Countdown.Until = time.Time{} }},
		{"questions", "items/0/answer", "at most 1500", func(b *page.Block) { b.Questions.Items[0].Answer = long }},
		{"code", "letters", "Say the code", func(b *page.Block) { b.Code.Letters = " " }},
		{"space", "height", "from 8 to 160", func(b *page.Block) { b.Space.Height = 9999 }},
		{"pictures", "columns", "from 1 to 3", func(b *page.Block) { b.Pictures.Columns = 4 }},
		{"pictures", "items/1/picture", "Picture 2 is missing", func(b *page.Block) { b.Pictures.Items[1].Picture = nil }},
		{"pictures", "items/1/key", "no key of its own", func(b *page.Block) { b.Pictures.Items[1].Key = "bowl" }},
		{"pictures", "items/0/address", "has no full host name", func(b *page.Block) { b.Pictures.Items[0].Address = "kiln" }},
		{"file", "media", "not one that was uploaded here", func(b *page.Block) { b.File.Media = "/etc/passwd" }},
		{"file", "address", "There is no address", func(b *page.Block) { b.File.Media = "" }},
		{"file", "icon", "none that we have", func(b *page.Block) { b.File.Icon.Name = `x"><script>` }},
		{"offer", "amount", "is not a price", func(b *page.Block) { b.Offer.Amount = "cheap" }},
		{"offer", "amount", "is not a price", func(b *page.Block) { b.Offer.Amount = "-1" }},
		{"offer", "currency", "ISO 4217", func(b *page.Block) { b.Offer.Currency = "POT" }},
		{"offer", "currency", "needs a currency", func(b *page.Block) { b.Offer.Currency = "" }},
		{"quote", "words", "at most 500", func(b *page.Block) { b.Quote.Said = long }},
	} {
		doc := document(block(c.kind, c.change))
		_, err := page.Tidy(doc)
		var refused *invalid.Error
		if !assert.True(t, errors.As(err, &refused), "%s: %s", c.kind, c.says) {
			continue
		}
		assert.Equal(t, "blocks/0/"+string(c.kind)+"/"+c.where, refused.Problems[0].Where)
		assert.Contains(t, refused.Problems[0].Message, c.says)
	}
	styled := block("button", func(b *page.Block) { b.Style.Buttons.Text = "red}" })
	_, err := page.Tidy(document(styled))
	assert.ErrorContains(t, err, "not a colour code")
}

func TestABlockHoldsItsOwnKindAndOneLeadOnly(t *testing.T) {
	both := block("button", func(b *page.Block) {
		b.Heading = &page.Heading{Text: strings.Repeat("x", 999)}
		b.Button.Icon, b.Button.Emoji = &page.Icon{Set: "signs", Name: "camera"}, "🏺"
	})
	tidy, err := page.Tidy(document(both))
	require.NoError(t, err)
	assert.Nil(t, tidy.Blocks[0].Heading)
	assert.NotNil(t, tidy.Blocks[0].Button.Picture)
	assert.Nil(t, tidy.Blocks[0].Button.Icon)
	assert.Empty(t, tidy.Blocks[0].Button.Emoji)
}

func TestKeysOfIconsAndFooterAreTakenFromBlocks(t *testing.T) {
	for _, key := range []string{page.IconsKey, page.FooterKey} {
		_, err := page.Tidy(document(button(key, "A")))
		assert.ErrorContains(t, err, "no key of its own")
	}
}

func TestWhatCanBePressedIsFoundByKeyAndItem(t *testing.T) {
	doc := pagetest.Everything()
	for _, c := range []struct {
		key, item, leads string
		place            int
	}{
		{"button", "", "https://quarrow.example/dates", 1},
		{"contact", "", "", 2},
		{"text", "1", "https://quarrow.example/film", 4},
		{"pictures", "bowl", "https://shop.quarrow.example/bowl", 7},
		{"file", "", "/files/" + strings.Repeat("9", 64) + ".bin/glaze%20recipes.pdf", 8},
		{page.IconsKey, "loft", "https://photoloft.example/quarrowclay", 0},
		{page.FooterKey, "privacy", "https://quarrow.example/privacy", 0},
	} {
		target, ok := doc.Targets(audience.Audience{}).Find(c.key, c.item)
		require.True(t, ok, c.key)
		assert.Equal(t, c.leads, target.Address)
		assert.Equal(t, c.place, target.Place, c.key)
	}
	for _, none := range [][2]string{{"heading", ""}, {"text", "2"}, {"pictures", "kiln"}, {"button", "x"}, {"nobody", ""}} {
		_, ok := doc.Targets(audience.Audience{}).Find(none[0], none[1])
		assert.False(t, ok, none)
	}
	doc.Blocks[0].Shown = false
	_, ok := doc.Targets(audience.Audience{}).Find("button", "")
	assert.False(t, ok, "what is hidden is not found")
	var keys []string
	for _, row := range doc.Rows() {
		keys = append(keys, row.Key)
	}
	want := []string{
		"icons", "contact", "text", "pictures", "file", "offer", "player", "signup", "payment", "booking", "place", "dates", "code", "footer",
	}
	assert.Equal(t, want, keys, "figures are kept of what can be pressed")
}

// Source: ISO 4217 (minor units: none for JPY, three for KWD) and CLDR, which
// the library carries: where a language puts the sign and what it parts with.
func TestPricesAreWrittenAsTheLanguageOfThePageWritesThem(t *testing.T) {
	for _, c := range []struct{ amount, currency, language, want string }{
		{"24.50", "EUR", "en", "€24.50"},
		{"24.5", "EUR", "de", "24,50\u00a0€"},
		{"24", "EUR", "en", "€24"},
		{"1234.5", "GBP", "en", "£1,234.50"},
		{"1200", "JPY", "en", "¥1,200"},
		{"1.234", "KWD", "en", "KWD\u00a01.234"},
		{"12", "CHF", "de-CH", "CHF\u00a012"},
		{"", "EUR", "en", ""},
		{"x", "EUR", "en", ""},
	} {
		offer := page.Offer{Amount: c.amount, Currency: c.currency}
		assert.Equal(t, c.want, offer.Price(c.language), "%s %s in %s", c.amount, c.currency, c.language)
	}
}

func TestAFileTellsWhatItIsBeforehand(t *testing.T) {
	for want, file := range map[string]page.File{
		"PDF, 120 kB": {Media: "x", Name: "recipes.pdf", Bytes: 120_400},
		"ZIP, 3.2 MB": {Media: "x", Name: "a.b.zip", Bytes: 3_200_000},
		"1 kB":        {Media: "x", Name: "recipes", Bytes: 10},
		"EPUB":        {Address: "https://quarrow.example/book.epub?x=1"},
		"":            {Address: "https://quarrow.example/book"},
	} {
		assert.Equal(t, want, file.About())
	}
}

func TestAllFilesOfAPageAreNamedByTheirPlace(t *testing.T) {
	media := pagetest.Everything().Media()
	for _, where := range []string{
		"header/picture", "header/cover", "icons/items/1/icon", "blocks/0/button/picture", "blocks/6/pictures/items/0/picture",
		"blocks/6/pictures/items/1/picture", "blocks/7/file/media", "blocks/8/offer/picture", "blocks/9/quote/picture",
	} {
		assert.NotEmpty(t, media[where], where)
	}
	assert.Len(t, media["header/picture"], 3, "each size and the original")
}

func TestAPastedLineBecomesABlockOfTheRightKind(t *testing.T) {
	for given, want := range map[string]page.Kind{
		"https://kiln.example/": "button", "https://kiln.example/a.pdf": "file", "+44 20 7946 0018": "contact", "ilse@quarrow.example": "contact",
		"mailto:ilse@quarrow.example?subject=x": "button", "sms:+442079460018": "contact",
	} {
		block, ok := page.FromPaste("aaaa", paste.Read(given)[0])
		require.True(t, ok, given)
		assert.Equal(t, want, block.Kind, given)
		tidy, err := page.Tidy(document(block))
		require.NoError(t, err, given)
		assert.Equal(t, page.Kind(want), tidy.Blocks[0].Kind)
	}
	_, ok := page.FromPaste("aaaa", paste.Entry{Kind: paste.Nobody})
	assert.False(t, ok)
	assert.Equal(t, []string{"button"}, pagetest.Everything().LeadsTo("https://QUARROW.example/dates?utm_source=card"))
}

func TestChangesOfEveryPartOfAPageAreSaid(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*page.Document)
		says   string
	}{
		"a second line": {
			func(d *page.Document) { d.Blocks[0].Button.Line = "Twice a year" },
			"The second line of “Kiln dates” becomes “Twice a year”.",
		},
		"a label gone": {func(d *page.Document) { d.Blocks[0].Button.Label = "" }, "The label of “Kiln dates” is taken away."},
		"looks gone":   {func(d *page.Document) { d.Blocks[0].Style = nil }, "“Kiln dates” looks as the page does again."},
		"looks changed": {
			func(d *page.Document) { d.Blocks[0].Style.Buttons.Fill = "bare" },
			"“Kiln dates” has looks of its own that change.",
		},
		"a text": {
			func(d *page.Document) { d.Blocks[3].Text.HTML = "<p>New</p>" },
			"The wording of “New” becomes another one.",
		},
		"a card": {
			func(d *page.Document) { d.Blocks[1].Contact.Card.Phone = "" },
			"The card of “My card” becomes another one.",
		},
		"a description": {
			func(d *page.Document) { d.Blocks[6].Pictures.Items[1].Alt = "Kiln" },
			"The description of picture 2 of “A bowl” becomes “Kiln”.",
		},
		"a price": {func(d *page.Document) { d.Blocks[8].Offer.Amount = "30" }, "The price of “Tea bowl” becomes “30 EUR”."},
		"a profile icon": {
			func(d *page.Document) { d.Icons.Items = d.Icons.Items[:1] },
			"The icon for “Pinmoss” is taken away.",
		},
		"the place of icons": {func(d *page.Document) { d.Icons.Place = "below" }, "The place of the profile icons becomes “below”."},
		"the tags of what leads out": {
			func(d *page.Document) { d.Tagging = page.Tagging{On: true, Campaign: "spring"} },
			"The campaign of links going out is new: “spring”.",
		},
		"the end of the page": {
			func(d *page.Document) { d.Footer.Links[0].Title = "Imprint" },
			"The link “Privacy” is now called “Imprint”.",
		},
		"a theme": {func(d *page.Document) {
			signal, _ := look.FindTheme("signal")
			d.Look, d.Look.Theme = signal.Look, signal.ID
		}, "The look of the page becomes “Signal”."},
		"where an icon leads": {
			func(d *page.Document) { d.Icons.Items[0].Address = "https://xn--tpferei-90a.example/" },
			"The icon for “Photoloft” leads to https://töpferei.example/ instead of https://photoloft.example/quarrowclay.",
		},
		"the order of icons": {
			func(d *page.Document) { slices.Reverse(d.Icons.Items) }, "The order of the profile icons changes.",
		},
		"where a link at the end leads": {
			func(d *page.Document) { d.Footer.Links[0].Address = "https://quarrow.example/imprint" },
			"The link “Privacy” leads to https://quarrow.example/imprint instead of https://quarrow.example/privacy.",
		},
		"a colour":     {func(d *page.Document) { d.Look.Text = "#000000" }, "The look of the page changes."},
		"the language": {func(d *page.Document) { d.Language = "de" }, "The language becomes “de”."},
		"the cover":    {func(d *page.Document) { d.Header.Cover = nil }, "The cover picture is taken away."},
		"another kind": {func(d *page.Document) {
			d.Blocks[2] = page.Block{Key: "heading", Kind: "space", Shown: true, Space: &page.Space{Height: 8}}
		}, "“space” becomes a space; it was a heading."},
	} {
		live, next := pagetest.Everything(), pagetest.Everything()
		c.change(&next)
		assert.Contains(t, words(page.Changes(&live, next)), c.says, name)
	}
}

func TestWhatNobodySeesIsNoChange(t *testing.T) {
	for name, change := range map[string]func(d *page.Document){
		"another theme with the same look": func(d *page.Document) { d.Look.Theme = "another" },
		"a background that was tried": func(d *page.Document) {
			d.Look.Ground.Gradient = &look.Gradient{Colours: []string{"#000000", "#ffffff"}}
			d.Look.Ground.Pattern = &look.Pattern{Name: "dots", Ink: "#000000", Scale: 100}
		},
	} {
		live, next := pagetest.Everything(), pagetest.Everything()
		live.Look, next.Look = look.Default(), look.Default()
		change(&next)
		assert.Empty(t, page.Changes(&live, next), name)
	}
}

func FuzzTidy(f *testing.F) {
	whole, _ := json.Marshal(pagetest.Everything())
	f.Add(whole)
	f.Add(
		[]byte(
			`{"blocks":[{"key":"aaaa","kind":"pictures","pictures":{"items":[{}]}},{"kind":"contact","contact":{"way":"app"}}],
			"look":{"ground":{"kind":"film"}}}`,
		),
	)
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() {
			var doc page.Document
			if json.Unmarshal(data, &doc) != nil {
				return
			}
			tidy, err := page.Tidy(doc)
			if err != nil {
				return
			}
			again, err := page.Tidy(tidy)
			if err != nil || len(page.Changes(&tidy, again)) > 0 {
				t.Fatalf("what was stored is stored anew as something else: %v", err)
			}
			if slices.ContainsFunc(tidy.Blocks, func(b page.Block) bool { return b.Content() == nil }) {
				t.Fatal("a block of no kind was let through")
			}
		})
	})
}
