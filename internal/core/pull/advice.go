package pull

import (
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Advice is an order in which a page would be pressed more, as far as that can be told.
type Advice struct {
	// Order are the blocks from the top; those that hold their places are where they were.
	Order []string
	// Gain is how many more presses there would be per 100 visits; Low and High bound it
	// (95 %).
	Gain, Low, High float64
	// Offered: even the least of it is a gain.
	Offered bool
}

// Slot is a block in its place, from the top. Blocks of one group change places among
// themselves; those of group 0 hold theirs.
type Slot struct {
	Block string
	Group int
}

// Random is where chance comes from: numbers of which each is as likely as any other.
type Random interface{ Uint64() uint64 }

const (
	// replicates are such that their quantiles are whole numbers of them (Davison and Hinkley,
	// section 2.4).
	replicates = 199
	// work is how many cells are gone through at most, in all rounds of all replicates.
	work = 40_000_000
	// rest is how many rounds a fit of resampled counts takes from that of the counts
	// themselves.
	rest = 600
)

// Advise looks for a better order: by appeal, within groups. It is found in one half of
// the visits and tried on the other, so that what chance put on top is not taken for a
// gain; how sure that is comes from a parametric bootstrap of the other half (Davison and
// Hinkley, Bootstrap Methods and their Application, 1997, sections 5.2.1 and 5.3.1): the wider
// end of the basic and of the percentile interval.
//
// Chance comes from random: with the same, the same counts give the same advice.
func Advise(cells []Cell, now []Slot, random Random) Advice {
	cells = known(cells)
	found, tried := halves(cells, random)
	first := Fit(found)
	advice := Advice{Order: make([]string, len(now))}
	enough := Fit(cells).Pulls(cells)
	sorted := byAppeal(now, first, enough)
	for i, slot := range sorted {
		advice.Order[i] = slot.Block
	}
	model := Fit(tried)
	advice.Gain = gain(model, now, sorted)
	gains := make([]float64, replicates)
	for i := range gains {
		again := resampled(tried, model, random)
		gains[i] = gain(refit(again, model), now, sorted)
	}
	slices.Sort(gains)
	const beyond = (replicates + 1) / 40 // 2.5 % at either end
	least, most := gains[beyond-1], gains[replicates-beyond]
	// The basic interval takes off again what refitting shifts, and is short where gains lie
	// skewed; the percentile interval is the other way round. Alone, either held the truth in a
	// little less than it says (`make worlds`).
	advice.Low, advice.High = min(least, 2*advice.Gain-most), max(most, 2*advice.Gain-least)
	advice.Offered = advice.Low > 0 && !slices.EqualFunc(now, sorted, func(a, b Slot) bool { return a.Block == b.Block })
	return advice
}

// byAppeal sorts the blocks of each group among their places. Those that too few were shown
// hold theirs.
func byAppeal(now []Slot, model Model, enough map[string]float64) []Slot {
	sorted := slices.Clone(now)
	places := make(map[int][]int)
	for i, slot := range now {
		if _, known := enough[slot.Block]; known && slot.Group != 0 {
			places[slot.Group] = append(places[slot.Group], i)
		}
	}
	for _, at := range places {
		blocks := make([]Slot, len(at))
		for i, place := range at {
			blocks[i] = now[place]
		}
		slices.SortStableFunc(blocks, func(a, b Slot) int {
			switch first, second := model.Appeal[a.Block], model.Appeal[b.Block]; {
			case first > second:
				return -1
			case first < second:
				return 1
			}
			return 0
		})
		for i, place := range at {
			sorted[place] = blocks[i]
		}
	}
	return sorted
}

// gain is how many more presses per 100 visits one order has than another.
func gain(m Model, before, after []Slot) float64 {
	presses := func(slots []Slot) (sum float64) {
		for i, slot := range slots {
			seen := believed(i + 1)
			if i < len(m.Seen) {
				seen = m.Seen[i]
			}
			sum += seen * m.Appeal[slot.Block]
		}
		return sum
	}
	return 100 * (presses(after) - presses(before))
}

// halves puts each visit into one of two halves.
func halves(cells []Cell, random Random) (first, second []Cell) {
	for _, c := range cells {
		takers := min(c.Takers, c.Reach)
		one := c
		one.Takers = binomial(takers, 0.5, random)
		one.Reach = one.Takers + binomial(c.Reach-takers, 0.5, random)
		two := c
		two.Takers, two.Reach = takers-one.Takers, c.Reach-one.Reach
		first, second = append(first, one), append(second, two)
	}
	return first, second
}

// resampled are cells of as many visits, clicked as a model says.
func resampled(cells []Cell, m Model, random Random) []Cell {
	again := slices.Clone(cells)
	for i, c := range again {
		if c.Reach > 0 && c.Place > 0 {
			again[i].Takers = binomial(c.Reach, m.Seen[c.Place-1]*m.Appeal[c.Block], random)
		}
	}
	return again
}

// binomial draws a number of successes.
func binomial(n int, p float64, random Random) int {
	if n <= 0 || p <= 0 {
		return 0
	}
	return int(distuv.Binomial{N: float64(n), P: min(p, 1), Src: random}.Rand())
}

// refit fits counts beginning from a model that is near.
func refit(cells []Cell, near Model) Model {
	f := newFit(cells)
	copy(f.seen, near.Seen)
	for i, name := range f.names {
		f.appeal[i] = max(near.Appeal[name], 1e-6)
	}
	f.run(min(rest, max(20, work/replicates/max(1, len(f.counts)))), 1e-7)
	return f.model()
}
