package pagecheck

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

// Facts are what is known of a page beside what stands on it.
type Facts struct {
	Now time.Time
	// Sources are those that visitors may come from, by ID.
	Sources map[string]bool
	// Links are what came of asking the page's destinations, by their IDs.
	Links map[string]linkcheck.Result
	// Shown are the visits of the last weeks that had a block before them, and Clicks those on it, both by block.
	Shown, Clicks map[string]int
	// Zone is that of the workspace, by whose clocks times are said; UTC when nil.
	Zone *time.Location
	// Bytes is how long the page is as it is sent, compressed.
	Bytes int
	// MediaBytes is how much its pictures and films take on a phone.
	MediaBytes int64
	// Feeds are what was wrong with the page's feeds when they were asked last, in words, by
	// their IDs; empty for nothing. One that is not among them is not there.
	Feeds map[string]string
	// NoMail: no letters are sent, so that nobody can confirm an address.
	NoMail bool
	// NoPayments: no payment service is connected.
	NoPayments bool
}

const (
	// manyBlocks is how many blocks a page has before it is asked whether anybody gets
	// to the last ones.
	manyBlocks = 12
	// fewBelow is how many blocks that nobody presses are one or two by chance.
	fewBelow = 3
	// enoughVisits is how many visits have to have been shown a block to say so (rules of how sure figures are).
	enoughVisits = 30
	// firstFlight is what a server sends before it hears back: ten segments of 1,460
	// bytes. Source: RFC 6928, section 2.
	firstFlight = 10 * 1460
	// heavyMedia is how much pictures and films take before it is said: five seconds of
	// slowLine.
	heavyMedia = 1_000_000
	// slowLine is what comes over a slow line of a phone in a second: 1.6 Mbit, as tools
	// that imitate one assume (common practice).
	slowLine = 200_000
)

// Check lists what is wrong or weak about a page, faults first, in the order of the page.
func Check(doc page.Document, facts Facts) []Finding {
	found := []Finding{}
	found = append(found, wholePage(doc, facts)...)
	leads := make(map[string]string) // what leads to a destination first, by its key
	for _, row := range doc.Rows() {
		found = append(found, links(doc, row, facts)...)
	}
	for _, block := range doc.SwitchedOn() {
		found = append(found, ofBlock(block.Block, facts, leads)...)
	}
	found = append(found, ofLook(doc)...)
	order := positions(doc)
	slices.SortStableFunc(found, func(a, b Finding) int {
		if a.Weight != b.Weight {
			return strings.Compare(string(b.Weight), string(a.Weight)) // wrong before weak
		}
		return order[a.Row] - order[b.Row]
	})
	return found
}

// positions is where rows stand, from the top.
func positions(doc page.Document) map[string]int {
	order := map[string]int{"page": 0, "header": 1, page.IconsKey: 2, page.FooterKey: len(doc.Blocks) + 4, "look": len(doc.Blocks) + 5}
	for i, block := range doc.Blocks {
		order[block.Key] = i + 3
	}
	return order
}

func wholePage(doc page.Document, facts Facts) []Finding {
	l := &list{row: "page", name: "The page"}
	if doc.When != nil && doc.When.StateAt(facts.Now) == window.Over {
		l.add("over", Wrong, "The times in which the page shows are over.", "Visitors are told that it is not open.", nil)
	}
	l.gate(doc.Gate)
	if facts.Bytes > firstFlight {
		l.add("heavy", Weak, fmt.Sprintf("The page itself takes %.0f kB.", float64(facts.Bytes)/1000),
			"What is longer than 14 kB needs a second round trip before it is whole, which takes a moment on a phone.", nil)
	}
	if facts.MediaBytes > heavyMedia {
		l.add("media", Weak, fmt.Sprintf("Its pictures and films take %.1f MB on a phone.", float64(facts.MediaBytes)/1e6),
			fmt.Sprintf("On a slow line that takes %d seconds, and whoever pays by the megabyte pays for it. Use fewer, or smaller ones.",
				facts.MediaBytes/slowLine), nil)
	}
	if blocks := doc.SwitchedOn(); len(blocks) > manyBlocks {
		last := lastPressed(blocks, facts.Clicks)
		below, visits := shownBelow(blocks, last, facts.Shown)
		if below > fewBelow {
			l.add(
				"crowded",
				Weak,
				fmt.Sprintf("Nobody pressed any of the %d blocks below place %d that %d visits or more were shown.", below, last, visits),
				"People scroll only so far. Move up what matters, and take out what does not.",
				nil,
			)
		}
	}
	return l.found
}

// shownBelow counts the blocks below a place that enough visits were shown to say that nobody presses them, and says how
// many visits each was shown at least. What went live a moment ago is not among them, nor what leads nowhere.
func shownBelow(blocks []page.Placed, last int, shown map[string]int) (below, visits int) {
	for _, block := range blocks {
		if n := shown[block.Key]; block.Place > last && n >= enoughVisits {
			if below++; below == 1 || n < visits {
				visits = n
			}
		}
	}
	return below, visits
}

// said is a moment as a creator reads it, by the clocks of the workspace.
func (f Facts) said(at time.Time) string {
	zone := f.Zone
	if zone == nil {
		zone = time.UTC
	}
	return at.In(zone).Format("2 Jan 15:04")
}

// lastPressed is the lowest place at which anything was pressed.
func lastPressed(blocks []page.Placed, clicks map[string]int) int {
	for _, block := range slices.Backward(blocks) {
		if clicks[block.Key] > 0 {
			return block.Place
		}
	}
	return 0
}

// ofLook are the texts and edges of the page that cannot be made out.
func ofLook(doc page.Document) []Finding {
	l := &list{row: "look", name: "Look"}
	for _, figure := range doc.Contrast() {
		if figure.Passes {
			continue
		}
		l.row, l.name = "look", "Look"
		if rest, own := strings.CutPrefix(figure.Where, "blocks/"); own {
			key, _, _ := strings.Cut(rest, "/")
			block, _ := doc.Find(key)
			if !block.Shown {
				continue
			}
			l.row, l.name = key, block.Title()
		}
		l.add(
			"contrast",
			Wrong,
			fmt.Sprintf("%s: the contrast is %.2f, and %.1f is needed.", figure.Description, figure.Ratio, figure.Need),
			"Who sees less well, or stands in the sun, cannot read it (WCAG 2.2, 1.4.3 and 1.4.11).",
			readable(doc, figure),
		)
	}
	return l.found
}

// OnSlowLine is how long so many bytes take to come over a slow line of a phone.
func OnSlowLine(bytes int64) time.Duration {
	return time.Duration(bytes) * time.Second / slowLine
}
