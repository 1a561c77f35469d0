package render

import (
	"html/template"
	"strings"

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

// GatePage draws a gate: a plain form that posts to where it stands, without script. What
// it leads to may be anywhere, so the policy does not bind where forms lead.
func GatePage(gate Gate) (html []byte, policy string, err error) {
	sheet := Style(page.New(), Characters{})
	html, err = execute("gate", struct {
		Gate
		Style template.CSS
	}{gate, template.CSS(sheet)}) //nolint:gosec // our own style sheet
	return html, strings.Replace(ContentSecurityPolicy(sheet), "; form-action 'none'", "", 1), err
}
