package paste_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/address"
	"jundle/internal/core/paste"
	"jundle/internal/fuzzing"
)

func TestOneLineBecomesTheRightKindWithItsTitle(t *testing.T) {
	for given, want := range map[string]struct {
		kind        paste.Kind
		title, link string
	}{
		"https://kiln.example/dates":                                           {paste.Web, "", "https://kiln.example/dates"},
		"kiln.example":                                                         {paste.Web, "", "https://kiln.example/"},
		"kiln.example/dates?x=1":                                               {paste.Web, "", "https://kiln.example/dates?x=1"},
		"Kiln dates https://kiln.example/dates":                                {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates: kiln.example/dates":                                       {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"https://kiln.example/dates Kiln dates":                                {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates\thttps://kiln.example/dates":                               {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates | https://kiln.example/dates":                              {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"[Kiln dates](https://kiln.example/dates)":                             {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"- [Kiln dates](kiln.example/dates)":                                   {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"2. Kiln dates – https://kiln.example/dates":                           {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"https://kiln.example/recipes.pdf":                                     {paste.File, "", "https://kiln.example/recipes.pdf"},
		"https://kiln.example/a.PDF?download=1":                                {paste.File, "", "https://kiln.example/a.PDF?download=1"},
		"https://kiln.example.pdf/":                                            {paste.Web, "", "https://kiln.example.pdf/"},
		"ilse@quarrow.example":                                                 {paste.Mail, "", "mailto:ilse@quarrow.example"},
		"Write to me: ilse@quarrow.example":                                    {paste.Mail, "Write to me", "mailto:ilse@quarrow.example"},
		"Ilse <ilse@quarrow.example>":                                          {paste.Mail, "Ilse", "mailto:ilse@quarrow.example"},
		"+44 20 7946 0018":                                                     {paste.Phone, "", "tel:+442079460018"},
		"Ring me (020) 7946-0018":                                              {paste.Phone, "Ring me", "tel:02079460018"},
		"tel:+44-20-7946-0018":                                                 {paste.Phone, "", "tel:+442079460018"},
		"See (https://kiln.example/dates).":                                    {paste.Web, "See", "https://kiln.example/dates"},
		"Kiln dates: https://kiln.example/dates.":                              {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"https://kiln.example/bowl_(tea)":                                      {paste.Web, "", "https://kiln.example/bowl_(tea)"},
		"Open days (kiln.example/open)!":                                       {paste.Web, "Open days", "https://kiln.example/open"},
		"100%: https://kiln.example/?share=50%":                                {paste.Web, "100%", "https://kiln.example/?share=50%"},
		`<a class="x" href="https://kiln.example/?a=1&amp;b=2">Kiln dates</a>`: {paste.Web, "Kiln dates", "https://kiln.example/?a=1&b=2"},
	} {
		entries := paste.Read(given)
		require.Len(t, entries, 1, given)
		assert.Equal(t, want.kind, entries[0].Kind, given)
		assert.Equal(t, want.title, entries[0].Title, given)
		assert.Equal(t, want.link, entries[0].Link.URL, given)
	}
}

func TestALineMayHoldSeveralAddresses(t *testing.T) {
	for given, want := range map[string][]string{
		"Dates https://kiln.example/dates, sale https://kiln.example/sale": {
			"Dates https://kiln.example/dates", "sale https://kiln.example/sale",
		},
		"https://kiln.example/dates https://kiln.example/sale": {" https://kiln.example/dates", " https://kiln.example/sale"},
		"kiln.example/dates, shop.quarrow.example ilse@quarrow.example": {
			" https://kiln.example/dates", " https://shop.quarrow.example/", " mailto:ilse@quarrow.example",
		},
		`<a href=kiln.example>One</a> and <a href='tips.example'>Two</a>`: {"One https://kiln.example/", "Two https://tips.example/"},
	} {
		var read []string
		for _, entry := range paste.Read(given) {
			read = append(read, entry.Title+" "+entry.Link.URL)
		}
		assert.Equal(t, want, read, given)
	}
}

func TestWhatMayBeNoNumberToDialIsUnsure(t *testing.T) {
	for given, unsure := range map[string]bool{
		"+44 20 7946 0018": false, "(020) 7946-0018": false, "Ring me 0041 44 668 18 00": false,
		"VAT no. 123456789": true, "Tax number 0123456789": true, "4711 1234 567": true, "Order 20260517001": true,
	} {
		entries := paste.Read(given)
		require.Len(t, entries, 1, given)
		assert.Equal(t, paste.Phone, entries[0].Kind, given)
		assert.Equal(t, unsure, entries[0].Unsure, given)
	}
	for _, given := range []string{"12.05.2026", "Opening 2026-05-12", "Closed 1/12/2026", "30/11/2026 20:00"} {
		entries := paste.Read(given)
		require.Len(t, entries, 1, given)
		assert.Equal(t, paste.Nobody, entries[0].Kind, "a day is no number to dial: %s", given)
	}
}

func TestWhatComesTwiceIsUnsureTheSecondTime(t *testing.T) {
	entries := paste.Read("Dates https://kiln.example/\nhttps://KILN.example?utm_source=card\nhttps://kiln.example/sale")
	require.Len(t, entries, 3)
	assert.Equal(t, []bool{false, true, false}, []bool{entries[0].Unsure, entries[1].Unsure, entries[2].Unsure})
	assert.Contains(t, entries[1].Message, "“Dates” above leads to the same")
}

func TestSeveralLinesAreReadAtOnceWithTitlesBeforeTheirAddresses(t *testing.T) {
	entries := paste.Read("Kiln dates\nhttps://kiln.example/dates\r\n\nSeconds sale\nshop.quarrow.example/seconds\n" +
		"no address here\nilse@quarrow.example\nin the end nothing\n")
	var said []string
	for _, entry := range entries {
		said = append(said, fmt.Sprintf("%s %s (%s)", entry.Kind, entry.Link.URL, entry.Title))
	}
	assert.Equal(t, []string{
		"web https://kiln.example/dates (Kiln dates)", "web https://shop.quarrow.example/seconds (Seconds sale)",
		"mail mailto:ilse@quarrow.example (no address here)", "not understood  ()",
	}, said)
	assert.Contains(t, entries[3].Message, "no address")
}

func TestWhatMayNotBeLinkedIsToldWhy(t *testing.T) {
	for _, given := range []string{"javascript:alert(1)", "data:text/html,x", "file:///etc/passwd"} {
		entries := paste.Read("Good\nhttps://kiln.example/\n" + given)
		require.Len(t, entries, 2, given)
		assert.Equal(t, paste.Nobody, entries[1].Kind)
		assert.Contains(t, entries[1].Message, "https, http, mailto, tel or sms")
	}
}

func TestNamesAreMadeFromWhatIsKnown(t *testing.T) {
	for given, want := range map[string]string{
		"https://kiln.example/glaze-recipes_2026.pdf": "Glaze recipes 2026", "https://www.kiln.example/": "kiln.example",
		"+44 20 7946 0018": "+442079460018", "ilse@quarrow.example": "ilse@quarrow.example", "Dates https://kiln.example/": "Dates",
		"https://kiln.example/.pdf": ".pdf", "https://kiln.example/über-uns.pdf": "Über uns", "https://kiln.example/a%20b.pdf": "A b",
	} {
		assert.Equal(t, want, paste.Read(given)[0].Name(), given)
	}
}

func TestAVeryLongListIsCutWithAWordAboutIt(t *testing.T) {
	entries := paste.Read(strings.Repeat("https://kiln.example/\n", 300))
	assert.Len(t, entries, paste.MaxLines+1)
	assert.Contains(t, entries[paste.MaxLines].Message, "more than 100")
}

func FuzzRead(f *testing.F) {
	f.Add("Kiln dates\nhttps://kiln.example/dates\n+44 20 7946 0018\n[x](y)")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			for _, entry := range paste.Read(text) {
				if entry.Kind == paste.Nobody {
					if entry.Message == "" {
						t.Fatalf("%q is refused without a reason", entry.Given)
					}
					continue
				}
				if _, err := address.ParseLink(entry.Link.URL); err != nil {
					t.Fatalf("%q became %q: %v", entry.Given, entry.Link.URL, err)
				}
				_ = entry.Name()
			}
		})
	})
}
