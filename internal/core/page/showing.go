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

// TellsApart lists the sources that rules of a page name: whoever comes from another is shown the same as who comes
// from nowhere known.
func (d Document) TellsApart() map[string]bool {
	named := make(map[string]bool)
	add := func(rule *SourceRule) {
		if rule != nil {
			for _, id := range rule.Sources {
				named[id] = true
			}
		}
	}
	for _, block := range d.Blocks {
		add(block.To)
	}
	for _, each := range d.Takeovers {
		add(each.To)
	}
	return named
}

// words say to whom something is shown, as the end of a sentence.
func (r *SourceRule) words() string {
	if r.Rule == "only" {
		return " to visitors from " + count(len(r.Sources), "source") + " only"
	}
	return " to all but visitors from " + count(len(r.Sources), "source")
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
	words := timesChange(quote(title), s.When, next.When)
	if !reflect.DeepEqual(s.To, next.To) {
		to := " to all again"
		if next.To != nil {
			to = next.To.words()
		}
		words = append(words, fmt.Sprintf("%s is shown%s.", quote(title), to))
	}
	return words
}

// timesChange puts into words that something shows at other times; nothing when it does
// not.
func timesChange(what string, before, after *window.Times) []string {
	switch {
	case reflect.DeepEqual(before, after):
		return nil
	case after == nil:
		return []string{what + " shows at all times again."}
	}
	return []string{fmt.Sprintf("%s shows %s.", what, after)}
}

// ShownTo tells whether the block is shown to an audience by what it says itself.
func (b Block) ShownTo(to audience.Audience) bool { return b.Shown && b.Holds(to) }

// IsOpen tells whether the page shows at a moment: it does not rest, and it is one of its
// times.
func (d Document) IsOpen(at time.Time) bool {
	return d.Resting == nil && (d.When == nil || d.When.Holds(at))
}

// Next is the next moment after at at which what is on the page changes by itself. It
// is never zero, and never further away than window.Ahead: what is held until then is
// worked out anew.
func (d Document) Next(at time.Time) time.Time {
	times := []*window.Times{d.When}
	for _, block := range d.Blocks {
		if block.Shown {
			times = append(times, block.When)
		}
	}
	next := nextOf(times, d.Takeovers, at)
	for _, block := range d.Blocks {
		if content, ok := block.Content().(changesItself); ok && block.Shown {
			if change := content.next(at); !change.IsZero() && change.Before(next) {
				next = change
			}
		}
	}
	for _, lead := range d.swapped {
		if swap := lead.Swaps.Next(at); !swap.IsZero() && swap.Before(next) {
			next = swap
		}
	}
	if d.Trial != nil {
		for _, change := range []time.Time{d.Trial.From, d.Trial.Until} {
			if change.After(at) && change.Before(next) {
				next = change
			}
		}
	}
	if d.Resting != nil && d.Resting.Since.After(at) && d.Resting.Since.Before(next) {
		return d.Resting.Since
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
	return b.To.admits(to.Source) && lately(b.When, to.At)
}

// lately tells whether times hold at a moment, or did within LeadsOn.
func lately(times *window.Times, at time.Time) bool {
	return times == nil || times.Holds(at) || len(times.Between(at.Add(-LeadsOn), at)) > 0
}
