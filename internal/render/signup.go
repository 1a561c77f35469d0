package render

import (
	"html/template"
	"strings"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
)

// SignUpForm is a form on which somebody leaves an e-mail address, as it is drawn.
type SignUpForm struct {
	page.SignUp
	// ID is that of its field, and Own the class of its block with a blank before it.
	ID, Own, Corners string
	// Action is where it is sent; empty where it cannot be.
	Action   string
	Language string
	// Lang is the language that the page is read in; empty for a page in one language.
	Lang string
	// Address and Agreed are what was filled in before, and Wrong what is wrong about it.
	Address, Wrong string
	Agreed         bool
}

// Form is that of a block.
func (v blockView) Form() SignUpForm {
	content, _ := v.C.(*page.SignUp)
	return SignUpForm{
		SignUp: *content, ID: "at-" + v.Key, Own: v.Own, Corners: v.Corners, Language: v.Language, Action: v.painter.link(v.Key, ""),
		Lang: v.painter.visit.Reads,
	}
}

// SignUpPage is what is answered to whoever signs up, pays or asks for a time: the form once more, or what came of it.
type SignUpPage struct {
	Language    string
	Title, Text string
	// Lines are said below Text, without those that are empty, and Wrong what is wrong.
	Lines []string
	Wrong string
	Links []Link
	// Form, Pay or Book is shown in place of all that; nil for none.
	Form *SignUpForm
	Pay  *PaymentForm
	Book *BookingForm
	// Leads are the hosts that its form may lead on to.
	Leads []string
	// Choices are buttons of a form that is sent to the address it is on.
	Choices []Choice
	// Back is the address of the page; empty for nowhere.
	Back string
}

// Choice is a button, and what is sent for it.
type Choice struct {
	Words, Does string
	// Plain: it looks like a link.
	Plain bool
}

// Link is an address to go to.
type Link struct{ Words, Address string }

// SignUp draws it in the looks of its page, and returns the policy to serve it with.
func SignUp(looks look.Look, shown SignUpPage) (html []byte, policy string, err error) {
	bare := page.New()
	bare.Look = looks
	words := Characters{headings: shown.Title, text: shown.Text + strings.Join(shown.Lines, "") + shown.Wrong}
	if shown.Form != nil {
		words = Characters{headings: shown.Form.Title, text: shown.Form.Text + shown.Form.Consent}
	}
	if shown.Pay != nil {
		words.headings, words.text = shown.Pay.Texts(shown.Language)
	}
	if shown.Book != nil {
		words.headings, words.text = shown.Book.Texts(shown.Language)
		words.text += shown.Book.letters()
	}
	for _, link := range shown.Links {
		words.text += link.Words
	}
	for _, choice := range shown.Choices {
		words.text += choice.Words
	}
	sheet := Style(bare, words) + formStyle + kindStyles["payment"] + kindStyles["booking"]
	html, err = execute("signup_page", struct {
		SignUpPage
		Style  template.CSS
		Ground template.HTML
	}{shown, template.CSS(sheet), template.HTML(groundHTML(looks.Sound()))}) //nolint:gosec // written by Style and groundHTML
	return html, policyFor(sheet, needs{forms: true, pays: shown.Leads}), err
}
