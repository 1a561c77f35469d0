package pull

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// part is blocks and places that hang together. What is known of it are the logarithms of the appeals of its blocks, and of
// how likely its places are to be seen, but for the first place, which the others are held against.
type part struct {
	blocks, places []int
	// plain and spread are the estimates and their covariance; mean and shrunk the same once it is allowed for that what
	// stands out does so partly by chance.
	plain, mean    *mat.VecDense
	spread, shrunk *mat.SymDense
	freedom, level float64
	// levelOff is by how much the level may be off, and levelFreedom how well that is known: editions are more than one.
	levelOff, levelFreedom float64
	differ                 bool
	// looks are the logarithms of how likely places are to be seen, where that is measured; nil where it is fitted.
	looks []float64
}

// fitted is a fit of all parts together.
type fitted struct {
	estimate *mat.VecDense
	spread   *mat.SymDense
	freedom  float64
	level    float64 // the mean logarithm of the levels of editions
	levelOff float64 // the standard error of that mean
	editions int
	placeAt  map[int]int
}

// differsBelow is the p-value of all blocks of a part drawing alike, below which they surely do not.
const differsBelow = 0.025

// solve fits a block's appeal, a place's being seen and an edition's level to the logarithms of rates by weighted least
// squares. Editions differ by more than chance: a block draws more in one than in another. How much is estimated from what
// the model leaves unexplained, and is added to the variance of each spot, so that a page that drifts is not taken for one
// whose order matters. It reports false where there is nothing that leaves anything unexplained.
//
// Sources: DerSimonian and Laird, Controlled Clinical Trials 7 (1986) 177-188, for the variance between; Knapp and Hartung,
// Statistics in Medicine 22 (2003) 2693-2710, for the scale and Student's law. From memory.
func solve(spots []spot, parts []part, blocks int) (f fitted, ok bool) {
	// Columns: appeals, then places but for the first of each part, then editions but for the first.
	columns := blocks
	f.placeAt = make(map[int]int)
	for _, one := range parts {
		for i, place := range one.places {
			if i > 0 {
				f.placeAt[place] = columns
				columns++
			}
		}
	}
	editionAt := make(map[int]int)
	for _, s := range spots {
		if _, known := editionAt[s.edition]; !known {
			editionAt[s.edition] = -1
			if len(editionAt) > 1 {
				editionAt[s.edition] = columns
				columns++
			}
		}
	}
	rows := make([][]int, len(spots))
	for i, s := range spots {
		rows[i] = []int{s.block}
		if at, other := f.placeAt[s.place]; other {
			rows[i] = append(rows[i], at)
		}
		if at := editionAt[s.edition]; at >= 0 {
			rows[i] = append(rows[i], at)
		}
	}
	f.freedom = float64(len(spots) - columns)
	if f.freedom < 1 {
		return f, false
	}
	between := betweenOf(spots, rows, columns, f.freedom)
	estimate, inverse, squares, done := leastSquares(spots, rows, columns, between)
	if !done {
		return f, false
	}
	scale := max(1, squares/f.freedom)
	inverse.ScaleSym(scale, inverse)
	f.estimate, f.spread = estimate, inverse
	levels := make([]float64, 1, len(editionAt)) // that of the first is 0
	for _, at := range editionAt {
		if at >= 0 {
			levels = append(levels, estimate.AtVec(at))
		}
	}
	slices.Sort(levels) // sums of the same numbers in another order differ in the last digit
	f.editions = len(levels)
	f.level = stat.Mean(levels, nil)
	if f.editions > 1 {
		f.levelOff = stat.StdDev(levels, nil) / math.Sqrt(float64(f.editions))
	}
	return f, true
}

// betweenOf is the variance between editions that chance does not explain.
func betweenOf(spots []spot, rows [][]int, columns int, freedom float64) float64 {
	_, inverse, squares, done := leastSquares(spots, rows, columns, 0)
	if !done {
		return 0
	}
	// The expected sum of squares grows with it by the trace of W - W X (X'WX)^-1 X'W.
	trace := 0.0
	for i, s := range spots {
		weight := 1 / s.variance
		hat := 0.0
		for _, a := range rows[i] {
			for _, b := range rows[i] {
				hat += inverse.At(a, b)
			}
		}
		trace += weight - weight*weight*hat
	}
	if trace <= 0 {
		return 0
	}
	return max(0, (squares-freedom)/trace)
}

func leastSquares(spots []spot, rows [][]int, columns int, between float64) (*mat.VecDense, *mat.SymDense, float64, bool) {
	information, right := mat.NewSymDense(columns, nil), mat.NewVecDense(columns, nil)
	for i, s := range spots {
		weight := 1 / (s.variance + between)
		for _, a := range rows[i] {
			right.SetVec(a, right.AtVec(a)+weight*s.rate)
			for _, b := range rows[i] {
				if a <= b {
					information.SetSym(a, b, information.At(a, b)+weight)
				}
			}
		}
	}
	for i := range columns { // an edition that has nothing in common with the others has no level of its own
		information.SetSym(i, i, information.At(i, i)*(1+1e-10)+1e-10)
	}
	var factors mat.Cholesky
	if !factors.Factorize(information) {
		return nil, nil, 0, false
	}
	var estimate mat.VecDense
	var inverse mat.SymDense
	if factors.SolveVecTo(&estimate, right) != nil || factors.InverseTo(&inverse) != nil {
		return nil, nil, 0, false
	}
	squares := 0.0
	for i, s := range spots {
		off := s.rate
		for _, a := range rows[i] {
			off -= estimate.AtVec(a)
		}
		squares += off * off / (s.variance + between)
	}
	return &estimate, &inverse, squares, true
}

// take takes what is its own out of a fit.
func (p *part) take(f fitted) {
	own := slices.Clone(p.blocks)
	for _, place := range p.places[1:] {
		own = append(own, f.placeAt[place])
	}
	p.plain, p.spread = mat.NewVecDense(len(own), nil), mat.NewSymDense(len(own), nil)
	for i, a := range own {
		p.plain.SetVec(i, f.estimate.AtVec(a))
		for j, b := range own {
			if i <= j {
				p.spread.SetSym(i, j, f.spread.At(a, b))
			}
		}
	}
	p.freedom, p.level, p.levelOff, p.levelFreedom = f.freedom, f.level, f.levelOff, float64(f.editions-1)
}

// shrink draws the appeals towards their mean, by as much as they differ by chance alone: the best of many has had luck, and
// what is promised of it would not come. It is the posterior mean where appeals are normal with a variance that is estimated
// from how far they differ.
//
// Source: Efron and Morris, Journal of the American Statistical Association 70 (1975) 311-319; Robinson, Statistical Science
// 6 (1991) 15-51 (from memory).
func (p *part) shrink() {
	n, size := len(p.blocks), p.plain.Len()
	p.mean, p.shrunk = p.plain, p.spread
	centred := mat.NewDense(n-1, size, nil) // each appeal against the last
	for i := range n - 1 {
		centred.Set(i, i, 1)
		centred.Set(i, n-1, -1)
	}
	var off mat.VecDense
	off.MulVec(centred, p.plain)
	var half, spread mat.Dense
	half.Mul(centred, p.spread)
	spread.Mul(&half, centred.T())
	var solved mat.VecDense
	if solved.SolveVec(&spread, &off) != nil {
		return
	}
	ratio := mat.Dot(&off, &solved) / float64(n-1)
	p.differ = distuv.F{D1: float64(n - 1), D2: p.freedom}.Survival(ratio) < differsBelow
	mean, squares, chance := 0.0, 0.0, 0.0
	for i := range n {
		mean += p.plain.AtVec(i) / float64(n)
	}
	for i := range n {
		squares += math.Pow(p.plain.AtVec(i)-mean, 2)
		chance += p.spread.At(i, i)
		for j := range n {
			chance -= p.spread.At(i, j) / float64(n)
		}
	}
	own := (squares - chance) / float64(n-1)
	if own <= 0 {
		own = 1e-6
	}
	var before mat.SymDense
	var factors mat.Cholesky
	if !factors.Factorize(p.spread) || factors.InverseTo(&before) != nil {
		return
	}
	precision := mat.NewSymDense(size, nil)
	precision.CopySym(&before)
	for i := range n {
		for j := i; j < n; j++ {
			drawn := -1 / float64(n)
			if i == j {
				drawn++
			}
			precision.SetSym(i, j, precision.At(i, j)+drawn/own)
		}
	}
	var right, shrunk mat.VecDense
	right.MulVec(&before, p.plain)
	var after mat.SymDense
	if !factors.Factorize(precision) || factors.SolveVecTo(&shrunk, &right) != nil || factors.InverseTo(&after) != nil {
		return
	}
	p.mean, p.shrunk = &shrunk, &after
}

// look is the logarithm of how likely a place of the part is to be seen, against its first.
func (p *part) look(place int) float64 {
	if at := slices.Index(p.places, place); at >= 0 {
		return p.lookAt(at, p.mean)
	}
	return 0
}

// lookAt is the same for a place by its number within the part, if it is as of.
func (p *part) lookAt(at int, of *mat.VecDense) float64 {
	switch {
	case p.looks != nil:
		return p.looks[at]
	case at > 0:
		return of.AtVec(len(p.blocks) + at - 1)
	}
	return 0
}
