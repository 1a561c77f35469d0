package page

import (
	"fmt"
	"regexp"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Content is what a block of one kind holds. A kind implements it on a pointer;
// embed nothingElse for what it has no use for.
type Content interface {
	// name is what the block is called in lists and messages; it may be empty.
	name() string
	// tidy puts the content into the form it is stored in and notes what is
	// wrong. where is its place in the document.
	tidy(problems *invalid.List, where string)
	// targets lists what can be pressed.
	targets() []Target
	// links visits every place that leads to a destination.
	links(visit func(link Link))
	// pictures visits every picture with its place in the content.
	pictures(visit func(where string, p *picture.Picture))
	// files names files other than pictures by their place in the content.
	files() map[string]string
	// facts are what a visitor would notice a change of.
	facts() []fact
	// Texts is all that is written on the block, in the fonts of headings and of
	// text, for a page to load no more of a font than it shows. The language is
	// the page's.
	Texts(language string) (headings, text string)
}

// fact is one setting, named as it is called in the editor, with its value in
// words.
type fact struct{ name, value string }

// nothingElse is embedded by kinds that lead nowhere and show no picture.
type nothingElse struct{}

func (nothingElse) targets() []Target                               { return nil }
func (nothingElse) links(func(link Link))                           {}
func (nothingElse) pictures(func(where string, p *picture.Picture)) {}
func (nothingElse) files() map[string]string                        { return nil }

// Measured is implemented by kinds with numbers that a creator sets: CSS lengths and
// counts by their names, in order.
type Measured interface{ Measures() []Measure }

// Measure is one of them.
type Measure struct{ Name, Value string }

// HalfWide is implemented by kinds that may share a row with the block next to them.
type HalfWide interface{ IsHalfWide() bool }

// namesItself is implemented by kinds that are called after what they lead to, for
// visitors, where the creator left the name out.
type namesItself interface{ nameAfterTarget() }

// changesItself is implemented by kinds that say something else as time goes on: next is
// the next moment after at at which they do, zero for never.
type changesItself interface {
	next(at time.Time) time.Time
}

// derivesName is implemented by kinds that have no title: they are called after
// what is in them, and a change of that is said by its own name.
type derivesName interface{ derivesName() }

// Limits on texts, in characters.
const (
	MaxTitle  = 120
	MaxSecond = 160
	maxLabel  = 24
	maxEmoji  = 16
)

// Lead is what stands before a title: one of a picture, an icon and an emoji,
// or nothing.
type Lead struct {
	Picture *picture.Picture `json:"picture,omitempty"`
	Icon    *Icon            `json:"icon,omitempty"`
	Emoji   string           `json:"emoji,omitempty"`
}

func (l *Lead) tidy(problems *invalid.List, where string) {
	l.Picture.Tidy(problems, where+"/picture")
	l.Icon.tidy(problems, where+"/icon")
	l.Emoji = problems.Line(where+"/emoji", "The emoji", l.Emoji, maxEmoji)
	// One of them is shown; the first that is there stays.
	if l.Picture != nil {
		l.Icon, l.Emoji = nil, ""
	} else if l.Icon != nil {
		l.Emoji = ""
	}
}

func (l *Lead) pictures(visit func(where string, p *picture.Picture)) { visit("picture", l.Picture) }

func (l *Lead) files() map[string]string { return map[string]string{"icon": l.Icon.own()} }

func (l *Lead) facts() []fact {
	return []fact{{"picture", pictureValue(l.Picture)}, {"icon", l.Icon.words()}, {"emoji", l.Emoji}}
}

// Icon is a small sign out of one of the icon libraries, or an uploaded one.
type Icon struct {
	Set  string `json:"set" enum:"marks,signs,own" doc:"marks of networks and brands, signs for all else, or own for an uploaded one."`
	Name string `json:"name" doc:"Its name in the library, or the file name of the uploaded one."`
}

var iconName = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,59}$`)

func (i *Icon) tidy(problems *invalid.List, where string) {
	if i == nil {
		return
	}
	known := i.Set == "marks" || i.Set == "signs"
	if !(known && iconName.MatchString(i.Name) || i.Set == "own" && picture.IsName(i.Name)) {
		problems.Add(where, "This icon is none that we have. Choose it again.")
	}
}

// own is the file name of an uploaded icon.
func (i *Icon) own() string {
	if i == nil || i.Set != "own" {
		return ""
	}
	return i.Name
}

func (i *Icon) words() string {
	switch {
	case i == nil:
		return ""
	case i.Set == "own":
		return "one of your own"
	}
	return i.Name
}

func pictureValue(p *picture.Picture) string {
	if p == nil {
		return ""
	}
	return p.Media
}

// tidyAddress stores an address in its parsed form. An empty one is fine where
// it is optional.
func tidyAddress(problems *invalid.List, where, text string, optional bool) string {
	if optional && invalid.OneLine(text) == "" {
		return ""
	}
	link, err := address.ParseTyped(text)
	if err != nil {
		problems.Add(where, "%s", err.Error())
		return text
	}
	return link.URL
}

// tidyItems checks that the several items of a block each have a key of their
// own, by which their clicks are told apart.
func tidyItems(problems *invalid.List, where, what string, keys []string, most int) {
	if len(keys) > most {
		problems.Add(where, "There can be at most %d %s; these are %d. Nothing was added.", most, what, len(keys))
	}
	seen := map[string]bool{}
	for i, key := range keys {
		if !keyPattern.MatchString(key) || seen[key] {
			problems.Add(fmt.Sprintf("%s/%d/key", where, i), "Number %d of the %s has no key of its own.", i+1, what)
		}
		seen[key] = true
	}
}
