// Package destination holds the rules for destinations: addresses that a workspace
// keeps once, with what it says of them, and refers to by ID wherever something
// leads there. It knows nothing of where they are kept.
package destination

import (
	"regexp"
	"slices"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Limits of a destination, in characters unless they say otherwise.
const (
	MaxTitle = 120
	MaxNote  = 500
)

// Destination is what a creator says of one.
type Destination struct {
	Address string           `json:"address" doc:"Where it leads: https, http, mailto, tel or sms; at most 2,048 characters."`
	Title   string           `json:"title" doc:"What it is called in the studio; at most 120 characters."`
	Note    string           `json:"note" doc:"For the workspace's eyes only; at most 500 characters."`
	Labels  []string         `json:"labels" nullable:"false" doc:"At most 10, each of at most 24 characters."`
	Picture *picture.Picture `json:"picture,omitempty"`
	Swaps   Swaps            `json:"swaps,omitempty" doc:"Windows in which it leads somewhere else. At most 6."`
}

// Tidy checks a destination and writes it the one way it is kept. The error is an
// *invalid.Error under the names of the fields.
func (d Destination) Tidy() (Destination, error) {
	var wrong invalid.List
	if link, err := address.ParseTyped(d.Address); err != nil {
		wrong.Add("address", "%s", err)
	} else {
		d.Address = link.URL
	}
	d.Title = wrong.Line("title", "The title", d.Title, MaxTitle)
	d.Note = wrong.Lines("note", "The note", d.Note, MaxNote)
	d.Labels = invalid.Labels(&wrong, "labels", d.Labels)
	d.Picture.Tidy(&wrong, "picture")
	d.Swaps = d.Swaps.tidy(&wrong)
	return d, wrong.Err()
}

// Following is what is said of a destination as it is saved over what was said before: a title that was made for the
// address before is not that of another. Made says that no creator wrote that title.
func (d Destination) Following(address, title string, made bool) Destination {
	if made && d.Title == title && d.Address != address {
		d.Title = NameOf(d.Address)
	}
	return d
}

// NameOf is what an address is called of which nothing else is known: its host, mostly.
func NameOf(tidied string) string {
	link, err := address.ParseLink(tidied)
	if err != nil {
		return ""
	}
	return link.Name()
}

// IsWeb tells whether an address that was tidied is that of a web page.
func IsWeb(tidied string) bool {
	link, err := address.ParseLink(tidied)
	return err == nil && link.IsWeb()
}

var idPattern = regexp.MustCompile(`^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$`)

// IsID tells whether a text is the ID of a destination: a UUID as RFC 9562 writes
// it.
func IsID(text string) bool { return idPattern.MatchString(text) }

// Reference is what a document says of a place that leads somewhere: the address
// that was typed or last seen, and the destination it is that of, if any is known.
type Reference struct{ Address, ID string }

// Known is a destination as it is kept, with the addresses it had before.
type Known struct {
	ID, Address string
	// Kept is the ID of the destination that stands for it, mostly its own.
	Kept   string
	Former []string
}

// Meant tells whether a reference goes on meaning the destination it names. It does
// not when another address was typed into it: one that the destination neither has
// nor ever had. An address that it had before was read before the destination was
// changed, and follows it.
func (r Reference) Meant(named Known) bool {
	return r.ID == named.ID && (r.Address == named.Address || slices.Contains(named.Former, r.Address))
}
