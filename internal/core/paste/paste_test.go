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
		"https://kiln.example/dates":                 {paste.Web, "", "https://kiln.example/dates"},
		"kiln.example":                               {paste.Web, "", "https://kiln.example/"},
		"kiln.example/dates?x=1":                     {paste.Web, "", "https://kiln.example/dates?x=1"},
		"Kiln dates https://kiln.example/dates":      {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates: kiln.example/dates":             {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"https://kiln.example/dates Kiln dates":      {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates\thttps://kiln.example/dates":     {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"Kiln dates | https://kiln.example/dates":    {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"[Kiln dates](https://kiln.example/dates)":   {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"- [Kiln dates](kiln.example/dates)":         {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"2. Kiln dates – https://kiln.example/dates": {paste.Web, "Kiln dates", "https://kiln.example/dates"},
		"https://kiln.example/recipes.pdf":           {paste.File, "", "https://kiln.example/recipes.pdf"},
		"https://kiln.example/a.PDF?download=1":      {paste.File, "", "https://kiln.example/a.PDF?download=1"},
		"https://kiln.example.pdf/":                  {paste.Web, "", "https://kiln.example.pdf/"},
		"ilse@quarrow.example":                       {paste.Mail, "", "mailto:ilse@quarrow.example"},
		"Write to me: ilse@quarrow.example":          {paste.Mail, "Write to me", "mailto:ilse@quarrow.example"},
		"Ilse <ilse@quarrow.example>":                {paste.Mail, "Ilse", "mailto:ilse@quarrow.example"},
		"+44 20 7946 0018":                           {paste.Phone, "", "tel:+442079460018"},
		"Ring me (020) 7946-0018":                    {paste.Phone, "Ring me", "tel:02079460018"},
		"tel:+44-20-7946-0018":                       {paste.Phone, "", "tel:+442079460018"},
	} {
		entries := paste.Read(given)
		require.Len(t, entries, 1, given)
		assert.Equal(t, want.kind, entries[0].Kind, given)
		assert.Equal(t, want.title, entries[0].Title, given)
		assert.Equal(t, want.link, entries[0].Link.URL, given)
	}
}

func TestSeveralLinesAreReadAtOnceWithTitlesBeforeTheirAddresses(t *testing.T) {
	entries := paste.Read("Kiln dates\nhttps://kiln.example/dates\r\n\nSeconds sale\nshop.quarrow.example/seconds\nno address here\nilse@quarrow.example\nin the end nothing\n")
	var said []string
	for _, entry := range entries {
		said = append(said, fmt.Sprintf("%s %s (%s)", entry.Kind, entry.Link.URL, entry.Title))
	}
	assert.Equal(t, []string{
		"web https://kiln.example/dates (Kiln dates)", "web https://shop.quarrow.example/seconds (Seconds sale)",
		"mail mailto:ilse@quarrow.example (no address here)", "not understood  ()",
	}, said)
	assert.Contains(t, entries[3].Says, "no address")
}

func TestWhatMayNotBeLinkedIsToldWhy(t *testing.T) {
	for _, given := range []string{"javascript:alert(1)", "data:text/html,x", "file:///etc/passwd"} {
		entries := paste.Read("Good\nhttps://kiln.example/\n" + given)
		require.Len(t, entries, 2, given)
		assert.Equal(t, paste.Nobody, entries[1].Kind)
		assert.Contains(t, entries[1].Says, "https, http, mailto, tel or sms")
	}
}

func TestNamesAreMadeFromWhatIsKnown(t *testing.T) {
	for given, want := range map[string]string{
		"https://kiln.example/glaze-recipes_2026.pdf": "Glaze recipes 2026", "https://www.kiln.example/": "kiln.example",
		"+44 20 7946 0018": "+442079460018", "ilse@quarrow.example": "ilse@quarrow.example", "Dates https://kiln.example/": "Dates",
		"https://kiln.example/.pdf": ".pdf",
	} {
		assert.Equal(t, want, paste.Read(given)[0].Name(), given)
	}
}

func TestAVeryLongListIsCutWithAWordAboutIt(t *testing.T) {
	entries := paste.Read(strings.Repeat("https://kiln.example/\n", 300))
	assert.Len(t, entries, paste.MaxLines+1)
	assert.Contains(t, entries[paste.MaxLines].Says, "more than 100")
}

func FuzzRead(f *testing.F) {
	f.Add("Kiln dates\nhttps://kiln.example/dates\n+44 20 7946 0018\n[x](y)")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			for _, entry := range paste.Read(text) {
				if entry.Kind == paste.Nobody {
					if entry.Says == "" {
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
