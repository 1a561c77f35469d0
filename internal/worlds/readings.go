package worlds

import (
	"jundle/internal/core/readings"
)

// visitsAWeek is how many visits a world has in a week.
const visitsAWeek = 800

// Counted holds counts and rates of a week against what was made.
func Counted(n int) []Finding {
	exact := Finding{What: "every count is what was made: views, visits by source, clicks, takers", Least: 1, Most: 1}
	covered := Finding{What: "the interval of a button's rate holds the true rate", Least: 0.93, Most: 0.97}
	for seed := range n {
		w := newWorld(uint64(seed), 1)
		events, made := w.week(monday, visitsAWeek)
		reading, err := w.read(events, monday)
		exact.Of++
		if err == nil && same(reading, made) {
			exact.Held++
		}
		for _, block := range reading.Blocks {
			for button, rate := range w.rates {
				if block.Block != key(button) {
					continue
				}
				covered.Of++
				if !block.Total.Rate.Interval.Excludes(rate) {
					covered.Held++
				}
			}
		}
	}
	return []Finding{exact, covered}
}

func same(reading readings.Reading, made made) bool {
	total := reading.Total
	if total.Views != made.views || total.Visits != made.visits || total.Clicks != made.clicks {
		return false
	}
	for from, visits := range made.bySource {
		if from == "" {
			from = readings.Untagged
		}
		if reading.BySource[from].Visits != visits {
			return false
		}
	}
	for _, block := range reading.Blocks {
		for button, takers := range made.takers {
			if block.Block == key(button) && (block.Total.Rate.Taken != takers || block.Total.Rate.Of != made.visits) {
				return false
			}
		}
	}
	return len(reading.Blocks) == len(made.takers)
}

// Compared holds differences between two weeks against the true ones, where every visit is of somebody else.
func Compared(n int) []Finding {
	covered := Finding{What: "the interval of a difference between two weeks holds the true one", Least: 0.93, Most: 0.97}
	for seed := range n {
		w, then := newWorld(uint64(seed), 2), newWorld(uint64(seed), 3)
		first, firstErr := reading(w)
		other, otherErr := reading(then)
		if firstErr != nil || otherErr != nil {
			continue
		}
		for i, block := range first.Blocks {
			if i < len(other.Blocks) {
				covered.count(rateWithin(block.Total.Rate, other.Blocks[i].Total.Rate, w.rates[i]-then.rates[i]))
			}
		}
	}
	return []Finding{covered}
}

func reading(w *world) (readings.Reading, error) {
	events, _ := w.week(monday, visitsAWeek)
	return w.read(events, monday)
}
