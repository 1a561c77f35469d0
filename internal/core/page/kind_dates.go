package page

import (
	"fmt"
	"slices"
	"strconv"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/picture"
)

const (
	// MaxDates is how many dates one block holds.
	MaxDates = 60
	// CalendarItem is the item of a block of dates under which it is handed out as a
	// calendar.
	CalendarItem = "calendar"
)

// Dates are dates with their places, each of which may lead to where tickets are.
type Dates struct {
	Title    string     `json:"title,omitempty" spoken:"line" doc:"At most 120 characters."`
	Zone     string     `json:"zone" doc:"IANA name of the zone the dates were entered in, by whose clocks they are written."`
	Calendar bool       `json:"calendar,omitempty" doc:"Those to come can be put into a calendar (RFC 5545)."`
	Past     bool       `json:"past,omitempty" doc:"Those that are over stay on the page."`
	Items    []DateItem `json:"items" nullable:"false" doc:"At most 60; shown in the order of time."`
}

// DateItem is one of them.
type DateItem struct {
	Key           string    `json:"key" doc:"What its clicks are kept under; never changes."`
	What          string    `json:"what" spoken:"line" doc:"At most 120 characters."`
	From          time.Time `json:"from"`
	To            time.Time `json:"to,omitzero" required:"false" doc:"When it ends; left out where that is not said."`
	WholeDay      bool      `json:"wholeDay,omitempty" doc:"Its time of day is not said."`
	Place         string    `json:"place,omitempty" spoken:"line" doc:"At most 160 characters."`
	SoldOut       string    `json:"soldOut,omitempty" spoken:"line" doc:"In place of tickets, such as sold out; at most 40 characters."`
	Address       string    `json:"address,omitempty" doc:"Where tickets are."`
	DestinationID string    `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
}

// end is when a date is over: where nothing is said, at the end of its day.
func (i DateItem) end(zone string) time.Time {
	if !i.To.IsZero() && !i.WholeDay {
		return i.To
	}
	last := i.From
	if i.To.After(last) {
		last = i.To
	}
	year, month, day := inZone(last, zone).Date()
	return time.Date(year, month, day+1, 0, 0, 0, 0, inZone(last, zone).Location())
}

func (d *Dates) name() string {
	if d.Title == "" && len(d.Items) > 0 {
		return d.Items[0].What
	}
	return d.Title
}

func (d *Dates) tidy(problems *invalid.List, where string) {
	d.Title = problems.Line(where+"/title", "The title", d.Title, MaxTitle)
	tidyZone(problems, where+"/zone", d.Zone)
	keys := make([]string, len(d.Items))
	for i := range d.Items {
		item, at := &d.Items[i], fmt.Sprintf("%s/items/%d", where, i)
		keys[i] = item.Key
		item.What = problems.Line(at+"/what", "What a date is", item.What, MaxTitle)
		item.From = tidyMoment(problems, at+"/from", item.From)
		if !item.To.IsZero() {
			item.To = tidyMoment(problems, at+"/to", item.To)
			if item.To.Before(item.From) {
				problems.Add(at+"/to", "This ends before it begins.")
			}
		}
		item.Place = problems.Line(at+"/place", "The place", item.Place, MaxSecond)
		item.SoldOut = problems.Line(at+"/soldOut", "What is said in place of tickets", item.SoldOut, 40)
		item.Address = tidyAddress(problems, at+"/address", item.Address, true)
		if item.Key == CalendarItem {
			problems.Add(at+"/key", "Number %d of the dates has no key of its own.", i+1)
		}
	}
	tidyItems(problems, where+"/items", "dates", keys, MaxDates)
	slices.SortStableFunc(d.Items, func(a, b DateItem) int { return a.From.Compare(b.From) })
}

// Shown are the dates that the block shows at a moment, in the order of time.
func (d *Dates) Shown(at time.Time) []DateItem {
	shown := make([]DateItem, 0, len(d.Items))
	for _, item := range d.Items {
		if d.Past || item.end(d.Zone).After(at) {
			shown = append(shown, item)
		}
	}
	return shown
}

// Written is when a date is, as a language writes it.
func (d *Dates) Written(item DateItem, language string) string {
	in, from := locale.Of(language), inZone(item.From, d.Zone)
	text := in.Date(from)
	if !item.WholeDay {
		text = in.Moment(from)
	}
	if item.To.IsZero() {
		return text
	}
	to := inZone(item.To, d.Zone)
	sameDay := from.Format(time.DateOnly) == to.Format(time.DateOnly)
	switch {
	case item.WholeDay && sameDay:
		return text
	case item.WholeDay:
		return text + " – " + in.Date(to)
	case sameDay:
		return text + " – " + in.Time(to)
	}
	return text + " – " + in.Moment(to)
}

// Machine is the beginning of a date for programs (ISO 8601).
func (d *Dates) Machine(item DateItem) string {
	if item.WholeDay {
		return inZone(item.From, d.Zone).Format(time.DateOnly)
	}
	return inZone(item.From, d.Zone).Format(time.RFC3339)
}

// next implements changes: a date that is over goes off the page.
func (d *Dates) next(at time.Time) (next time.Time) {
	for _, item := range d.Items {
		if end := item.end(d.Zone); end.After(at) && (next.IsZero() || end.Before(next)) {
			next = end
		}
	}
	return next
}

func (d *Dates) targets() []Target {
	var targets []Target
	for _, item := range d.Items {
		if item.Address != "" && item.SoldOut == "" {
			targets = append(targets, Target{Item: item.Key, Name: item.What, Address: item.Address, DestinationID: item.DestinationID})
		}
	}
	if d.Calendar && len(d.Items) > 0 {
		targets = append(targets, Target{Item: CalendarItem, Name: d.name(), Calendar: d})
	}
	return targets
}

func (d *Dates) links(visit func(link Link)) {
	for i := range d.Items {
		visit(Link{&d.Items[i].Address, &d.Items[i].DestinationID, d.Items[i].What})
	}
}

func (d *Dates) pictures(func(where string, p *picture.Picture)) {}

func (d *Dates) files() map[string]string { return nil }

// Texts implements Content.
func (d *Dates) Texts(language string) (headings, text string) {
	for _, item := range d.Items {
		text += item.What + item.Place + item.SoldOut + d.Written(item, language)
	}
	return d.Title, text + locale.Of(language).Letters("tickets", "in_calendar")
}

func (d *Dates) facts() []fact {
	facts := []fact{
		{"title", d.Title}, {"number of dates", strconv.Itoa(len(d.Items))}, {"calendar", yes(d.Calendar)}, {"dates that are over", yes(d.Past)},
	}
	for i, item := range d.Items {
		number := fmt.Sprintf("date %d", i+1)
		facts = append(facts, fact{number, item.What + ", " + d.Written(item, "en-GB")}, fact{"place of " + number, item.Place},
			fact{"words of " + number, item.SoldOut}, fact{"address of " + number, address.Readable(item.Address)})
	}
	return facts
}
