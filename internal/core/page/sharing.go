package page

import (
	"cmp"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Sharing is how a page is shown elsewhere: by search engines, and by networks that draw a
// card for an address in a post.
type Sharing struct {
	Title       string `json:"title,omitempty" spoken:"line" doc:"The name at the top of the page when left out; at most 60 characters."`
	Description string `json:"description,omitempty" spoken:"line" doc:"The line below it when left out; at most 200 characters."`
	// Unlisted rather than listed, so that a page without it is listed once it is published.
	Unlisted bool             `json:"unlisted,omitempty" doc:"Search engines are asked to leave it out."`
	Who      string           `json:"who,omitempty" enum:"person,organisation" doc:"Whose page it is; a person if left out."`
	Picture  *picture.Picture `json:"picture,omitempty" doc:"Shown with a post; one is drawn in the page's own look when left out."`
}

// MaxDescription is how long a description may be, in characters. Common practice: search
// engines and networks cut longer ones.
const MaxDescription = 200

func (s *Sharing) tidy(problems *invalid.List) {
	s.Title = problems.Line("sharing/title", "The title", s.Title, MaxName)
	s.Description = problems.Line("sharing/description", "The description", s.Description, MaxDescription)
	s.Picture.Tidy(problems, "sharing/picture")
	if s.Who != "" {
		s.Who = invalid.Choice(problems, "sharing/who", "answer to whose page it is", s.Who, "person", "organisation")
	}
	if s.Who == "person" {
		s.Who = "" // what is left out
	}
}

func (s Sharing) facts() []fact {
	return []fact{
		{"title elsewhere", s.Title},
		{"description elsewhere", s.Description},
		{"word on whose page it is", s.Who},
		{"picture with posts", pictureValue(s.Picture)},
	}
}

// change puts into words what becomes of whether it is listed; empty when nothing does.
func (s Sharing) change(next Sharing) string {
	switch {
	case s.Unlisted == next.Unlisted:
		return ""
	case next.Unlisted:
		return "Search engines are asked to leave the page out."
	}
	return "Search engines may list the page."
}

// SharedTitle is what the page is called elsewhere; empty where it has no name.
func (d Document) SharedTitle() string { return cmp.Or(d.Sharing.Title, d.Header.Name) }

// SharedDescription is what is said of it elsewhere; it may be empty.
func (d Document) SharedDescription() string { return cmp.Or(d.Sharing.Description, d.Header.Line) }
