// Package letters writes what is sent to people by e-mail: what it says, as plain text and as HTML
// of the same words. It knows neither who is written to nor where figures come from.
package letters

import (
	"cmp"
	"embed"
	"fmt"
	"html/template"
	"strings"
	texttemplate "text/template"

	"jundle/internal/core/locale"
	"jundle/internal/mail"
)

//go:embed templates/*.gohtml templates/*.gotxt
var files embed.FS

var (
	html = template.Must(template.New("letter.gohtml").Funcs(template.FuncMap{"dir": locale.Direction}).
		ParseFS(files, "templates/letter.gohtml"))
	text = texttemplate.Must(texttemplate.New("letter.gotxt").Funcs(texttemplate.FuncMap{"underline": underline, "column": column}).
		ParseFS(files, "templates/letter.gotxt"))
)

// Letter is what one says.
type Letter struct {
	// Language is the BCP 47 tag of what it says; English where it is empty.
	Language string
	// From is in whose name it is written; empty for ours.
	From    string
	Subject string
	// Lead is the first thing to be read.
	Lead       string
	Paragraphs []string
	Action     *Link
	Sections   []Section
	// Small is why it came, and what to do about it.
	Small []string
	// Off is where a person switches letters of its kind off, and where their mail program does so
	// by one POST (RFC 8058); empty where they cannot be switched off.
	Off string
}

// Link is an address to go to.
type Link struct{ Label, Address string }

// Section is a part with figures, of one page.
type Section struct {
	Title  string
	Facts  []Fact
	Notice string
	Lists  []List
	Link   *Link
}

// Fact is one figure.
type Fact struct{ Name, Value, Note string }

// List is a short table: names, and a figure to each.
type List struct {
	Title string
	Rows  []Fact
}

// To addresses a letter.
func (l Letter) To(address string) (mail.Message, error) {
	l.Language = cmp.Or(l.Language, "en")
	message := mail.Message{To: address, From: l.From, Subject: l.Subject, Off: l.Off}
	var plain, marked strings.Builder
	if err := text.ExecuteTemplate(&plain, "letter.gotxt", l); err != nil {
		return message, fmt.Errorf("write a letter: %w", err)
	}
	if err := html.ExecuteTemplate(&marked, "letter.gohtml", l); err != nil {
		return message, fmt.Errorf("write a letter: %w", err)
	}
	message.Text, message.HTML = plain.String(), marked.String()
	return message, nil
}

func underline(title string) string { return strings.Repeat("-", len([]rune(title))) }

// column pads a name so that figures stand below each other.
func column(name string) string {
	const width = 34
	runes := []rune(name)
	if len(runes) > width {
		return string(runes[:width-1]) + "…"
	}
	return name + strings.Repeat(" ", width-len(runes))
}
