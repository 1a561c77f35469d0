package pull

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
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
	// Untold is how many of the blocks that could move stand at places of which nothing can be told, because none of them
	// ever changed places with another.
	Untold int
}

// Slot is a block in its place, from the top. Blocks of one group change places among
// themselves; those of group 0 hold theirs.
type Slot struct {
	Block string
	Group int
}

// Random is where chance comes from: numbers of which each is as likely as any other.
type Random interface{ Uint64() uint64 }

// draws are such that their quantiles are whole numbers of them (Davison and Hinkley, Bootstrap Methods and their
// Application, 1997, section 2.4).
const draws = 1999

// Advise looks for a better order: by appeal, within groups and within parts of the page of which it can be told. It is
// offered only where its blocks surely draw in different measure and even the least of the gain is one. Between what the
// gain lies are quantiles of what appeals and places may be, after what stands out was drawn towards the mean.
//
// Chance comes from random: with the same, the same counts give the same advice.
func (m Model) Advise(now []Slot, random Random) Advice {
	advice := Advice{}
	sorted := slices.Clone(now)
	inParts := make([]bool, len(now))
	for _, one := range m.parts {
		one.sort(now, sorted, m.names, inParts)
	}
	for i, slot := range sorted {
		advice.Order = append(advice.Order, slot.Block)
		if now[i].Group != 0 && !inParts[i] {
			advice.Untold++
		}
	}
	gains := make([]float64, draws)
	for _, one := range m.parts {
		before, after := one.slotsIn(now, m.names), one.slotsIn(sorted, m.names)
		advice.Gain += one.gain(one.mean, one.level, before, after)
		drawn, draw := make([]*mat.VecDense, draws), one.drawing(random)
		for i := range drawn {
			drawn[i] = mat.VecDenseCopyOf(draw())
		}
		level := one.levels(random)
		for i := range gains {
			gains[i] += one.gain(drawn[i], level(), before, after)
		}
	}
	slices.Sort(gains)
	moved := !slices.Equal(now, sorted)
	const beyond = (draws + 1) / 40 // 2.5 % at either end
	advice.Low, advice.High = gains[beyond-1], gains[draws-beyond]
	advice.Offered = moved && advice.Low > 0 && m.Differ
	return advice
}

// slotsIn are the slots in which a block of the part stands at a place of the part: the number of either within it.
func (p *part) slotsIn(slots []Slot, names []string) (in [][2]int) {
	numbers := make(map[string]int, len(p.blocks))
	for i, block := range p.blocks {
		numbers[names[block]] = i
	}
	for at, slot := range slots {
		block, known := numbers[slot.Block]
		if place := slices.Index(p.places, at); known && place >= 0 {
			in = append(in, [2]int{place, block})
		}
	}
	return in
}

// sort puts the blocks of each group that are in the part in order: those that draw most where most look.
func (p *part) sort(now, sorted []Slot, names []string, inParts []bool) {
	in, places := make(map[int]int), make(map[int][]int)
	for _, slot := range p.slotsIn(now, names) {
		at := p.places[slot[0]]
		if in[at] = slot[1]; now[at].Group != 0 {
			places[now[at].Group] = append(places[now[at].Group], at)
			inParts[at] = true
		}
	}
	for _, group := range places {
		from := slices.Clone(group)
		slices.SortStableFunc(from, func(a, b int) int { return compare(p.mean.AtVec(in[b]), p.mean.AtVec(in[a])) })
		to := slices.Clone(group)
		slices.SortStableFunc(to, func(a, b int) int { return compare(p.look(b), p.look(a)) })
		for i, at := range to {
			sorted[at] = now[from[i]]
		}
	}
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// gain is how many more presses per 100 visits one order has than another, as far as the part goes, if it is as of and
// editions are at that level. No block is pressed in more visits than there are.
func (p *part) gain(of *mat.VecDense, level float64, before, after [][2]int) float64 {
	presses := func(slots [][2]int) (sum float64) {
		for _, slot := range slots {
			sum += math.Exp(min(0, level+p.lookAt(slot[0], of)+of.AtVec(slot[1])))
		}
		return sum
	}
	return 100 * (presses(after) - presses(before))
}

// levels draws the logarithm of the level of an edition like any, of which only the mean of a few is known.
func (p *part) levels(random Random) func() float64 {
	if p.levelOff == 0 {
		return func() float64 { return p.level }
	}
	return distuv.StudentsT{Mu: p.level, Sigma: p.levelOff, Nu: p.levelFreedom, Src: random}.Rand
}

// drawing draws what appeals and places may be as well: from Student's law around their means. Each draw is in place of the
// one before.
func (p *part) drawing(random Random) func() *mat.VecDense {
	var factors mat.Cholesky
	if !factors.Factorize(p.shrunk) {
		return func() *mat.VecDense { return p.mean }
	}
	var lower mat.TriDense
	factors.LTo(&lower)
	chance, drawn := mat.NewVecDense(p.mean.Len(), nil), mat.NewVecDense(p.mean.Len(), nil)
	normal, squares := distuv.Normal{Mu: 0, Sigma: 1, Src: random}, distuv.ChiSquared{K: p.freedom, Src: random}
	return func() *mat.VecDense {
		for i := range chance.Len() {
			chance.SetVec(i, normal.Rand())
		}
		drawn.MulVec(&lower, chance)
		drawn.AddScaledVec(p.mean, math.Sqrt(p.freedom/squares.Rand()), drawn)
		return drawn
	}
}
