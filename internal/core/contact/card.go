package contact

import (
	"strings"
	"unicode/utf8"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
)

// Card is what a contact card says. Every field may be empty but the name.
type Card struct {
	Name         string `json:"name" doc:"In full, as it is said."`
	Organisation string `json:"organisation,omitempty"`
	Role         string `json:"role,omitempty"`
	Phone        string `json:"phone,omitempty"`
	Mail         string `json:"mail,omitempty"`
	Web          string `json:"web,omitempty"`
	Place        string `json:"place,omitempty" doc:"Postal address, with line breaks."`
	Note         string `json:"note,omitempty"`
}

// Tidy puts the card into the form it is stored in.
func (c *Card) Tidy(problems *invalid.List, where string) {
	const limit = 120
	c.Name = problems.Line(where+"/name", "The name on the card", c.Name, limit)
	if c.Name == "" {
		problems.Add(where+"/name", "A contact card needs a name.")
	}
	c.Organisation = problems.Line(where+"/organisation", "The organisation", c.Organisation, limit)
	c.Role = problems.Line(where+"/role", "The role", c.Role, limit)
	c.Phone = problems.Line(where+"/phone", "The number", c.Phone, limit)
	c.Mail = problems.Line(where+"/mail", "The e-mail address", c.Mail, limit)
	c.Web = problems.Line(where+"/web", "The web address", c.Web, address.MaxLinkLength)
	c.Place = problems.Lines(where+"/place", "The postal address", c.Place, 300)
	c.Note = problems.Lines(where+"/note", "The note", c.Note, 500)
	for _, field := range []struct {
		name, value string
		check       func(string) error
	}{
		{"phone", c.Phone, func(number string) error { _, err := Call(number); return err }},
		{"mail", c.Mail, func(mailbox string) error { _, err := Mail(mailbox, "", ""); return err }},
		{"web", c.Web, func(web string) error { _, err := address.ParseLink(web); return err }},
	} {
		if field.value == "" {
			continue
		}
		if err := field.check(field.value); err != nil {
			problems.Add(where+"/"+field.name, "%s", err.Error())
		}
	}
}

// VCard writes the card as a vCard 4.0. Source: RFC 6350; the order of lines is
// BEGIN, VERSION, then as in the struct (only the first two places are laid
// down, section 3.3), lines are folded at 75 octets (section 3.2) and text is
// escaped (section 3.4).
func (c Card) VCard() string {
	lines := []string{"BEGIN:VCARD", "VERSION:4.0", "FN:" + escapeText(c.Name)}
	add := func(name, value string) {
		if value != "" {
			lines = append(lines, name+value)
		}
	}
	add("ORG:", escapePart(c.Organisation))
	add("TITLE:", escapeText(c.Role))
	if phone, err := Call(c.Phone); err == nil && c.Phone != "" {
		add("TEL;VALUE=uri:", phone)
	}
	add("EMAIL:", escapeText(c.Mail))
	if web, err := address.ParseLink(c.Web); err == nil {
		add("URL:", web.URL)
	}
	if c.Place != "" {
		// The whole address goes into the street component: a creator writes it
		// as on an envelope, and nobody can tell its parts apart for sure.
		add("ADR:", ";;"+escapePart(c.Place)+";;;;")
	}
	add("NOTE:", escapeText(c.Note))
	lines = append(lines, "END:VCARD")
	var out strings.Builder
	for _, line := range lines {
		fold(&out, line)
	}
	return out.String()
}

var textEscapes = strings.NewReplacer(`\`, `\\`, ",", `\,`, "\r\n", `\n`, "\n", `\n`)

func escapeText(text string) string { return textEscapes.Replace(text) }

// escapePart is escapeText for one part of a value that has several, with
// semicolons between them. Elsewhere a semicolon may stand as it is, which more
// programs read.
func escapePart(text string) string { return strings.ReplaceAll(escapeText(text), ";", `\;`) }

// fold writes a line in pieces of at most 75 octets, never inside a character.
func fold(out *strings.Builder, line string) {
	limit := 75
	for len(line) > limit {
		at := limit
		for !utf8.RuneStart(line[at]) {
			at--
		}
		out.WriteString(line[:at] + "\r\n ")
		line = line[at:]
		limit = 74 // the blank that begins a continuation counts
	}
	out.WriteString(line + "\r\n")
}
