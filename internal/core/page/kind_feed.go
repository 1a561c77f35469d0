package page

import (
	"strconv"

	"jundle/internal/core/destination"
	"jundle/internal/core/feed"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// maxShown is how many items of a feed one block shows.
const maxShown = 12

// Feed shows the newest of what somebody publishes elsewhere, by itself.
type Feed struct {
	Title   string      `json:"title,omitempty" spoken:"line" doc:"Above the items; at most 120 characters."`
	FeedID  string      `json:"feedId,omitempty" doc:"The feed it shows, as find-feed answers it."`
	Address string      `json:"address,omitempty" doc:"Of the feed."`
	Most    int         `json:"most" doc:"How many it shows at most: 1 to 12."`
	Shown   string      `json:"shown,omitempty" enum:"rows,cards,grid" doc:"As buttons, as cards, or as a grid of pictures."`
	Items   []feed.Item `json:"items,omitempty" doc:"What the feed has now; in answers, and left out of what is saved."`
}

func (f *Feed) name() string { return f.Title }

func (f *Feed) tidy(problems *invalid.List, where string) {
	f.Title = problems.Line(where+"/title", "The title", f.Title, MaxTitle)
	f.Address = tidyAddress(problems, where+"/address", f.Address, true)
	f.Shown = invalid.Choice(problems, where+"/shown", "way to show a feed", f.Shown, "rows", "cards", "grid")
	problems.Range(where+"/most", "The number of items", f.Most, 1, maxShown)
	if !destination.IsID(f.FeedID) {
		f.FeedID = ""
	}
	f.Items = nil
}

// Newest are the items that are shown: of a grid those with pictures.
func (f *Feed) Newest() []feed.Item {
	var newest []feed.Item
	for _, item := range f.Items {
		if len(newest) == f.Most || item.Gone {
			break
		}
		if f.Shown != "grid" || item.Picture != nil {
			newest = append(newest, item)
		}
	}
	return newest
}

// Measures implements Measured.
func (f *Feed) Measures() []Measure {
	if f.Shown != "grid" {
		return nil
	}
	return []Measure{{"columns", strconv.Itoa(min(3, max(1, len(f.Newest()))))}, {"gap", pixels(8)}, {"corners", pixels(10)}}
}

// targets are all items, those that are shown no longer included: a page that is open
// somewhere still leads to them.
func (f *Feed) targets() []Target {
	targets := make([]Target, len(f.Items))
	for i, item := range f.Items {
		targets[i] = Target{Item: item.Key, Name: item.Title, Address: item.Address}
	}
	return targets
}

func (f *Feed) links(func(link Link)) {}

func (f *Feed) pictures(visit func(where string, p *picture.Picture)) {
	for i, item := range f.Items {
		visit("items/"+strconv.Itoa(i)+"/picture", item.Picture)
	}
}

func (f *Feed) files() map[string]string { return nil }

// Texts implements Content.
func (f *Feed) Texts(string) (headings, text string) {
	for _, item := range f.Newest() {
		text += item.Title
	}
	return f.Title, text
}

func (f *Feed) facts() []fact {
	return []fact{{"feed", f.Address}, {"number of items", strconv.Itoa(f.Most)}, {"way it is shown", f.Shown}}
}

// FeedIDs are the feeds that the document shows.
func (d *Document) FeedIDs() (ids []string) {
	for _, block := range d.Blocks {
		if block.Feed != nil && block.Feed.FeedID != "" {
			ids = append(ids, block.Feed.FeedID)
		}
	}
	return ids
}

// FillFeeds writes into the document what its feeds have now, by their IDs. A feed that is
// not among them keeps what it had.
func (d *Document) FillFeeds(items map[string][]feed.Item) {
	for _, block := range d.Blocks {
		if block.Feed == nil {
			continue
		}
		if found, ok := items[block.Feed.FeedID]; ok {
			block.Feed.Items = found
		}
	}
}

// WithoutItems is the document as it is saved: without what its feeds have.
func (d Document) WithoutItems() Document {
	if len(d.FeedIDs()) == 0 {
		return d
	}
	without := d.clone()
	for _, block := range without.Blocks {
		if block.Feed != nil {
			block.Feed.Items = nil
		}
	}
	return without
}
