package pull_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/pull"
)

// The model written a second time: the regression by a QR decomposition, the variance between editions by the whole matrix of
// what is left, and shrinking in the form of a prediction instead of a posterior. Sources as those of the package.
func TestTheModelAgreesWithOneByOrthogonalMatricesOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(17, 28))
	for range 1000 {
		size, editions := 2+random.IntN(4), 4+random.IntN(5)
		cells := drawnCells(random, size, editions)
		model := pull.Fit(cells)
		again := fitAgain(t, cells, size, editions)
		most := 0.0
		for place := range size {
			most = math.Max(most, math.Exp(again.AtVec(size+place)))
		}
		mean := 0.0
		for block := range size {
			mean += math.Exp(again.AtVec(block)) / float64(size)
		}
		for i := range size {
			require.InDelta(t, math.Exp(again.AtVec(size+i))/most, model.Seen[i], 1e-6)
			require.InDelta(t, math.Exp(again.AtVec(i))/mean, model.Pulls[fmt.Sprint(i)], 1e-6)
		}
	}
}

// drawnCells are of editions in some order; in the second, all blocks moved up by one place, so that all hang together.
func drawnCells(random *rand.Rand, size, editions int) (cells []pull.Cell) {
	appeals := make([]float64, size)
	for i := range appeals {
		appeals[i] = 0.05 + 0.3*random.Float64()
	}
	for edition := range editions {
		order := random.Perm(size)
		for place := range size {
			switch edition {
			case 0:
				order[place] = place
			case 1:
				order[place] = (place + 1) % size
			}
			for i, source := range []string{"a", "b"} {
				rate := math.Min(0.9, appeals[order[place]]*math.Pow(0.8, float64(place))*math.Exp(0.3*random.NormFloat64())*float64(1+i))
				reach := 100 + random.IntN(2000)
				cells = append(cells, pull.Cell{
					Edition: edition, Place: place + 1, Block: fmt.Sprint(order[place]), Source: source, Reach: reach,
					Takers: int(distuv.Binomial{N: float64(reach), P: rate, Src: random}.Rand()),
				})
			}
		}
	}
	return cells
}

// fitAgain are the logarithms of the appeals of blocks and of how likely places are to be seen.
func fitAgain(t *testing.T, cells []pull.Cell, size, editions int) *mat.VecDense {
	rates, variances, design := spotsAgain(cells, size, editions)
	solve := func(between float64) (*mat.VecDense, *mat.Dense, float64, float64) {
		n, columns := design.Dims()
		scaled, right := mat.NewDense(n, columns, nil), mat.NewVecDense(n, nil)
		for i := range n {
			root := 1 / math.Sqrt(variances[i]+between)
			for j := range columns {
				scaled.Set(i, j, root*design.At(i, j))
			}
			right.SetVec(i, root*rates[i])
		}
		var qr mat.QR
		qr.Factorize(scaled)
		var estimate, fitted mat.VecDense
		require.NoError(t, qr.SolveVecTo(&estimate, false, right))
		fitted.MulVec(scaled, &estimate)
		fitted.SubVec(right, &fitted)
		var gram, inverse, hat, half mat.Dense
		gram.Mul(scaled.T(), scaled)
		require.NoError(t, inverse.Inverse(&gram))
		half.Mul(scaled, &inverse)
		hat.Mul(&half, scaled.T())
		trace := 0.0
		for i := range n {
			trace += (1 - hat.At(i, i)) / (variances[i] + between)
		}
		return &estimate, &inverse, mat.Dot(&fitted, &fitted), trace
	}
	n, columns := design.Dims()
	freedom := float64(n - columns)
	_, _, squares, trace := solve(0)
	estimate, inverse, squares, _ := solve(math.Max(0, (squares-freedom)/trace))
	inverse.Scale(math.Max(1, squares/freedom), inverse)

	// Each appeal is predicted from all: what all differ by, less what chance makes them differ by.
	contrasts := mat.NewDense(size-1, columns, nil)
	for i := range size - 1 {
		contrasts.Set(i, i, 1)
		contrasts.Set(i, i+1, -1)
	}
	centring := mat.NewDense(size, size, nil)
	for i := range size {
		for j := range size {
			centring.Set(i, j, -1/float64(size))
		}
		centring.Set(i, i, 1-1/float64(size))
	}
	var centred mat.VecDense
	centred.MulVec(centring, estimate.SliceVec(0, size))
	var chance mat.Dense
	chance.Mul(centring, inverse.Slice(0, size, 0, size))
	own := (mat.Dot(&centred, &centred) - mat.Trace(&chance)) / float64(size-1)
	if own <= 0 {
		own = 1e-6
	}
	var half, spread, plain, moved mat.Dense
	half.Mul(contrasts, inverse)
	spread.Mul(&half, contrasts.T())
	plain.Mul(contrasts, contrasts.T())
	plain.Scale(own, &plain)
	spread.Add(&spread, &plain)
	var seen, solved mat.VecDense
	seen.MulVec(contrasts, estimate)
	require.NoError(t, solved.SolveVec(&spread, &seen))
	moved.Mul(inverse, contrasts.T())
	var by mat.VecDense
	by.MulVec(&moved, &solved)
	estimate.SubVec(estimate, &by)
	both := mat.NewVecDense(2*size, nil)
	for i := range size {
		both.SetVec(i, estimate.AtVec(i))
		if i > 0 {
			both.SetVec(size+i, estimate.AtVec(size+i-1))
		}
	}
	return both
}

// spotsAgain are the logarithms of rates at the usual mix of two sources, and their variances, one for each two cells.
func spotsAgain(cells []pull.Cell, size, editions int) (rates, variances []float64, design *mat.Dense) {
	mix := make(map[string]float64)
	for _, c := range cells {
		mix[c.Block+c.Source] += float64(c.Reach)
	}
	design = mat.NewDense(len(cells)/2, size+size-1+editions-1, nil)
	for i := 0; i < len(cells); i += 2 {
		block, rate, variance := 0, 0.0, 0.0
		_, _ = fmt.Sscan(cells[i].Block, &block)
		for _, c := range cells[i : i+2] {
			share := mix[c.Block+c.Source] / (mix[c.Block+"a"] + mix[c.Block+"b"])
			one := (float64(c.Takers) + 0.25) / (float64(c.Reach) + 0.5)
			rate += share * one
			variance += share * share * one * (1 - one) / float64(c.Reach)
		}
		rates, variances = append(rates, math.Log(rate)), append(variances, variance/rate/rate)
		design.Set(i/2, block, 1)
		if cells[i].Place > 1 {
			design.Set(i/2, size+cells[i].Place-2, 1)
		}
		if cells[i].Edition > 0 {
			design.Set(i/2, 2*size-1+cells[i].Edition-1, 1)
		}
	}
	return rates, variances, design
}
