package page

import (
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/picture"
)

// CopiedItem is the item of a code under which it is counted that it was copied.
const CopiedItem = "copied"

// Code is a discount code to copy, and where it is good.
type Code struct {
	Title         string `json:"title" spoken:"line" doc:"What it is good for; at most 120 characters."`
	Text          string `json:"text,omitempty" spoken:"lines" doc:"At most 300 characters."`
	Letters       string `json:"letters" doc:"The code itself; at most 40 characters."`
	Address       string `json:"address,omitempty" doc:"Where it is good."`
	DestinationID string `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
	Label         string `json:"label,omitempty" spoken:"line" doc:"Of where it is good; the host when left out. At most 40 characters."`
}

func (c *Code) name() string { return c.Title }

func (c *Code) nameAfterTarget() {
	if c.Address != "" {
		fill(&c.Label, nameOf(c.Address))
	}
}

func (c *Code) tidy(problems *invalid.List, where string) {
	c.Title = problems.Line(where+"/title", "The title", c.Title, MaxTitle)
	c.Text = problems.Lines(where+"/text", "The text", c.Text, 300)
	c.Letters = problems.Line(where+"/letters", "The code", c.Letters, 40)
	c.Label = problems.Line(where+"/label", "What stands on the button", c.Label, 40)
	c.Address = tidyAddress(problems, where+"/address", c.Address, true)
	if c.Letters == "" {
		problems.Add(where+"/letters", "Say the code that people are to type in.")
	}
}

func (c *Code) targets() []Target {
	targets := []Target{{Item: CopiedItem, Name: c.Title, Told: true}}
	if c.Address != "" {
		targets = append(targets, Target{Name: c.Label, Address: c.Address, DestinationID: c.DestinationID})
	}
	return targets
}

func (c *Code) links(visit func(link Link)) { visit(Link{&c.Address, &c.DestinationID, c.Title}) }

func (c *Code) pictures(func(where string, p *picture.Picture)) {}

func (c *Code) files() map[string]string { return nil }

// Texts implements Content.
func (c *Code) Texts(language string) (headings, text string) {
	return "", c.Title + c.Text + c.Letters + c.Label + locale.Of(language).Letters("copy", "copied")
}

func (c *Code) facts() []fact {
	return []fact{{"code", c.Letters}, {"text", c.Text}, {"words on the button", c.Label}}
}
