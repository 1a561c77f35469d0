// Package pull tells how much a block of a page draws, whatever its place: a block far
// down is seen by fewer. The chance of a click on a block at a place is the chance that the place is seen times the
// appeal of the block: the position-based click model (Chuklin, Markov, de Rijke, Click Models for Web Search, 2015,
// chapter 3). Of its logarithm that is a sum, which is fitted with a level for each edition.
//
// Place and appeal can be told apart only where blocks changed places: within a part of the page whose blocks and places
// hang together by that. Elsewhere nothing is said.
package pull

import (
	"cmp"
	"math"
	"slices"
)

// Enough is how many visits must have been shown a block before anything is said of it.
const Enough = 30

// Cell is what one block at a place of one edition brought from a source: in how many visits it was shown, and in how many
// of these it was clicked. Places count from 1.
type Cell struct {
	Edition, Place int
	Block, Source  string
	Reach, Takers  int
}

// Model is what was fitted.
type Model struct {
	// Seen is how likely each place of the largest part is to be seen, from the first; that which is seen most is 1, unless
	// that is measured. It is NaN of other places: against these it cannot be told.
	Seen []float64
	// Pulls are the appeals of blocks that enough visits were shown, against the mean of those of their part.
	Pulls map[string]float64
	// Few tells that no block was shown in enough visits.
	Few bool
	// Differ tells whether the blocks of any part surely draw in different measure.
	Differ bool

	parts []part
	names []string // of blocks, by number
}

// spot is a block at a place of an edition, with the logarithm of its rate.
type spot struct {
	edition, place, block int
	rate, variance        float64
}

// Fit fits the model. It is exact in one step; there is nothing to converge.
func Fit(cells []Cell) Model {
	spots, blocks, places := spotsOf(cells)
	model := newModel(blocks, places)
	parts := partsOf(spots, len(blocks), places)
	fitted, ok := solve(spots, parts, len(blocks))
	if !ok {
		return model
	}
	for i := range parts {
		one := &parts[i]
		if one.take(fitted); len(one.places) >= 2 {
			model.add(*one)
		}
	}
	model.see()
	return model
}

// newModel is that of which nothing is known yet.
func newModel(blocks []string, places int) Model {
	model := Model{Seen: make([]float64, places), Pulls: make(map[string]float64), Few: len(blocks) == 0, names: blocks}
	for i := range model.Seen {
		model.Seen[i] = math.NaN()
	}
	return model
}

// add takes in a part that was fitted, where there are blocks in it to tell apart.
func (m *Model) add(one part) {
	if len(one.blocks) < 2 {
		return
	}
	one.shrink()
	m.parts = append(m.parts, one)
	m.Differ = m.Differ || one.differ
	mean := 0.0
	for i := range one.blocks {
		mean += math.Exp(one.mean.AtVec(i)) / float64(len(one.blocks))
	}
	for i, block := range one.blocks {
		m.Pulls[m.names[block]] = math.Exp(one.mean.AtVec(i)) / mean
	}
}

// see notes how likely the places of the largest part are to be seen.
func (m *Model) see() {
	if len(m.parts) == 0 {
		return
	}
	largest := slices.MaxFunc(m.parts, func(a, b part) int { return len(a.places) - len(b.places) })
	most := math.Inf(-1)
	for _, place := range largest.places {
		most = max(most, largest.look(place))
	}
	for _, place := range largest.places {
		m.Seen[place] = math.Exp(largest.look(place) - most)
	}
}

// spotsOf puts the sources of a block together as if the same part of visits came from each in every edition: sources that
// press other things would seem to change what a block draws when their mix shifts.
func spotsOf(cells []Cell) (spots []spot, blocks []string, places int) {
	type where struct {
		edition, place int
		block          string
	}
	reach, bySource := make(map[string]int), make(map[[2]string]int)
	at := make(map[where][]Cell)
	for _, c := range cells {
		if c.Reach <= 0 || c.Place < 1 {
			continue
		}
		c.Takers = min(c.Takers, c.Reach)
		reach[c.Block] += c.Reach
		bySource[[2]string{c.Block, c.Source}] += c.Reach
		key := where{c.Edition, c.Place, c.Block}
		at[key] = append(at[key], c)
	}
	numbers := make(map[string]int)
	for _, block := range sortedKeys(reach) {
		if reach[block] >= Enough {
			numbers[block] = len(blocks)
			blocks = append(blocks, block)
		}
	}
	for key, of := range at {
		number, known := numbers[key.block]
		if !known {
			continue
		}
		share, rate, variance := 0.0, 0.0, 0.0
		for _, c := range of {
			share += float64(bySource[[2]string{c.Block, c.Source}])
		}
		for _, c := range of {
			weight := float64(bySource[[2]string{c.Block, c.Source}]) / share
			one := (float64(c.Takers) + 0.5/float64(len(of))) / (float64(c.Reach) + 1/float64(len(of)))
			rate += weight * one
			variance += weight * weight * one * (1 - one) / float64(c.Reach)
		}
		places = max(places, key.place)
		spots = append(spots, spot{key.edition, key.place - 1, number, math.Log(rate), max(variance, 1e-12) / rate / rate})
	}
	slices.SortFunc(spots, func(a, b spot) int {
		return cmp.Or(cmp.Compare(a.edition, b.edition), cmp.Compare(a.place, b.place), cmp.Compare(a.block, b.block))
	})
	return spots, blocks, places
}

func sortedKeys(of map[string]int) []string {
	keys := make([]string, 0, len(of))
	for key := range of {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// partsOf are the parts of a page whose blocks and places hang together: a block hangs together with every place it had.
func partsOf(spots []spot, blocks, places int) []part {
	root := make([]int, blocks+places)
	for i := range root {
		root[i] = i
	}
	find := func(i int) int {
		for root[i] != i {
			root[i] = root[root[i]]
			i = root[i]
		}
		return i
	}
	there := make([]bool, blocks+places)
	for _, s := range spots {
		there[s.block], there[blocks+s.place] = true, true
		root[find(s.block)] = find(blocks + s.place)
	}
	var parts []part
	number := make(map[int]int)
	for i := range root {
		if !there[i] {
			continue
		}
		top := find(i)
		if _, known := number[top]; !known {
			number[top] = len(parts)
			parts = append(parts, part{})
		}
		one := &parts[number[top]]
		if i < blocks {
			one.blocks = append(one.blocks, i)
		} else {
			one.places = append(one.places, i-blocks)
		}
	}
	return parts
}
