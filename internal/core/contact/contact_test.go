package contact_test

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/emersion/go-vcard"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
	"jundle/internal/fuzzing"
)

// Source: RFC 6068, section 6.1 (basic examples) and 6.2 (latin-1 and UTF-8):
// the addresses printed there, out of the values they stand for.
func TestMailAsInTheExamplesOfTheRFC(t *testing.T) {
	for _, c := range []struct{ mailbox, subject, text, want string }{
		{"chris@example.com", "", "", "mailto:chris@example.com"},
		{"infobot@example.com", "current-issue", "", "mailto:infobot@example.com?subject=current-issue"},
		{"infobot@example.com", "", "send current-issue", "mailto:infobot@example.com?body=send%20current-issue"},
		{"infobot@example.com", "", "send current-issue\nsend index", "mailto:infobot@example.com?body=send%20current-issue%0D%0Asend%20index"},
		{"gorby%kremvax@example.com", "", "", "mailto:gorby%25kremvax@example.com"},
		{"unlikely?address@example.com", "", "", "mailto:unlikely%3Faddress@example.com"},
		{"Mike&family@example.org", "", "", "mailto:Mike%26family@example.org"},
		{"user@example.org", "café", "", "mailto:user@example.org?subject=caf%C3%A9"},
		{"user@example.org", "", "caffé\n", "mailto:user@example.org?body=caff%C3%A9%0D%0A"},
	} {
		got, err := contact.Mail(c.mailbox, c.subject, c.text)
		require.NoError(t, err, c.want)
		assert.Equal(t, c.want, got)
	}
	_, err := contact.Mail("not a mailbox", "", "")
	assert.Error(t, err)
}

// Source: RFC 3966, section 6 (the international number of its examples), and
// RFC 5724, section 2.5.
func TestNumbersAsInTheExamplesOfTheRFCs(t *testing.T) {
	call, err := contact.Call("+1-201-555-0123")
	require.NoError(t, err)
	assert.Equal(t, "tel:+12015550123", call, "visual separators say nothing (section 3) and are left out")
	text, err := contact.TextMessage("+15105550101", "hello there")
	require.NoError(t, err)
	assert.Equal(t, "sms:+15105550101?body=hello%20there", text)
	for _, wrong := range []string{"", "call me", "+1 555 CLAY", "1"} {
		_, err := contact.Call(wrong)
		assert.Error(t, err, wrong)
	}
}

func TestAnAppIsReachedByItsPattern(t *testing.T) {
	got, err := contact.App("https://chat.example/{number}?text={text}", "+44 20 7946 0018", "A bowl & a lid?")
	require.NoError(t, err)
	assert.Equal(t, "https://chat.example/442079460018?text=A%20bowl%20%26%20a%20lid%3F", got)
	for _, pattern := range []string{"https://chat.example/", "javascript:alert({number})", "tel:{number}"} {
		_, err := contact.App(pattern, "+44 20 7946 0018", "")
		assert.Error(t, err, pattern)
	}
}

func TestWhatWasWrittenComesBackOutOfTheAddress(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		subject, text := rapid.String().Draw(t, "subject"), rapid.String().Draw(t, "text")
		link, err := contact.Mail("user@example.org", subject, text)
		if err != nil {
			t.Fatal(err)
		}
		_, query, _ := strings.Cut(link, "?")
		fields, err := url.ParseQuery(query)
		if err != nil {
			t.Fatalf("%q: %v", link, err)
		}
		lines := func(s string) string { return strings.ReplaceAll(s, "\r\n", "\n") }
		if fields.Get("subject") != strings.ReplaceAll(lines(subject), "\n", "\r\n") || lines(fields.Get("body")) != lines(text) {
			t.Fatalf("%q and %q became %q", subject, text, link)
		}
	})
}

// Source: RFC 6350, section 3.4 (escaping), 6.2.1 (FN), 6.4.1 (the example
// TEL;VALUE=uri) and 6.7.2 (the NOTE of its example, with its escapes).
func TestACardIsWrittenAsTheRFCWritesIt(t *testing.T) {
	card := contact.Card{
		Name: "Mr. John Q. Public, Esq.", Organisation: "Quarrow; Clay", Phone: "+1-555-555-5555", Mail: "jqpublic@example.com",
		Note: "This fax number is operational 0800 to 1715 EST, Mon-Fri.",
	}
	got := card.VCard()
	assert.True(t, strings.HasPrefix(got, "BEGIN:VCARD\r\nVERSION:4.0\r\n"))
	assert.True(t, strings.HasSuffix(got, "END:VCARD\r\n"))
	assert.Contains(t, got, "FN:Mr. John Q. Public\\, Esq.\r\n")
	assert.Contains(t, got, `ORG:Quarrow\; Clay`)
	assert.Contains(t, got, "TEL;VALUE=uri:tel:+15555555555\r\n")
	assert.Contains(t, strings.ReplaceAll(got, "\r\n ", ""), `NOTE:This fax number is operational 0800 to 1715 EST\, Mon-Fri.`)
	assert.NotContains(t, got, "URL:")
}

func TestLinesAreFoldedAndUnfoldToWhatWasWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		note := strings.Join(rapid.SliceOfN(rapid.SampledFrom([]string{"clay", "é", "窯", "🏺", " ", ",", `\`}), 0, 80).Draw(t, "note"), "")
		card := contact.Card{Name: "Ilse", Note: note}.VCard()
		for _, line := range strings.Split(card, "\r\n") {
			if len(line) > 75 {
				t.Fatalf("%q is longer than 75 octets", line)
			}
		}
		unfolded := strings.ReplaceAll(card, "\r\n ", "")
		escaped := strings.NewReplacer(`\`, `\\`, ",", `\,`).Replace(note)
		if note != "" && !strings.Contains(unfolded, "NOTE:"+escaped+"\r\n") {
			t.Fatalf("%q unfolds to %q", note, unfolded)
		}
	})
}

// go-vcard is a reader of others: what it reads is what was written.
func TestACardIsReadBackByAReferenceLibrary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOfN(rapid.RuneFrom([]rune("abc ,;:\\\"é窯🏺")), 1, 60, -1)
		card := contact.Card{
			Name: "x" + text.Draw(t, "name"), Role: text.Draw(t, "role") + "x", Note: "x" + text.Draw(t, "note") + "x",
			Mail: "ilse@quarrow.example", Phone: "+44 20 7946 0018",
		}
		read, err := vcard.NewDecoder(strings.NewReader(card.VCard())).Decode()
		if err != nil {
			t.Fatalf("%q: %v", card.VCard(), err)
		}
		got := []string{
			read.Value("VERSION"), read.PreferredValue(vcard.FieldFormattedName), read.Value(vcard.FieldTitle),
			read.Value(vcard.FieldNote), read.Value(vcard.FieldEmail), read.Value(vcard.FieldTelephone),
		}
		want := []string{"4.0", card.Name, card.Role, card.Note, card.Mail, "tel:+442079460018"}
		if !slices.Equal(got, want) {
			t.Fatalf("%q came back as %q", want, got)
		}
	})
}

func TestACardThatCannotBeSaysWhichFieldAndWhy(t *testing.T) {
	var problems invalid.List
	card := contact.Card{Phone: "call me", Mail: "ilse", Web: "javascript:alert(1)", Note: "a\r\nb"}
	card.Tidy(&problems, "card")
	where := []string{}
	for _, problem := range problems {
		where = append(where, problem.Where)
	}
	assert.Equal(t, []string{"card/name", "card/phone", "card/mail", "card/web"}, where)
	assert.Equal(t, "a\nb", card.Note)
}

func ExampleMail() {
	address, _ := contact.Mail("commissions@quarrow.example", "A commission", "A bowl, please")
	fmt.Println(address)
	// Output: mailto:commissions@quarrow.example?subject=A%20commission&body=A%20bowl%2C%20please
}

func FuzzApp(f *testing.F) {
	f.Add("https://chat.example/{number}?text={text}", "+44 20 7946 0018", "hello")
	f.Fuzz(func(t *testing.T, pattern, number, text string) {
		fuzzing.Bounded(t, func() {
			if link, err := contact.App(pattern, number, text); err == nil && !strings.HasPrefix(link, "http") {
				t.Fatalf("%q led to %q", pattern, link)
			}
		})
	})
}
