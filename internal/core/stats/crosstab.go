package stats

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// Crosstab is what a table of counts says of its rows and columns going together.
type Crosstab struct {
	// ChiSquared is Pearson's, with so many degrees of freedom; P is the chance of one as
	// large where rows and columns have nothing to do with each other. P is 1 where nothing
	// can be said.
	ChiSquared float64
	Freedom    int
	P          float64
	// Expected is what its row and its column explain of each cell; Residual is how far the
	// count is from it, in units of its standard error. Both are 0 in empty rows and columns.
	Expected, Residual [][]float64
}

// Cross works out a table of counts, in which all rows are of the same length.
//
// Source: Agresti, An Introduction to Categorical Data Analysis (2nd ed., 2007), sections
// 2.4.1 (chi-squared) and 2.4.5 (standardized residuals).
func Cross(counts [][]int) Crosstab {
	var whole float64
	rows := make([]float64, len(counts))
	var columns []float64
	for i, row := range counts {
		if columns == nil {
			columns = make([]float64, len(row))
		}
		for j, count := range row {
			rows[i] += float64(count)
			columns[j] += float64(count)
			whole += float64(count)
		}
	}
	c := Crosstab{P: 1, Freedom: max(0, filled(rows)-1) * max(0, filled(columns)-1)}
	for i, row := range counts {
		expected, residual := make([]float64, len(row)), make([]float64, len(row))
		for j, count := range row {
			if rows[i] == 0 || columns[j] == 0 {
				continue
			}
			expected[j] = rows[i] * columns[j] / whole
			off := float64(count) - expected[j]
			c.ChiSquared += off * off / expected[j]
			if spread := expected[j] * (1 - rows[i]/whole) * (1 - columns[j]/whole); spread > 0 {
				residual[j] = off / math.Sqrt(spread)
			}
		}
		c.Expected, c.Residual = append(c.Expected, expected), append(c.Residual, residual)
	}
	if c.Freedom > 0 {
		c.P = distuv.ChiSquared{K: float64(c.Freedom)}.Survival(c.ChiSquared)
	}
	return c
}

// filled is how many sums are not 0.
func filled(sums []float64) (n int) {
	for _, sum := range sums {
		if sum > 0 {
			n++
		}
	}
	return n
}
