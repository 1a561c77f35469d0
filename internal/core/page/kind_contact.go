package page

import (
	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
)

// Contact is a way to reach the creator.
type Contact struct {
	Lead
	Title   string        `json:"title" spoken:"line" doc:"At most 120 characters."`
	Line    string        `json:"line,omitempty" spoken:"line" doc:"A second, quieter line; at most 160 characters."`
	Way     string        `json:"way" enum:"call,text,mail,app,card"`
	Number  string        `json:"number,omitempty" doc:"For call, text and app; with country code."`
	Mailbox string        `json:"mailbox,omitempty" doc:"For mail."`
	Subject string        `json:"subject,omitempty" spoken:"line" doc:"For mail; at most 200 characters."`
	Message string        `json:"message,omitempty" spoken:"lines" doc:"For mail, text and app: what is filled in; at most 1,000 characters."`
	Pattern string        `json:"pattern,omitempty" doc:"For app: its address with {number} and {text} in it."`
	Card    *contact.Card `json:"card,omitempty" doc:"For card."`
}

func (c *Contact) name() string { return c.Title }

func (c *Contact) nameAfterTarget() {
	fill(&c.Title, c.Reached())
	if leads, err := c.address(); err == nil {
		fill(&c.Title, nameOf(leads))
	}
	if c.Card != nil {
		fill(&c.Title, c.Card.Name)
	}
}

func (c *Contact) tidy(problems *invalid.List, where string) {
	c.Lead.tidy(problems, where)
	c.Title = problems.Line(where+"/title", "The title", c.Title, MaxTitle)
	c.Line = problems.Line(where+"/line", "The second line", c.Line, MaxSecond)
	c.Way = invalid.Choice(problems, where+"/way", "way to reach somebody", c.Way, "call", "text", "mail", "app", "card")
	c.Number = problems.Line(where+"/number", "The number", c.Number, 40)
	c.Mailbox = problems.Line(where+"/mailbox", "The e-mail address", c.Mailbox, 254)
	c.Subject = problems.Line(where+"/subject", "The subject", c.Subject, 200)
	c.Message = problems.Lines(where+"/message", "The text", c.Message, 1000)
	c.Pattern = problems.Line(where+"/pattern", "The pattern", c.Pattern, 300)
	if c.Way == "card" {
		if c.Card == nil {
			c.Card = &contact.Card{Name: c.Title}
		}
		c.Card.Tidy(problems, where+"/card")
		return
	}
	if _, err := c.address(); err != nil {
		field := map[string]string{"mail": "mailbox", "app": "pattern"}[c.Way]
		if _, wrong := contact.Call(c.Number); field == "" || c.Way == "app" && wrong != nil {
			field = "number"
		}
		problems.Add(where+"/"+field, "%s", err.Error())
	}
}

// address is where the block leads; empty for a card.
func (c *Contact) address() (string, error) {
	switch c.Way {
	case "call":
		return contact.Call(c.Number)
	case "text":
		return contact.TextMessage(c.Number, c.Message)
	case "mail":
		return contact.Mail(c.Mailbox, c.Subject, c.Message)
	case "app":
		return contact.App(c.Pattern, c.Number, c.Message)
	}
	return "", nil
}

// Reached is what a visitor who cannot press may read instead: the number or
// the mailbox.
func (c *Contact) Reached() string {
	switch c.Way {
	case "call", "text":
		return c.Number
	case "mail":
		return c.Mailbox
	}
	return ""
}

// links are none: the address is made of what is reached.
func (c *Contact) links(func(link Link)) {}

func (c *Contact) targets() []Target {
	if c.Way == "card" {
		return []Target{{Name: c.Title, Card: c.Card}}
	}
	leads, err := c.address()
	if err != nil {
		return nil
	}
	return []Target{{Name: c.Title, Address: leads}}
}

// Texts implements Content.
func (c *Contact) Texts(string) (headings, text string) { return "", c.Title + c.Line + c.Reached() }

func (c *Contact) facts() []fact {
	facts := append(c.Lead.facts(), fact{"second line", c.Line}, fact{"way", c.Way})
	if c.Card != nil && c.Way == "card" {
		facts = append(facts, fact{"card", c.Card.VCard()})
	}
	return facts
}
