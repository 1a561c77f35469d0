package page

import (
	"strings"
	"time"

	"jundle/internal/core/geo"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/picture"
	"jundle/internal/core/window"
)

// Venue is somewhere to go to, with when it is open and how to get there.
type Venue struct {
	nothingElse
	Name    string     `json:"name" spoken:"line" doc:"At most 120 characters."`
	Address string     `json:"address,omitempty" spoken:"lines" doc:"As it is written on a letter; lines are kept; at most 300 characters."`
	Note    string     `json:"note,omitempty" spoken:"line" doc:"Such as how to get in; at most 160 characters."`
	Point   *geo.Point `json:"point,omitempty" doc:"Where it is; without one there are no directions."`
	// Map is a picture of where it is, as near as Zoom, and MapBy says whose it is.
	Map   *picture.Picture `json:"map,omitempty" doc:"A picture of where it is."`
	Zoom  int              `json:"zoom,omitempty" doc:"How near the map was drawn: 1 to 18, in halves of the world; 0 for no map."`
	MapBy string           `json:"mapBy,omitempty" doc:"Whose the map is, as its licence wants it said; at most 120 characters."`
	// Hours have weekly rules only.
	Hours   *window.Times `json:"hours,omitempty" doc:"When it is open: what repeats every week, by the clocks of its zone."`
	Pattern string        `json:"pattern,omitempty" doc:"Address of a map with {lat} and {lon} in it; the device's own map where left out."`
}

func (p *Venue) name() string { return p.Name }

func (p *Venue) pictures(visit func(where string, p *picture.Picture)) { visit("map", p.Map) }

func (p *Venue) tidy(problems *invalid.List, where string) {
	p.Name = problems.Line(where+"/name", "The name", p.Name, MaxTitle)
	p.Address = problems.Lines(where+"/address", "The address", p.Address, 300)
	p.Map.Tidy(problems, where+"/map")
	p.MapBy = problems.Line(where+"/mapBy", "Whose the map is", p.MapBy, 120)
	problems.Range(where+"/zoom", "How near the map is", p.Zoom, 0, geo.MaxZoom)
	if p.Map == nil || p.Point == nil {
		p.Map, p.MapBy, p.Zoom = nil, "", 0
	}
	p.Note = problems.Line(where+"/note", "The note", p.Note, MaxSecond)
	if p.Point != nil && !p.Point.Valid() {
		problems.Add(where+"/point", "These coordinates are not on the earth: latitude is from -90 to 90, longitude from -180 to 180.")
	}
	if p.Hours != nil {
		p.Hours.Spans = nil
	}
	p.Hours = p.Hours.Tidy(problems, where+"/hours")
	p.Pattern = problems.Line(where+"/pattern", "The address of the map", p.Pattern, 300)
	if p.Pattern == "" {
		return
	}
	if !strings.Contains(p.Pattern, "{lat}") || !strings.Contains(p.Pattern, "{lon}") {
		problems.Add(where+"/pattern", "The address of a map has {lat} and {lon} in it, where the place goes.")
		return
	}
	if filled := tidyAddress(problems, where+"/pattern", p.directions(geo.Point{}), false); !isWeb(filled) {
		problems.Add(where+"/pattern", "A map has an address of the web, beginning with https.")
	}
}

// directions is the address that leads there on the map of the pattern.
func (p *Venue) directions(to geo.Point) string { return geo.Directions(p.Pattern, to, p.Name) }

func (p *Venue) targets() []Target {
	switch {
	case p.Point == nil:
		return nil
	case p.Pattern != "":
		return []Target{{Name: p.Name, Address: p.directions(*p.Point)}}
	}
	return []Target{{Name: p.Name, Venue: p}}
}

// IsOpen tells whether it is open at a moment; false where no hours are said.
func (p *Venue) IsOpen(at time.Time) bool { return p.Hours != nil && p.Hours.Holds(at) }

// Now says whether it is open at a moment, until or from when; empty where no hours are said.
func (p *Venue) Now(language string, at time.Time) string {
	if p.Hours == nil {
		return ""
	}
	in, next := locale.Of(language), p.Hours.Next(at)
	switch {
	case next.IsZero() && p.Hours.Holds(at):
		return in.Say("open_now")
	case next.IsZero():
		return in.Say("closed_now")
	}
	here, then := p.Hours.In(at), p.Hours.In(next)
	when := in.Time(then)
	if here.Format(time.DateOnly) != then.Format(time.DateOnly) {
		when = in.Weekday(then.Weekday()) + " " + when
	}
	if p.Hours.Holds(at) {
		return in.Say("open_until", "When", when)
	}
	return in.Say("opens_at", "When", when)
}

// OpenDay is one day of the week, and when it is open on it; empty for closed.
type OpenDay struct{ Day, Hours string }

// Week says when it is open on each day of the week, Monday first.
func (p *Venue) Week(language string) []OpenDay {
	if p.Hours == nil {
		return nil
	}
	in := locale.Of(language)
	days := make([]OpenDay, 0, 7)
	for i := range 7 {
		day := time.Weekday((i + 1) % 7)
		var hours []string
		for _, rule := range p.Hours.Weekly {
			if from, to, on := rule.On(day); on {
				hours = append(hours, in.Time(from)+" – "+in.Time(to))
			}
		}
		days = append(days, OpenDay{in.Weekday(day), strings.Join(hours, ", ")})
	}
	return days
}

// next implements changes: it opens and closes.
func (p *Venue) next(at time.Time) time.Time {
	if p.Hours == nil {
		return time.Time{}
	}
	return p.Hours.Next(at)
}

// Texts implements Content.
func (p *Venue) Texts(language string) (headings, text string) {
	for _, day := range p.Week(language) {
		text += day.Day + day.Hours
	}
	return p.Name, p.Address + p.Note + p.MapBy + text +
		locale.Of(language).Letters("open_now", "closed_now", "open_until", "opens_at", "opening_hours", "directions")
}

func (p *Venue) facts() []fact {
	point, hours := "", ""
	if p.Point != nil {
		point = p.Point.Shown()
	}
	if p.Hours != nil {
		hours = p.Hours.String()
	}
	return []fact{
		{"address", p.Address},
		{"note", p.Note},
		{"place on the map", point},
		{"opening hours", hours},
		{"map", p.Pattern},
		{"picture of the map", pictureValue(p.Map)},
	}
}
