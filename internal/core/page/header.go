package page

import (
	"fmt"

	"golang.org/x/text/language"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Header is the top of the page: who this is.
type Header struct {
	Name        string           `json:"name" spoken:"line" doc:"At most 60 characters; shown as the page's main heading."`
	Line        string           `json:"line" spoken:"line" doc:"One line about the creator, at most 160 characters."`
	About       string           `json:"about,omitempty" spoken:"lines" doc:"A longer text, at most 600 characters."`
	Picture     *picture.Picture `json:"picture,omitempty"`
	Shape       string           `json:"shape" required:"false" enum:"circle,rounded,square,none" doc:"How the picture is shown."`
	Shadow      bool             `json:"shadow" required:"false" doc:"Whether the picture casts a shadow."`
	Cover       *picture.Picture `json:"cover,omitempty" doc:"A wide picture above everything."`
	CoverHeight string           `json:"coverHeight" required:"false" enum:"medium,low,tall"`
	Align       string           `json:"align" required:"false" enum:"centre,left"`
}

// Limits on the header's texts, in characters.
const (
	MaxName  = 60
	MaxLine  = 160
	maxAbout = 600
)

func (h *Header) tidy(problems *invalid.List) {
	h.Name = problems.Line("header/name", "The name", h.Name, MaxName)
	h.Line = problems.Line("header/line", "The line about yourself", h.Line, MaxLine)
	h.About = problems.Lines("header/about", "The text about yourself", h.About, maxAbout)
	h.Picture.Tidy(problems, "header/picture")
	h.Cover.Tidy(problems, "header/cover")
	h.Shape = invalid.Choice(problems, "header/shape", "shape of a picture", h.Shape, "circle", "rounded", "square", "none")
	h.CoverHeight = invalid.Choice(problems, "header/coverHeight", "height of a cover", h.CoverHeight, "medium", "low", "tall")
	h.Align = invalid.Choice(problems, "header/align", "alignment", h.Align, "centre", "left")
}

func (h Header) facts() []fact {
	return []fact{
		{"name", h.Name},
		{"line below the name", h.Line},
		{"text about yourself", h.About},
		{"picture at the top", pictureValue(h.Picture)},
		{"shape of the picture", h.Shape},
		{"shadow of the picture", yes(h.Shadow)},
		{"cover picture", pictureValue(h.Cover)},
		{"height of the cover", h.CoverHeight},
		{"alignment of the top", h.Align},
	}
}

// Icons is the row of small profile icons.
type Icons struct {
	Place  string     `json:"place" enum:"above,below" doc:"Above or below the blocks."`
	Size   string     `json:"size" enum:"medium,small,large"`
	Colour string     `json:"colour" enum:"page,brand" doc:"The colour of the page's text, or each its own."`
	Items  []IconLink `json:"items" nullable:"false" doc:"In order; at most 16."`
}

// IconLink is one of them.
type IconLink struct {
	Key           string `json:"key" doc:"What its clicks are kept under; never changes."`
	Icon          Icon   `json:"icon"`
	Name          string `json:"name" doc:"What it is called, for whom cannot see it; at most 60 characters."`
	Address       string `json:"address"`
	DestinationID string `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
}

func (n *Icons) tidy(problems *invalid.List) {
	n.Place = invalid.Choice(problems, "icons/place", "place for icons", n.Place, "above", "below")
	n.Size = invalid.Choice(problems, "icons/size", "size of icons", n.Size, "medium", "small", "large")
	n.Colour = invalid.Choice(problems, "icons/colour", "colour of icons", n.Colour, "page", "brand")
	keys := make([]string, len(n.Items))
	for i := range n.Items {
		item, where := &n.Items[i], fmt.Sprintf("icons/items/%d", i)
		keys[i] = item.Key
		item.Icon.tidy(problems, where+"/icon")
		item.Name = problems.Line(where+"/name", "The name of an icon", item.Name, MaxName)
		item.Address = tidyAddress(problems, where+"/address", item.Address, false)
	}
	tidyItems(problems, "icons/items", "profile icons", keys, MaxIcons)
}

func (n Icons) targets() []Target {
	targets := make([]Target, len(n.Items))
	for i, item := range n.Items {
		targets[i] = Target{Item: item.Key, Name: item.Name, Address: item.Address, DestinationID: item.DestinationID}
	}
	return targets
}

// facts are those of the row; what is said of each icon stands in links.
func (n Icons) facts() []fact {
	if len(n.Items) == 0 {
		return nil
	}
	return []fact{{"place of the profile icons", n.Place}, {"size of the profile icons", n.Size}, {"colour of the profile icons", n.Colour}}
}

func (n Icons) links() []smallLink {
	links := make([]smallLink, len(n.Items))
	for i, item := range n.Items {
		links[i] = smallLink{key: item.Key, name: item.Name, address: item.Address, drawing: item.Icon.Set + "/" + item.Icon.Name}
	}
	return links
}

// Footer is the end of the page.
type Footer struct {
	Text  string       `json:"text" spoken:"lines" doc:"At most 300 characters."`
	Links []FooterLink `json:"links" nullable:"false" doc:"Small links, such as privacy and terms; at most 6."`
}

// FooterLink is one small link.
type FooterLink struct {
	Key           string `json:"key" doc:"What its clicks are kept under; never changes."`
	Title         string `json:"title" spoken:"line" doc:"At most 60 characters."`
	Address       string `json:"address"`
	DestinationID string `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
}

func (f *Footer) tidy(problems *invalid.List) {
	f.Text = problems.Lines("footer/text", "The text at the end", f.Text, 300)
	keys := make([]string, len(f.Links))
	for i := range f.Links {
		link, where := &f.Links[i], fmt.Sprintf("footer/links/%d", i)
		keys[i] = link.Key
		link.Title = problems.Line(where+"/title", "The title of a link", link.Title, MaxName)
		link.Address = tidyAddress(problems, where+"/address", link.Address, false)
	}
	tidyItems(problems, "footer/links", "links at the end", keys, MaxFooterLinks)
}

func (f Footer) targets() []Target {
	targets := make([]Target, len(f.Links))
	for i, link := range f.Links {
		targets[i] = Target{Item: link.Key, Name: link.Title, Address: link.Address, DestinationID: link.DestinationID}
	}
	return targets
}

func (f Footer) facts() []fact { return []fact{{"text at the end", f.Text}} }

func (f Footer) links() []smallLink {
	links := make([]smallLink, len(f.Links))
	for i, link := range f.Links {
		links[i] = smallLink{key: link.Key, name: link.Title, address: link.Address}
	}
	return links
}

func tidyLanguage(problems *invalid.List, tag string) string {
	if tag == "" {
		return "en"
	}
	parsed, err := language.Parse(tag)
	if err != nil {
		problems.Add("language", "“%s” is not the code of a language. One looks like en or pt-BR.", invalid.OneLine(tag))
		return tag
	}
	return parsed.String()
}
