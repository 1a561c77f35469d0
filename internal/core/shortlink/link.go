// Package shortlink holds the rules for short links: an address of ours that
// leads to a destination of the creator's, now or within windows, and what it is
// called in the studio.
package shortlink

import (
	"slices"
	"strings"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/audience"
	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
	"jundle/internal/core/window"
)

// Limits of a short link, in characters unless they say otherwise.
const (
	MaxName  = 80
	MaxNote  = 500
	maxTitle = 120
	maxText  = 200
	maxTimes = 20 // windows of one link
)

// Redirects are the status codes a redirect may have, the one to begin with
// first. Source: RFC 9110, 15.4.
var Redirects = []int{302, 301, 307, 308}

// Link is what a creator says of a short link. Its own address is kept beside it.
type Link struct {
	Name          string          `json:"name" doc:"In the studio; the destination's host when empty. At most 80 characters."`
	Destination   string          `json:"destination" doc:"Web address it leads to."`
	DestinationID string          `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the link is saved."`
	Redirect      int             `json:"redirect" enum:"302,301,307,308" doc:"Status code of the answer (RFC 9110, 15.4)."`
	On            bool            `json:"on"`
	Windows       []window.Window `json:"windows,omitempty"`
	Fallback      string          `json:"fallback,omitempty" doc:"Where it leads while it is off or outside its windows."`
	FallbackID    string          `json:"fallbackId,omitempty" doc:"The destination of the fallback; found or made when the link is saved."`
	Labels        []string        `json:"labels" nullable:"false" doc:"At most 10, each of at most 24 characters."`
	Note          string          `json:"note,omitempty" doc:"For the workspace's eyes only; at most 500 characters."`
	Preview       Preview         `json:"preview,omitzero"`
	// leads are its destination and its fallback, where they lead somewhere else at some
	// time.
	leads map[string]destination.Lead
}

// Preview is what networks show of the link in a post in place of the destination's
// own card.
type Preview struct {
	Title   string           `json:"title,omitempty" doc:"At most 120 characters; without it the destination's own is shown."`
	Text    string           `json:"text,omitempty" doc:"At most 200 characters."`
	Picture *picture.Picture `json:"picture,omitempty"`
}

// IsSet tells whether the link has a preview of its own.
func (p Preview) IsSet() bool { return p.Title != "" }

// New is a link as it is made from nothing but its destination.
func New(destination string) Link {
	return Link{Destination: destination, Redirect: Redirects[0], On: true, Labels: []string{}}
}

// Tidy checks a link and writes it the one way it is kept. The error is an
// *invalid.Error under the names of the fields.
func (l Link) Tidy() (Link, error) {
	var wrong invalid.List
	l.Destination = webAddress(&wrong, "destination", l.Destination)
	if strings.TrimSpace(l.Fallback) != "" {
		l.Fallback = webAddress(&wrong, "fallback", l.Fallback)
	} else {
		l.Fallback = ""
	}
	l.Name = wrong.Line("name", "The name", l.Name, MaxName)
	if l.Name == "" {
		l.Name = nameOf(l.Destination)
	}
	if l.Redirect == 0 {
		l.Redirect = Redirects[0]
	}
	if !slices.Contains(Redirects, l.Redirect) {
		wrong.Add("redirect", "A redirect is one of 301, 302, 307 and 308.")
	}
	if len(l.Windows) > maxTimes {
		wrong.Add("windows", "A short link has at most %d windows.", maxTimes)
	}
	l.Labels = invalid.Labels(&wrong, "labels", l.Labels)
	l.Note = wrong.Lines("note", "The note", l.Note, MaxNote)
	l.Preview.Title = wrong.Line("preview/title", "The title", l.Preview.Title, maxTitle)
	l.Preview.Text = wrong.Line("preview/text", "The text", l.Preview.Text, maxText)
	l.Preview.Picture.Tidy(&wrong, "preview/picture")
	if !l.Preview.IsSet() && (l.Preview.Text != "" || l.Preview.Picture != nil) {
		wrong.Add("preview/title", "A preview needs a title: networks show none without.")
	}
	return l, wrong.Err()
}

// nameOf is what a link is called that was given no name.
func nameOf(address string) string { return shorten(destination.NameOf(address), MaxName) }

// Following is a link as it is saved over the one before: a name that was that of the destination before is that of the
// destination now.
func (l Link) Following(before Link) Link {
	if l.Name == before.Name && l.Name == nameOf(before.Destination) {
		l.Name = nameOf(l.Destination)
	}
	return l
}

func webAddress(wrong *invalid.List, where, text string) string {
	link, err := address.ParseLink(text)
	switch {
	case err != nil:
		wrong.Add(where, "%s", err)
	case !link.IsWeb():
		wrong.Add(where, "A short link leads to a web page: an address that begins with https or http.")
	default:
		return link.URL
	}
	return text
}

func shorten(text string, limit int) string {
	if runes := []rune(text); len(runes) > limit {
		return string(runes[:limit])
	}
	return text
}

// State is whether a link is in force, and why not.
type State string

// The states of a link.
const (
	InForce State = "in force"
	Off     State = "off"
	Before  State = State(window.Before)
	Over    State = State(window.Over)
)

// StateFor tells whether the link is in force for an audience.
func (l Link) StateFor(to audience.Audience) State {
	if !l.On {
		return Off
	}
	return State(window.StateAt(l.Windows, to.At))
}

// Outcome is where somebody was led.
type Outcome string

// The outcomes. Figures are kept apart by them.
const (
	Destination Outcome = "destination"
	Fallback    Outcome = "fallback"
	Nowhere     Outcome = "nowhere"
)

// Outcomes lists them in the order in which they are shown.
var Outcomes = []Outcome{Destination, Fallback, Nowhere}

// Lead is where the link leads an audience; the address is empty when it leads
// nowhere.
func (l Link) Lead(to audience.Audience) (destination.Target, Outcome) {
	switch {
	case l.StateFor(to) == InForce:
		return l.leadsAt(l.DestinationID, l.Destination, to.At), Destination
	case l.Fallback != "":
		return l.leadsAt(l.FallbackID, l.Fallback, to.At), Fallback
	}
	return destination.Target{}, Nowhere
}

func (l Link) leadsAt(id, address string, at time.Time) destination.Target {
	if lead, ok := l.leads[id]; ok {
		address = lead.At(at)
	}
	return destination.Target{ID: id, Address: address}
}

// Resolve writes into the link where its destinations lead, by their IDs, and keeps the
// windows in which they lead somewhere else.
func (l *Link) Resolve(leads map[string]destination.Lead) {
	l.leads = nil
	for _, place := range []struct{ id, address *string }{{&l.DestinationID, &l.Destination}, {&l.FallbackID, &l.Fallback}} {
		lead, ok := leads[*place.id]
		if !ok {
			continue
		}
		*place.id, *place.address = lead.ID, lead.Address
		if len(lead.Swaps) > 0 {
			if l.leads == nil {
				l.leads = make(map[string]destination.Lead)
			}
			l.leads[lead.ID] = lead
		}
	}
}
