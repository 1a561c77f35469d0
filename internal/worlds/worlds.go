// Package worlds makes up worlds of visitors whose true values are known, from fixed seeds, and
// holds what readings say against them: whether counts are exact, whether intervals hold the truth as
// often as they are said to, whether what is called is there, and how often something is called
// where nothing is. `make worlds` goes through two hundred of each kind; docs/numbers.md has its table.
package worlds

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/stats"
	"jundle/internal/core/traffic"
)

// Finding is how often something held, and how often it has to.
type Finding struct {
	What string
	// Held is in how many cases of how many it held.
	Held, Of int
	// Least and Most bound the share of them.
	Least, Most float64
}

// Share is how often it held.
func (f Finding) Share() float64 { return float64(f.Held) / float64(max(1, f.Of)) }

// Interval is between what the share would be of any number of worlds (95 %, Wilson).
func (f Finding) Interval() stats.Interval { return stats.Wilson(f.Held, f.Of) }

// Holds tells whether the share is within its bounds. What must not happen too often is held by the upper end of its
// interval, and what must be found often enough by the lower; what has bounds on both sides, by the share. Of few cases
// slack leaves room: the interval has to reach the bounds.
func (f Finding) Holds(slack bool) bool {
	between := f.Interval()
	switch {
	case f.Least == 1: // what holds always holds of few too
		return f.Held == f.Of
	case slack:
		room := 0.3 / math.Sqrt(float64(max(1, f.Of)))
		return between.High+room >= f.Least && between.Low-room <= f.Most
	case f.Least == 0:
		return between.High <= f.Most
	case f.Most == 1:
		return between.Low >= f.Least
	}
	return f.Share() >= f.Least && f.Share() <= f.Most
}

// String says it as a row of a table.
func (f Finding) String() string {
	bounds := fmt.Sprintf("%.0f to %.0f %%", 100*f.Least, 100*f.Most)
	switch {
	case f.Least == 1:
		bounds = "all"
	case f.Least == 0:
		bounds = fmt.Sprintf("at most %.0f %%", 100*f.Most)
	case f.Most == 1:
		bounds = fmt.Sprintf("at least %.0f %%", 100*f.Least)
	}
	between := f.Interval()
	return fmt.Sprintf("| %s | %d of %d | %.1f %% (%.1f to %.1f) | %s |", f.What, f.Held, f.Of, 100*f.Share(), 100*between.Low,
		100*between.High, bounds)
}

// All goes through so many worlds of each kind, or of those that are named.
func All(n int, named ...string) []Finding {
	var all []Finding
	for _, kind := range []struct {
		name string
		look func(int) []Finding
	}{
		{"counted", Counted},
		{"compared", Compared},
		{"weeks", Weeks},
		{"edits", Edits},
		{"cells", Cells},
		{"pulls", Pulls},
		{"trials", Trials},
		{"alarms", Alarms},
		{"tails", HeavyTails},
		{"partners", Partners},
	} {
		if len(named) == 0 || slices.Contains(named, kind.name) {
			all = append(all, kind.look(n)...)
		}
	}
	return all
}

// seen is how likely each place of a page is to be seen.
var seen = []float64{1, 0.85, 0.7, 0.55, 0.45, 0.35}

// world is a page of six buttons that nobody remembers from one visit to the next.
type world struct {
	random *rand.Rand
	// rates are the true chances of a click on each button, in a visit.
	rates []float64
}

func newWorld(seed, kind uint64) *world {
	w := &world{random: rand.New(rand.NewPCG(seed, kind))}
	for place := range seen {
		w.rates = append(w.rates, seen[place]*(0.05+0.35*w.random.Float64()))
	}
	return w
}

func key(button int) string { return fmt.Sprintf("button%d", button) }

var places = []string{"loft", "card", "letter", ""}

// made counts what a world made.
type made struct {
	views, visits, clicks int
	bySource              map[string]int
	takers                []int
}

// week makes so many visits within a week.
func (w *world) week(begins time.Time, visits int) ([]traffic.Event, made) {
	m := made{bySource: map[string]int{}, takers: make([]int, len(w.rates))}
	var events []traffic.Event
	add := func(e traffic.Event) {
		e.ID, e.Edition = fmt.Sprintf("%08d", len(events)), 1
		events = append(events, e)
	}
	for n := range visits {
		minute := w.random.IntN(7*24*60 - 60)
		if minute%(24*60) > 24*60-10 { // a visitor's key ends with the day (UTC), and a visit with it
			minute -= 10
		}
		at := begins.Add(time.Duration(minute) * time.Minute)
		from := places[w.random.IntN(len(places))]
		visitor := traffic.VisitorKey{byte(n), byte(n >> 8), byte(n >> 16), 1}
		add(traffic.Event{At: at, Kind: traffic.View, Source: from, Visitor: visitor})
		m.views, m.visits, m.bySource[from] = m.views+1, m.visits+1, m.bySource[from]+1
		if w.random.Float64() < 0.1 { // a crawler, which counts for nothing
			add(traffic.Event{At: at, Kind: traffic.View, Visitor: traffic.VisitorKey{9}, Flags: traffic.Crawler})
		}
		for button, rate := range w.rates {
			if w.random.Float64() >= rate {
				continue
			}
			at = at.Add(time.Duration(2+w.random.IntN(30)) * time.Second)
			click := traffic.Event{At: at, Kind: traffic.Click, Block: key(button), Source: from, Visitor: visitor}
			m.takers[button]++
			m.clicks++
			if w.random.Float64() < 0.05 { // pressed twice, which counts once
				twice := click
				twice.At = at.Add(-time.Second)
				add(twice)
			}
			add(click)
		}
	}
	return events, m
}

func (w *world) shown(int, audience.Audience) []string {
	keys := make([]string, len(w.rates))
	for i := range keys {
		keys[i] = key(i)
	}
	return keys
}

var monday = time.Date(2026, 10, 19, 0, 0, 0, 0, time.UTC) // the week in which Lisbon's clocks change

// read reads a week as Readings does.
func (w *world) read(events []traffic.Event, begins time.Time) (readings.Reading, error) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		return readings.Reading{}, err
	}
	tally := daily.NewTally(nil, nil)
	byDay := make(map[time.Time][]traffic.Event)
	for _, event := range events {
		byDay[daily.UTCDay(event.At)] = append(byDay[daily.UTCDay(event.At)], event)
	}
	for _, day := range byDay {
		tally.AddSums(daily.Sum(day, zone, w.shown))
	}
	// A day more on either side: the days of the zone are not those of UTC.
	text := begins.AddDate(0, 0, -1).Format(time.DateOnly) + ".." + begins.AddDate(0, 0, 7).Format(time.DateOnly)
	span, err := readings.ParseSpan(text, begins, begins, zone)
	return readings.Read(span, tally.Sums()), err
}
