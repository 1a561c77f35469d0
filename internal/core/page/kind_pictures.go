package page

import (
	"cmp"
	"fmt"
	"strconv"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// MaxPictures is how many pictures one block holds.
const MaxPictures = 24

// Pictures are pictures in columns, each of which may lead somewhere.
type Pictures struct {
	Columns  int           `json:"columns" doc:"1 to 3."`
	Gap      int           `json:"gap" doc:"0 to 24 pixels."`
	Corners  int           `json:"corners" doc:"Radius: 0 to 32 pixels."`
	LastWide bool          `json:"lastWide" doc:"The last one takes the whole width."`
	Items    []PictureItem `json:"items" nullable:"false" doc:"At most 24."`
}

// PictureItem is one of them.
type PictureItem struct {
	Key           string           `json:"key" doc:"What its clicks are kept under; never changes."`
	Picture       *picture.Picture `json:"picture,omitempty"`
	Alt           string           `json:"alt" spoken:"line" doc:"What is on it, for whom cannot see it; at most 300 characters."`
	Address       string           `json:"address,omitempty"`
	DestinationID string           `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
}

func (p *Pictures) name() string {
	for _, item := range p.Items {
		if item.Alt != "" {
			return item.Alt
		}
	}
	return "pictures"
}

func (p *Pictures) derivesName() {}

// Measures implements Measured.
func (p *Pictures) Measures() []Measure {
	return []Measure{{"columns", strconv.Itoa(p.Columns)}, {"gap", pixels(p.Gap)}, {"corners", pixels(p.Corners)}}
}

func (p *Pictures) tidy(problems *invalid.List, where string) {
	problems.Range(where+"/columns", "The number of columns", p.Columns, 1, 3)
	problems.Range(where+"/gap", "The gap", p.Gap, 0, 24)
	problems.Range(where+"/corners", "The radius of the corners", p.Corners, 0, 32)
	keys := make([]string, len(p.Items))
	for i := range p.Items {
		item, at := &p.Items[i], fmt.Sprintf("%s/items/%d", where, i)
		keys[i] = item.Key
		if item.Picture == nil {
			problems.Add(at+"/picture", "Picture %d is missing. Choose one, or take the place away.", i+1)
		}
		item.Picture.Tidy(problems, at+"/picture")
		item.Alt = problems.Line(at+"/alt", "The description of a picture", item.Alt, picture.MaxAlt)
		item.Address = tidyAddress(problems, at+"/address", item.Address, true)
	}
	tidyItems(problems, where+"/items", "pictures", keys, MaxPictures)
}

func (p *Pictures) targets() []Target {
	var targets []Target
	for _, item := range p.Items {
		if item.Address != "" {
			targets = append(targets, Target{
				Item: item.Key, Name: cmp.Or(item.Alt, nameOf(item.Address)), Address: item.Address, DestinationID: item.DestinationID,
			})
		}
	}
	return targets
}

func (p *Pictures) links(visit func(link Link)) {
	for i := range p.Items {
		visit(Link{&p.Items[i].Address, &p.Items[i].DestinationID, p.Items[i].Alt})
	}
}

func (p *Pictures) pictures(visit func(where string, p *picture.Picture)) {
	for i, item := range p.Items {
		visit(fmt.Sprintf("items/%d/picture", i), item.Picture)
	}
}

func (p *Pictures) files() map[string]string { return nil }

// Texts implements Content: what is on the pictures is heard and not seen.
func (p *Pictures) Texts(string) (headings, text string) { return "", "" }

func (p *Pictures) facts() []fact {
	facts := []fact{
		{"number of pictures", strconv.Itoa(len(p.Items))},
		{"columns", strconv.Itoa(p.Columns)},
		{"gap", strconv.Itoa(p.Gap)},
		{"corners", strconv.Itoa(p.Corners)},
		{"last one wide", yes(p.LastWide)},
	}
	for i, item := range p.Items {
		picture := fmt.Sprintf("picture %d", i+1)
		facts = append(facts,
			fact{picture, pictureValue(item.Picture)}, fact{"description of " + picture, item.Alt},
			fact{"address of " + picture, address.Readable(item.Address)},
		)
	}
	return facts
}
