package render

import (
	"html/template"
	"strings"

	"jundle/internal/core/locale"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
)

// Gate is what stands before a page or a block.
type Gate struct {
	// Title is what it stands before, Text what is said, Wrong why one is still here.
	Title, Text, Wrong string
	// Passcode: one is asked for.
	Passcode bool
	// Language is that of the page.
	Language string
}

// GatePage draws a gate in the looks of its page: a plain form that posts to where it
// stands, without script. What it leads to may be anywhere, so the policy does not bind
// where forms lead.
func GatePage(looks look.Look, gate Gate) (html []byte, policy string, err error) {
	bare := page.New()
	bare.Look = looks
	said := locale.Of(gate.Language).Letters("passcode", "open", "go_on")
	sheet := Style(bare, Characters{headings: gate.Title, text: gate.Text + gate.Wrong + said})
	html, err = execute("gate", struct {
		Gate
		Style  template.CSS
		Ground template.HTML
	}{gate, template.CSS(sheet), template.HTML(groundHTML(looks.Sound()))}) //nolint:gosec // written by Style and groundHTML
	return html, strings.Replace(ContentSecurityPolicy(sheet), "; form-action 'none'", "", 1), err
}
