package stats_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/stats"
)

// plain is a table of one day whose cells could all have as many.
func plain(counts [][]float64) stats.QuasiTable {
	exposures := make([][]float64, len(counts))
	for i, row := range counts {
		for range row {
			exposures[i] = append(exposures[i], 1000)
		}
	}
	return stats.QuasiCross([]stats.Parts{{Counts: counts, Exposures: exposures}})
}

func TestACellThatCouldHaveNothingTakesNoPart(t *testing.T) {
	// Rates are a row's times a column's: 0.1, 0.2 by 1, 2, 0.5. The third cell of the first row could have nothing.
	counts := [][]float64{{100, 200, 0}, {200, 400, 100}}
	exposures := [][]float64{{1000, 1000, 0}, {1000, 1000, 1000}}
	got := stats.QuasiCross([]stats.Parts{{Counts: counts, Exposures: exposures}})
	assert.Equal(t, 1, got.Freedom)
	assert.InDelta(t, 0, got.ChiSquared, 1e-9, "all of it is explained")
	for i := range counts {
		for j := range counts[i] {
			assert.InDelta(t, counts[i][j], got.Expected[i][j], 1e-6)
			assert.InDelta(t, 0, got.Residual[i][j], 1e-6)
		}
	}
}

func TestDaysThatDifferMoreThanByChanceMakeCellsLessSure(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 3))
	var once, fourTimes []stats.Parts
	for range 60 {
		day := stats.Parts{Exposures: [][]float64{{300, 200}, {300, 200}}}
		again := day
		for _, row := range [][]float64{{30, 20}, {15, 10}} {
			var drawn, four []float64
			for _, mean := range row {
				drawn = append(drawn, distuv.Poisson{Lambda: mean, Src: random}.Rand())
				four = append(four, 4*distuv.Poisson{Lambda: mean / 4, Src: random}.Rand())
			}
			day.Counts, again.Counts = append(day.Counts, drawn), append(again.Counts, four)
		}
		once, fourTimes = append(once, day), append(fourTimes, again)
	}
	assert.InDelta(t, 1, stats.QuasiCross(once).Dispersion, 0.25)
	assert.InDelta(t, 4, stats.QuasiCross(fourTimes).Dispersion, 1)
}

// The same model as a Poisson regression with the logarithm of the exposure as offset, fitted by Newton's method (Agresti,
// Categorical Data Analysis, 3rd ed., 2013, section 4.6; from memory): expected counts, and residuals over the root of one
// less the diagonal of the hat matrix.
func TestTheTableAgreesWithARegressionOnAThousandTables(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 5))
	for range 1000 {
		rows, columns := 2+random.IntN(4), 2+random.IntN(3)
		counts, exposures := make([][]float64, rows), make([][]float64, rows)
		for i := range counts {
			for range columns {
				exposure := float64(50 + random.IntN(500))
				exposures[i] = append(exposures[i], exposure)
				counts[i] = append(counts[i], 1+distuv.Poisson{Lambda: exposure * (0.05 + 0.3*random.Float64()), Src: random}.Rand())
			}
		}
		if rows > 2 && columns > 2 {
			exposures[0][0], counts[0][0] = 0, 0 // it was not on the page there
		}
		got := stats.QuasiCross([]stats.Parts{{Counts: counts, Exposures: exposures}})
		expected, leverages := regression(t, counts, exposures)
		for i := range counts {
			for j := range counts[i] {
				if exposures[i][j] == 0 {
					continue
				}
				require.InEpsilon(t, expected[i][j], got.Expected[i][j], 1e-6)
				want := (counts[i][j] - expected[i][j]) / math.Sqrt(expected[i][j]*(1-leverages[i][j]))
				require.InDelta(t, want, got.Residual[i][j], 1e-6*(1+math.Abs(want)))
			}
		}
	}
}

func regression(t *testing.T, counts, exposures [][]float64) (expected, leverages [][]float64) {
	rows, columns := len(counts), len(counts[0])
	params := rows + columns - 1 // the first column is what the others are held against
	beta := mat.NewVecDense(params, nil)
	for i := range rows {
		beta.SetVec(i, math.Log(0.15))
	}
	design := func(i, j int) *mat.VecDense {
		x := mat.NewVecDense(params, nil)
		x.SetVec(i, 1)
		if j > 0 {
			x.SetVec(rows+j-1, 1)
		}
		return x
	}
	var information *mat.Dense
	for range 60 {
		information = mat.NewDense(params, params, nil)
		score := mat.NewVecDense(params, nil)
		for i := range rows {
			for j := range columns {
				if exposures[i][j] == 0 {
					continue
				}
				x := design(i, j)
				mean := exposures[i][j] * math.Exp(mat.Dot(x, beta))
				var outer mat.Dense
				outer.Outer(mean, x, x)
				information.Add(information, &outer)
				score.AddScaledVec(score, counts[i][j]-mean, x)
			}
		}
		var step mat.VecDense
		require.NoError(t, step.SolveVec(information, score))
		beta.AddVec(beta, &step)
		if mat.Norm(&step, 2) < 1e-12 {
			break
		}
	}
	var inverse mat.Dense
	require.NoError(t, inverse.Inverse(information))
	for i := range rows {
		var means, leverage []float64
		for j := range columns {
			x := design(i, j)
			mean := exposures[i][j] * math.Exp(mat.Dot(x, beta))
			means, leverage = append(means, mean), append(leverage, mean*mat.Inner(x, &inverse, x))
		}
		expected, leverages = append(expected, means), append(leverages, leverage)
	}
	return expected, leverages
}
