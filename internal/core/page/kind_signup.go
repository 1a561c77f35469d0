package page

import (
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
)

// SignUp is a form on which visitors leave their e-mail address.
type SignUp struct {
	nothingElse
	Title   string `json:"title" spoken:"line" doc:"At most 120 characters."`
	Text    string `json:"text,omitempty" spoken:"lines" doc:"What they get; at most 300 characters."`
	Button  string `json:"button,omitempty" spoken:"line" doc:"On the button; words of ours when left out. At most 40 characters."`
	Consent string `json:"consent,omitempty" spoken:"lines" doc:"What they agree to; no box to tick when left out. At most 600 characters."`
	Thanks  string `json:"thanks,omitempty" spoken:"lines" doc:"Said once an address is confirmed; at most 300 characters."`
}

// MaxConsent is how long it may be what visitors agree to, in characters.
const MaxConsent = 600

func (s *SignUp) name() string { return s.Title }

func (s *SignUp) tidy(problems *invalid.List, where string) {
	s.Title = problems.Line(where+"/title", "The title", s.Title, MaxTitle)
	s.Text = problems.Lines(where+"/text", "The text", s.Text, 300)
	s.Button = problems.Line(where+"/button", "What stands on the button", s.Button, 40)
	s.Consent = problems.Lines(where+"/consent", "What visitors agree to", s.Consent, MaxConsent)
	s.Thanks = problems.Lines(where+"/thanks", "What is said at the end", s.Thanks, 300)
}

func (s *SignUp) targets() []Target { return []Target{{Name: s.Title, SignUp: s}} }

// Texts implements Content.
func (s *SignUp) Texts(language string) (headings, text string) {
	return s.Title, s.Text + s.Button + s.Consent + locale.Of(language).Letters("sign_up", "your_address")
}

func (s *SignUp) facts() []fact {
	return []fact{
		{"text", s.Text}, {"words on the button", s.Button}, {"what visitors agree to", s.Consent}, {"words at the end", s.Thanks},
	}
}
