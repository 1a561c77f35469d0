// Package feed holds the rules of feeds that a page takes in: what is kept of their items,
// and when they are asked again. It reads no format and asks nobody.
package feed

import (
	"crypto/sha256"
	"encoding/base32"
	"slices"
	"strings"
	"time"

	"jundle/internal/core/picture"
)

const (
	// MaxItems is how many items are read of a feed, newest first.
	MaxItems = 40
	// Kept is how many items are kept of it, those that are no longer in it included.
	Kept = 80
	// Pictured is how many of the newest have their pictures fetched.
	Pictured = 12
)

// Item is one entry of a feed.
type Item struct {
	Key     string           `json:"key" doc:"What its clicks are kept under: the same for the same entry, always."`
	Title   string           `json:"title" doc:"At most 120 characters."`
	Address string           `json:"address"`
	At      time.Time        `json:"at,omitzero" required:"false" doc:"When it was published, where the feed says so."`
	Picture *picture.Picture `json:"picture,omitempty"`
	// Gone items are no longer in the feed. They lead on, and keep their figures.
	Gone bool `json:"gone,omitempty" doc:"It is no longer in the feed."`
}

// Key is the key of an entry by what identifies it in its feed.
func Key(id string) string {
	sum := sha256.Sum256([]byte(id))
	return strings.ToLower(base32.StdEncoding.EncodeToString(sum[:5]))
}

// Merge is what is kept after a feed was read: its items, newest first, each with the
// picture that it had, and behind them those that are gone.
func Merge(kept, read []Item) []Item {
	known := make(map[string]Item, len(kept))
	for _, item := range kept {
		known[item.Key] = item
	}
	merged := make([]Item, 0, Kept)
	there := make(map[string]bool)
	for _, item := range newestFirst(read) {
		if there[item.Key] || len(merged) == MaxItems {
			continue
		}
		there[item.Key] = true
		if item.Picture == nil {
			item.Picture = known[item.Key].Picture
		}
		item.Gone = false
		merged = append(merged, item)
	}
	for _, item := range kept {
		if !there[item.Key] && len(merged) < Kept {
			item.Gone = true
			merged = append(merged, item)
		}
	}
	for i := range merged {
		if i >= Pictured {
			merged[i].Picture = nil
		}
	}
	return merged
}

// newestFirst puts items in order where all say when they were published, and leaves them
// as the feed has them where not.
func newestFirst(items []Item) []Item {
	if slices.ContainsFunc(items, func(item Item) bool { return item.At.IsZero() }) {
		return items
	}
	sorted := slices.Clone(items)
	slices.SortStableFunc(sorted, func(a, b Item) int { return b.At.Compare(a.At) })
	return sorted
}

// Bounds on how often a feed is asked.
const (
	soonest = 15 * time.Minute
	usually = time.Hour
	latest  = 24 * time.Hour
)

// Answer is what came of asking a feed.
type Answer struct {
	// Failures is how often in a row there was none; 0 after a good one.
	Failures int
	// Fresh is for how long it is good (RFC 9111 s5.2.2.1); 0 where nothing was said.
	Fresh time.Duration
	// Later is when it may be asked again (RFC 9110 s10.2.3); 0 where nothing was said.
	Later time.Duration
	// Over: there is nothing any more, for good (RFC 9110 s15.5.11).
	Over bool
}

// Next is when a feed is asked again: hourly, or when what was said of it is over, but not
// more often than every quarter of an hour, and at least daily. Where it gives no answer,
// the pauses grow. spread, from 0 to 1, keeps feeds from being asked all at once.
func Next(now time.Time, of Answer, spread float64) time.Time {
	pause := usually
	switch {
	case of.Over:
		pause = latest
	case of.Failures > 0:
		pause = soonest << min(of.Failures-1, 7)
	case of.Fresh > 0:
		pause = of.Fresh
	}
	pause = min(max(pause, of.Later, soonest), latest)
	return now.Add(pause + time.Duration(spread*float64(pause)/10))
}
