// Package pull tells how much a block of a page draws, whatever its place: a block far
// down is seen by fewer. It fits a position-based click model, in which the chance of a
// click on a block at a place is the chance that the place is seen times the appeal of
// the block (Chuklin, Markov, de Rijke, Click Models for Web Search, 2015, chapter 3).
package pull

import (
	"maps"
	"math"
	"slices"
)

// Enough is how many visits must have been shown a block before anything is said of it.
const Enough = 30

// Cell is what came of a block at a place of one edition: in how many visits it was shown,
// and in how many of these it was clicked. Places count from 1.
type Cell struct {
	Edition, Place int
	Block          string
	Reach, Takers  int
}

// Model is what was fitted. Seen[0] is the first place, and 1.
type Model struct {
	Seen   []float64
	Appeal map[string]float64
}

const (
	rounds = 500
	// settled is how little a round changes when there is nothing more to be found.
	settled = 1e-9
	// weight is how many visits what is believed beforehand counts for.
	weight = 30.0
)

// believed is how likely a place is to be seen before anything is known: it falls with
// the place.
func believed(place int) float64 { return 1 / (1 + 0.1*float64(place-1)) }

// Fit fits the model by expectation-maximisation, with a weak prior on how likely each
// place is to be seen.
func Fit(cells []Cell) Model {
	cells = slices.DeleteFunc(slices.Clone(cells), func(c Cell) bool { return c.Reach <= 0 || c.Place < 1 })
	m := Model{Appeal: make(map[string]float64)}
	reach, takers := 0, 0
	for _, c := range cells {
		for len(m.Seen) < c.Place {
			m.Seen = append(m.Seen, believed(len(m.Seen)+1))
		}
		reach, takers = reach+c.Reach, takers+min(c.Takers, c.Reach)
	}
	if reach == 0 {
		return m
	}
	for _, c := range cells {
		m.Appeal[c.Block] = (float64(takers) + 1) / (float64(reach) + 2)
	}
	for range rounds {
		if m.round(cells) < settled {
			break
		}
	}
	return m
}

// round takes one step, and returns by how much anything changed at most.
func (m *Model) round(cells []Cell) (moved float64) {
	type share struct{ had, of float64 }
	places := make([]share, len(m.Seen))
	for i := range places {
		places[i] = share{weight * believed(i+1), weight}
	}
	blocks := make(map[string]share, len(m.Appeal))
	for _, c := range cells {
		n, clicked := float64(c.Reach), float64(min(c.Takers, c.Reach))
		seen, appeal := m.Seen[c.Place-1], m.Appeal[c.Block]
		// Who did not click may have seen it and passed on, or never have come so far.
		rest := math.Max(1-seen*appeal, 1e-12)
		place, block := places[c.Place-1], blocks[c.Block]
		places[c.Place-1] = share{place.had + clicked + (n-clicked)*seen*(1-appeal)/rest, place.of + n}
		blocks[c.Block] = share{block.had + clicked + (n-clicked)*appeal*(1-seen)/rest, block.of + n}
	}
	for i, place := range places {
		next := place.had / place.of
		if i == 0 {
			next = 1
		}
		moved = math.Max(moved, math.Abs(next-m.Seen[i]))
		m.Seen[i] = next
	}
	for block, s := range blocks {
		next := s.had / s.of
		moved = math.Max(moved, math.Abs(next-m.Appeal[block]))
		m.Appeal[block] = next
	}
	return moved
}

// Pulls are the pull of each block that enough visits were shown: its takers against what
// an average block would get at the places at which it was shown. 1 is average.
func (m Model) Pulls(cells []Cell) map[string]float64 {
	reach, takers, seen := make(map[string]int), make(map[string]int), make(map[string]float64)
	all, allSeen := 0, 0.0
	for _, c := range cells {
		if c.Reach <= 0 || c.Place < 1 {
			continue
		}
		shown := float64(c.Reach) * m.Seen[c.Place-1]
		reach[c.Block], takers[c.Block], seen[c.Block] = reach[c.Block]+c.Reach, takers[c.Block]+c.Takers, seen[c.Block]+shown
		all, allSeen = all+c.Takers, allSeen+shown
	}
	pulls := make(map[string]float64)
	if all == 0 {
		return pulls
	}
	average := float64(all) / allSeen
	for block := range maps.Keys(reach) {
		if reach[block] >= Enough {
			pulls[block] = float64(takers[block]) / (seen[block] * average)
		}
	}
	return pulls
}
