package page

import (
	"fmt"
	"reflect"
	"slices"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/window"
)

// SourceRule says to whom a block is shown by where they come from, which is what the
// tag in the address they opened says.
type SourceRule struct {
	Rule    string   `json:"rule" enum:"only,but" doc:"To those from these sources only, or to all but them."`
	Sources []string `json:"sources" nullable:"false" doc:"IDs of sources of the page. At most 100."`
}

// maxRuleSources is how many sources a rule names.
const maxRuleSources = 100

// admits tells whether a rule shows something to who comes from a source, whose ID is
// empty where none is known.
func (r *SourceRule) admits(source string) bool {
	return r == nil || slices.Contains(r.Sources, source) == (r.Rule == "only")
}

// tidy puts a rule in order; nil when it names no source.
func (r *SourceRule) tidy(problems *invalid.List, where string) *SourceRule {
	if r == nil || len(r.Sources) == 0 {
		return nil
	}
	if r.Rule != "only" && r.Rule != "but" {
		problems.Add(where+"/rule", "“%s” is no rule for sources.", invalid.OneLine(r.Rule))
	}
	if len(r.Sources) > maxRuleSources {
		problems.Add(where+"/sources", "A rule names at most %d sources; this one names %d.", maxRuleSources, len(r.Sources))
		return r
	}
	for i, id := range r.Sources {
		if len(id) > 40 {
			problems.Add(fmt.Sprintf("%s/sources/%d", where, i), "This is no source.")
		}
	}
	slices.Sort(r.Sources)
	r.Sources = slices.Compact(r.Sources)
	return r
}

// Showing is when and to whom something is shown that is switched on; the zero value
// is always and to everybody.
type Showing struct {
	When *window.Times `json:"when,omitempty" doc:"The times in which it shows; always when left out."`
	To   *SourceRule   `json:"to,omitempty" doc:"By source; to all when left out."`
}

// Holds tells whether an audience is shown it.
func (s Showing) Holds(to audience.Audience) bool {
	return (s.When == nil || s.When.Holds(to.At)) && s.To.admits(to.Source)
}

// changes puts into words what becomes of it, for something of a title.
func (s Showing) changes(next Showing, title string) []string {
	var words []string
	if !reflect.DeepEqual(s.When, next.When) {
		when := "at all times again"
		if next.When != nil {
			when = next.When.String()
		}
		words = append(words, fmt.Sprintf("%s shows %s.", quote(title), when))
	}
	if !reflect.DeepEqual(s.To, next.To) {
		to := "to all again"
		if next.To != nil {
			to = "to all but visitors from " + count(len(next.To.Sources), "source")
			if next.To.Rule == "only" {
				to = "to visitors from " + count(len(next.To.Sources), "source") + " only"
			}
		}
		words = append(words, fmt.Sprintf("%s is shown %s.", quote(title), to))
	}
	return words
}

// ShownTo tells whether an audience sees the block.
func (b Block) ShownTo(to audience.Audience) bool { return b.Shown && b.Holds(to) }

// Next is the next moment after at at which what is on the page changes by itself. It
// is never zero, and never further away than window.Ahead: what is held until then is
// worked out anew.
func (d Document) Next(at time.Time) time.Time {
	showings := make([]Showing, 0, len(d.Blocks))
	for _, block := range d.Blocks {
		if block.Shown {
			showings = append(showings, block.Showing)
		}
	}
	return NextOf(showings, at)
}

// NextOf is the next moment after at at which any of these changes; window.Ahead away
// at most.
func NextOf(showings []Showing, at time.Time) time.Time {
	next := at.Add(window.Ahead)
	for _, showing := range showings {
		if showing.When == nil {
			continue
		}
		if change := showing.When.Next(at); !change.IsZero() && change.Before(next) {
			next = change
		}
	}
	return next
}

// LeadsOn is for how long what is no longer shown goes on leading, for tabs that still
// show it.
const LeadsOn = 24 * time.Hour

// NextTargets is the next moment after at at which Targets would differ.
func (d Document) NextTargets(at time.Time) time.Time {
	next := d.Next(at)
	if past := d.Next(at.Add(-LeadsOn)).Add(LeadsOn); past.Before(next) {
		return past
	}
	return next
}

// lately tells whether an audience is shown the block, or was within LeadsOn.
func (b Block) lately(to audience.Audience) bool {
	if b.When == nil {
		return b.To.admits(to.Source)
	}
	return b.To.admits(to.Source) && (b.When.Holds(to.At) || len(b.When.Between(to.At.Add(-LeadsOn), to.At)) > 0)
}
