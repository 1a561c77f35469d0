package page

import (
	"fmt"
	"slices"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
)

// Limits of takeovers.
const (
	// MaxTakeovers is how many are on or to come on one page.
	MaxTakeovers = 10
	// TakeoverAhead is how far ahead one may begin, and how long it may last.
	TakeoverAhead = 366 * 24 * time.Hour
)

// Takeover is a time in which something takes the place of what a page shows: a block
// that stands alone (solo), or a destination that the page's address leads straight to
// (pass-through). It changes nothing of the page, which is what it was once it is over.
type Takeover struct {
	ID          string       `json:"id" doc:"What it is known by on its page."`
	Solo        string       `json:"solo,omitempty" doc:"Key of the block that stands alone."`
	PassThrough *PassThrough `json:"passThrough,omitempty" doc:"What the page's address leads straight to."`
	From        time.Time    `json:"from" doc:"Full minutes."`
	Until       time.Time    `json:"until,omitzero" required:"false" doc:"When it is over; left out where somebody ends it."`
	To          *SourceRule  `json:"to,omitempty" doc:"By source; for all when left out."`
}

// PassThrough is where an address leads straight to.
type PassThrough struct {
	Address       string `json:"address"`
	DestinationID string `json:"destinationId,omitempty"`
}

// PassThroughKey is what the figures of pass-throughs are kept under.
const PassThroughKey = "pass-through"

// Tidy puts a takeover of a page in order at a moment; it begins then unless it is to
// begin later. An *invalid.Error names all that is wrong.
func (t Takeover) Tidy(on Document, now time.Time) (Takeover, error) {
	var wrong invalid.List
	now = now.UTC().Truncate(time.Minute)
	t.From, t.Until = t.From.UTC().Truncate(time.Minute), t.Until.UTC().Truncate(time.Minute)
	if t.From.Before(now) {
		t.From = now
	}
	switch {
	case t.From.After(now.Add(TakeoverAhead)):
		wrong.Add("from", "It can begin within a year from now, and not later.")
	case !t.Until.IsZero() && !t.From.Before(t.Until):
		wrong.Add("until", "It is over before it begins.")
	case t.Until.After(t.From.Add(TakeoverAhead)):
		wrong.Add("until", "It can last a year, and not longer.")
	}
	if (t.Solo == "") == (t.PassThrough == nil) {
		wrong.Add("", "Choose a block to stand alone, or an address to lead to.")
		return t, wrong.Err()
	}
	if t.PassThrough != nil {
		link, err := address.ParseLink(t.PassThrough.Address)
		switch {
		case err != nil:
			wrong.Add("passThrough/address", "%s", err)
		case !link.IsWeb():
			wrong.Add("passThrough/address", "The page can lead to a web page only: to something that begins with https:// or http://.")
		}
		t.PassThrough = &PassThrough{Address: link.URL}
	} else if block, found := on.Find(t.Solo); !found || len(block.Targets()) == 0 {
		wrong.Add("solo", "Only a block that leads somewhere can stand alone.")
	}
	t.To = t.To.tidy(&wrong, "to")
	return t, wrong.Err()
}

// Holds tells whether it is on for an audience.
func (t Takeover) Holds(to audience.Audience) bool {
	return !to.At.Before(t.From) && !t.IsOver(to.At) && t.To.admits(to.Source)
}

// IsOver tells whether it has ended by itself.
func (t Takeover) IsOver(at time.Time) bool { return !t.Until.IsZero() && !at.Before(t.Until) }

// OfLater are the takeovers that are on or to come.
func OfLater(takeovers []Takeover, at time.Time) []Takeover {
	return slices.DeleteFunc(slices.Clone(takeovers), func(t Takeover) bool { return t.IsOver(at) })
}

// String says of a page what a takeover does to it, by the clocks of a zone.
func (t Takeover) String(on Document, zone *time.Location) string {
	written := func(at time.Time) string { return at.In(zone).Format("2 Jan 2006 15:04") }
	words := " from " + written(t.From)
	if !t.Until.IsZero() {
		words += " until " + written(t.Until)
	}
	if t.To != nil {
		words += t.To.words()
	}
	return t.does(on) + words + "."
}

// Ended says that a takeover is over before its time.
func (t Takeover) Ended(on Document) string {
	if t.PassThrough != nil {
		return fmt.Sprintf("The page's address no longer leads straight to %s.", address.Readable(t.PassThrough.Address))
	}
	return fmt.Sprintf("%s no longer stands alone.", quote(t.title(on)))
}

func (t Takeover) does(on Document) string {
	if t.PassThrough != nil {
		return "The page's address leads straight to " + address.Readable(t.PassThrough.Address)
	}
	return quote(t.title(on)) + " stands alone"
}

func (t Takeover) title(on Document) string {
	block, _ := on.Find(t.Solo)
	return block.Title()
}

// latestOf is the one that was set last of those that hold and are wanted; nil for none.
func latestOf(takeovers []Takeover, to audience.Audience, wanted func(Takeover) bool) *Takeover {
	for i, t := range slices.Backward(takeovers) {
		if t.Holds(to) && wanted(t) {
			return &takeovers[i]
		}
	}
	return nil
}

// soloOf is the key of the block that stands alone for an audience, of those that are
// shown to it anyway; empty for none. A block that does not show leaves the others there.
func soloOf(takeovers []Takeover, to audience.Audience, shown func(key string) bool) string {
	if t := latestOf(takeovers, to, func(t Takeover) bool { return t.Solo != "" && shown(t.Solo) }); t != nil {
		return t.Solo
	}
	return ""
}

// Solo is the key of the block that stands alone on the page for an audience; empty for
// none.
func (d Document) Solo(to audience.Audience) string {
	return soloOf(d.Takeovers, to, func(key string) bool {
		block, found := d.Find(key)
		return found && block.ShownTo(to) && len(block.Targets()) > 0
	})
}

// PassThrough is where the page's address leads an audience straight to; nil where it
// leads to the page.
func (d Document) PassThrough(to audience.Audience) *PassThrough {
	if len(d.Takeovers) == 0 || d.Resting != nil {
		return nil // every visit asks
	}
	t := latestOf(d.Takeovers, to, func(t Takeover) bool { return t.PassThrough != nil })
	if t == nil {
		return nil
	}
	if lead, ok := d.swapped[t.PassThrough.DestinationID]; ok {
		straight := *t.PassThrough
		straight.Address = lead.At(to.At)
		return &straight
	}
	return t.PassThrough
}

// LiveTakeovers are those of an edition, and when it was live; until now when Until is
// zero.
type LiveTakeovers struct {
	From, Until time.Time
	Takeovers   []Takeover
}

// Took lists when takeovers were on in a span of time, by the editions that had them, in
// their order: each once, from when it began until it was over. Until is zero for what
// is on at the end.
func Took(editions []LiveTakeovers, from, to time.Time) []Takeover {
	var took []Takeover
	at := make(map[string]int)
	for _, edition := range editions {
		for _, t := range edition.Takeovers {
			if t.From.Before(edition.From.Truncate(time.Minute)) {
				t.From = edition.From
			}
			if ends := edition.Until; !ends.IsZero() && (t.Until.IsZero() || ends.Before(t.Until)) {
				t.Until = ends
			}
			if i, before := at[t.ID]; before {
				took[i].Until = t.Until // it went on in the next edition
				continue
			}
			hasBegun := t.Until.IsZero() || t.From.Before(t.Until)
			if hasBegun && t.From.Before(to) && (t.Until.IsZero() || t.Until.After(from)) {
				at[t.ID] = len(took)
				took = append(took, t)
			}
		}
	}
	return took
}
