package contact_test

import (
	"strings"
	"testing"

	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
	"jundle/internal/fuzzing"
)

func FuzzReach(f *testing.F) {
	f.Add("ilse@quarrow.example", "+44 20 7946 0018", "A commission", "Dear Ilse,\nhello")
	f.Add("a?cc=b@c.example", "tel:1;ext=2", "\r\nBcc: x", "%0a")
	f.Fuzz(func(t *testing.T, mailbox, number, subject, text string) {
		fuzzing.Bounded(t, func() {
			for _, make := range []func() (string, error){
				func() (string, error) { return contact.Mail(mailbox, subject, text) },
				func() (string, error) { return contact.Call(number) },
				func() (string, error) { return contact.TextMessage(number, text) },
			} {
				if link, err := make(); err == nil && strings.ContainsAny(link, " \r\n\t\"<>") {
					t.Fatalf("%q", link)
				}
			}
			card := contact.Card{Name: subject}
			var wrong invalid.List
			card.Tidy(&wrong, "card")
			if len(wrong) == 0 && strings.Count(card.VCard(), "BEGIN:VCARD") != 1+strings.Count(card.Name, "BEGIN:VCARD") {
				t.Fatalf("%q", card.VCard())
			}
		})
	})
}
