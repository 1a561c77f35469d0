// Package pull tells how much a block of a page draws, whatever its place: a block far
// down is seen by fewer. It fits a position-based click model, in which the chance of a
// click on a block at a place is the chance that the place is seen times the appeal of
// the block (Chuklin, Markov, de Rijke, Click Models for Web Search, 2015, chapter 3).
package pull

import (
	"maps"
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
	rounds = 5000
	// settled is how little a round changes when there is nothing more to be found.
	settled = 1e-9
	// weight is how many visits what is believed beforehand counts for.
	weight = 1.0
)

// believed is how likely a place is to be seen before anything is known: it falls with
// the place.
func believed(place int) float64 { return 1 / (1 + 0.1*float64(place-1)) }

// Fit fits the model by expectation-maximisation, with a weak prior on how likely each
// place is to be seen.
func Fit(cells []Cell) Model {
	f := newFit(cells)
	f.run(rounds, settled)
	return f.model()
}

// fit is a model on its way, with blocks by number.
type fit struct {
	counts []count
	names  []string
	seen   []float64
	appeal []float64
	// What is added up in a round, clicks and looks; before is what is believed beforehand.
	placeHad, blockHad, before []float64
	// Of how many visits that is, one divided by it.
	placeShare, blockShare []float64
}

// count is a cell: how many visits clicked, and how many passed.
type count struct {
	place, block    int
	clicked, passed float64
}

func newFit(cells []Cell) *fit {
	f := &fit{}
	numbers := make(map[string]int)
	reach, takers := 0, 0
	for _, c := range known(cells) {
		for len(f.seen) < c.Place {
			f.seen = append(f.seen, believed(len(f.seen)+1))
			f.before, f.placeShare = append(f.before, weight*believed(len(f.seen))), append(f.placeShare, weight)
		}
		if _, there := numbers[c.Block]; !there {
			numbers[c.Block] = len(f.names)
			f.names, f.blockShare = append(f.names, c.Block), append(f.blockShare, 0)
		}
		block, clicked := numbers[c.Block], min(c.Takers, c.Reach)
		f.counts = append(f.counts, count{c.Place - 1, block, float64(clicked), float64(c.Reach - clicked)})
		f.placeShare[c.Place-1] += float64(c.Reach)
		f.blockShare[block] += float64(c.Reach)
		reach, takers = reach+c.Reach, takers+clicked
	}
	f.appeal = make([]float64, len(f.names))
	for i := range f.appeal {
		f.appeal[i] = (float64(takers) + 1) / (float64(reach) + 2)
	}
	for _, of := range [][]float64{f.placeShare, f.blockShare} {
		for i := range of {
			of[i] = 1 / of[i]
		}
	}
	f.placeHad, f.blockHad = make([]float64, len(f.seen)), make([]float64, len(f.names))
	return f
}

// known are the cells that say anything, those of one block at one place together: on
// which edition that was makes no difference to the model.
func known(cells []Cell) []Cell {
	type spot struct {
		block string
		place int
	}
	var together []Cell
	at := make(map[spot]int)
	for _, c := range cells {
		if c.Reach <= 0 || c.Place < 1 {
			continue
		}
		i, there := at[spot{c.Block, c.Place}]
		if !there {
			at[spot{c.Block, c.Place}] = len(together)
			together = append(together, Cell{Place: c.Place, Block: c.Block, Reach: c.Reach, Takers: c.Takers})
			continue
		}
		together[i].Reach += c.Reach
		together[i].Takers += c.Takers
	}
	return together
}

// run takes so many rounds at most, until one changes nothing by more than least.
func (f *fit) run(most int, least float64) {
	for range most {
		if f.round() < least {
			return
		}
	}
}

// round takes one step, and returns by how much anything changed at most.
func (f *fit) round() (moved float64) {
	copy(f.placeHad, f.before)
	clear(f.blockHad)
	for _, c := range f.counts {
		seen, appeal := f.seen[c.place], f.appeal[c.block]
		// Who did not click may have seen it and passed on, or never have come so far.
		passed := c.passed / max(1-seen*appeal, 1e-12)
		f.placeHad[c.place] += c.clicked + passed*seen*(1-appeal)
		f.blockHad[c.block] += c.clicked + passed*appeal*(1-seen)
	}
	for i, had := range f.placeHad {
		next := min(1, had*f.placeShare[i]) // sums are rounded
		if i == 0 {
			next = 1
		}
		moved = max(moved, abs(next-f.seen[i]))
		f.seen[i] = next
	}
	for i, had := range f.blockHad {
		next := min(1, had*f.blockShare[i])
		moved = max(moved, abs(next-f.appeal[i]))
		f.appeal[i] = next
	}
	return moved
}

// abs is math.Abs where it is called in every round.
func abs(x float64) float64 {
	if x < 0 {
		return -x
	}
	return x
}

func (f *fit) model() Model {
	m := Model{Seen: slices.Clone(f.seen), Appeal: make(map[string]float64, len(f.names))}
	for i, name := range f.names {
		m.Appeal[name] = f.appeal[i]
	}
	return m
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
