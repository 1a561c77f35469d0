package page

import (
	"fmt"

	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/oembed"
	"jundle/internal/core/picture"
)

// Player is a film or a sound that is kept elsewhere: its picture, and at a press its
// player. Before it is pressed, nothing is asked of where it is kept.
type Player struct {
	Title         string           `json:"title" spoken:"line" doc:"At most 120 characters."`
	Address       string           `json:"address" doc:"Of the page it is on."`
	DestinationID string           `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
	Provider      string           `json:"provider,omitempty" doc:"Who plays it, as visitors read it; at most 60 characters."`
	Still         *picture.Picture `json:"still,omitempty" doc:"A picture of it."`
	Frame         string           `json:"frame,omitempty" doc:"Address of the player, on the same site; a press leads to the page without."`
	Width         int              `json:"width,omitempty" doc:"Of the player, 0 to 4096; 0 for as wide as the page."`
	Height        int              `json:"height,omitempty" doc:"Of the player, 0 to 4096; 0 for the shape of a wide film."`
}

func (p *Player) name() string { return p.Title }

func (p *Player) nameAfterTarget() { fill(&p.Title, nameOf(p.Address)) }

func (p *Player) tidy(problems *invalid.List, where string) {
	p.Title = problems.Line(where+"/title", "The title", p.Title, MaxTitle)
	p.Provider = problems.Line(where+"/provider", "Who plays it", p.Provider, 60)
	p.Address = tidyAddress(problems, where+"/address", p.Address, false)
	p.Still.Tidy(problems, where+"/still")
	problems.Range(where+"/width", "The width of the player", p.Width, 0, 4096)
	problems.Range(where+"/height", "The height of the player", p.Height, 0, 4096)
	if p.Height == 0 {
		p.Width = 0
	}
	if p.Frame = tidyAddress(problems, where+"/frame", p.Frame, true); p.Frame != "" && !oembed.MayShow(p.Address, p.Frame) {
		// Not a fault of whoever typed another address: it waits to be asked about.
		p.Frame, p.Width, p.Height = "", 0, 0
	}
}

// Measures implements Measured: its shape, or its height where it is as wide as the page.
func (p *Player) Measures() []Measure {
	switch {
	case p.Height == 0:
		return nil
	case p.Width == 0:
		return []Measure{{"tall", pixels(p.Height)}}
	}
	return []Measure{{"shape", fmt.Sprintf("%d/%d", p.Width, p.Height)}}
}

func (p *Player) targets() []Target {
	return []Target{{Name: p.Title, Address: p.Address, DestinationID: p.DestinationID, Frame: p.Frame}}
}

func (p *Player) links(visit func(link Link)) { visit(Link{&p.Address, &p.DestinationID, p.Title}) }

func (p *Player) pictures(visit func(where string, p *picture.Picture)) { visit("still", p.Still) }

func (p *Player) files() map[string]string { return nil }

// Texts implements Content.
func (p *Player) Texts(language string) (headings, text string) {
	return "", p.Title + p.Provider + locale.Of(language).Letters("play")
}

func (p *Player) facts() []fact {
	return []fact{{"picture", pictureValue(p.Still)}, {"who plays it", p.Provider}, {"player", p.Frame}}
}
