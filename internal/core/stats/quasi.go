package stats

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"
)

// QuasiTable is what a table of counts says of its rows and columns going together, where some cells could have more than
// others, and some none.
type QuasiTable struct {
	// ChiSquared is Pearson's divided by the dispersion, with so many degrees of freedom; P the chance of one as large where
	// rows and columns have nothing to do with each other, 1 where nothing can be said.
	ChiSquared float64
	Freedom    int
	P          float64
	// Dispersion is how many times as much counts vary as chance alone has it; 1 at least.
	Dispersion float64
	// Expected is what row, column and exposure explain of each cell; Residual how far the count is from it, in units of its
	// standard error. Both are 0 in cells that could have nothing.
	Expected, Residual [][]float64
}

// Parts are the counts and exposures of a table on one day.
type Parts struct{ Counts, Exposures [][]float64 }

// QuasiCross fits rates that are a row's times a column's to the sum of tables of one shape, one of each day. How much
// counts vary is seen in how far days differ from what the table and the day as a whole explain; of one day it is taken to
// be what chance alone does.
//
// Sources: Agresti, Categorical Data Analysis (3rd ed., 2013), sections 9.7.1 (rates with exposures), 10.1.2 and 11.3.7
// (quasi-independence), 4.7 (dispersion); leverages by Pregibon, Annals of Statistics 9 (1981) 705-724. From memory.
func QuasiCross(days []Parts) QuasiTable {
	whole := sumOf(days)
	q := QuasiTable{P: 1, Dispersion: 1, Expected: whole.like(), Residual: whole.like()}
	rows, columns := whole.fit()
	cells := 0
	for i := range whole.Counts {
		for j := range whole.Counts[i] {
			q.Expected[i][j] = whole.Exposures[i][j] * rows[i] * columns[j]
			if q.Expected[i][j] > 0 {
				cells++
			}
		}
	}
	leverages, rank := leveragesOf(q.Expected)
	if q.Freedom = cells - rank; q.Freedom <= 0 {
		q.Freedom = 0
		return q
	}
	q.Dispersion = dispersion(days, rows, columns, rank)
	for i := range q.Expected {
		for j, expected := range q.Expected[i] {
			if expected <= 0 {
				continue
			}
			off := whole.Counts[i][j] - expected
			q.ChiSquared += off * off / expected / q.Dispersion
			if left := 1 - leverages[i][j]; left > 1e-9 {
				q.Residual[i][j] = off / math.Sqrt(expected*left*q.Dispersion)
			}
		}
	}
	q.P = distuv.ChiSquared{K: float64(q.Freedom)}.Survival(q.ChiSquared)
	return q
}

// Chance is the two-sided p-value of a residual.
func Chance(residual float64) float64 { return 2 * distuv.UnitNormal.CDF(-math.Abs(residual)) }

func (p Parts) like() [][]float64 {
	table := make([][]float64, len(p.Counts))
	for i := range table {
		table[i] = make([]float64, len(p.Counts[i]))
	}
	return table
}

func sumOf(days []Parts) Parts {
	if len(days) == 0 {
		return Parts{}
	}
	sum := Parts{days[0].like(), days[0].like()}
	for _, day := range days {
		for i := range day.Counts {
			for j := range day.Counts[i] {
				sum.Counts[i][j] += day.Counts[i][j]
				sum.Exposures[i][j] += day.Exposures[i][j]
			}
		}
	}
	return sum
}

const (
	mostSweeps = 2000
	swept      = 1e-10
)

// fit finds the rates of rows and columns that give every row and every column its count, by fitting either in turn.
func (p Parts) fit() (rows, columns []float64) {
	if len(p.Counts) == 0 {
		return nil, nil
	}
	rows, columns = make([]float64, len(p.Counts)), make([]float64, len(p.Counts[0]))
	for j := range columns {
		columns[j] = 1
	}
	for range mostSweeps {
		moved := 0.0
		for i := range rows {
			had, could := 0.0, 0.0
			for j := range columns {
				if p.Exposures[i][j] > 0 {
					had, could = had+p.Counts[i][j], could+p.Exposures[i][j]*columns[j]
				}
			}
			moved = max(moved, settle(&rows[i], had, could))
		}
		for j := range columns {
			had, could := 0.0, 0.0
			for i := range rows {
				if p.Exposures[i][j] > 0 {
					had, could = had+p.Counts[i][j], could+p.Exposures[i][j]*rows[i]
				}
			}
			moved = max(moved, settle(&columns[j], had, could))
		}
		if moved < swept {
			break
		}
	}
	return rows, columns
}

// settle sets a rate, and returns by what part it moved.
func settle(rate *float64, had, could float64) float64 {
	next := 0.0
	if could > 0 {
		next = had / could
	}
	moved := math.Abs(next-*rate) / max(1e-300, math.Abs(next)+math.Abs(*rate))
	*rate = next
	return moved
}

// leveragesOf is how much of its own count each cell is fitted to, and how many numbers were fitted in all.
func leveragesOf(expected [][]float64) (leverages [][]float64, rank int) {
	leverages = Parts{Counts: expected}.like()
	if len(expected) == 0 {
		return leverages, 0
	}
	rows, columns := len(expected), len(expected[0])
	information := mat.NewSymDense(rows+columns, nil)
	for i := range expected {
		for j, weight := range expected[i] {
			information.SetSym(i, i, information.At(i, i)+weight)
			information.SetSym(rows+j, rows+j, information.At(rows+j, rows+j)+weight)
			information.SetSym(i, rows+j, weight)
		}
	}
	// One number too many is there in each part of the table that hangs together: its inverse is the general one.
	var own mat.EigenSym
	if !own.Factorize(information, true) {
		return leverages, 0
	}
	var vectors mat.Dense
	own.VectorsTo(&vectors)
	values := own.Values(nil)
	largest := values[len(values)-1]
	for k, value := range values {
		if value <= largest*1e-10 {
			continue
		}
		rank++
		for i := range expected {
			for j, weight := range expected[i] {
				part := vectors.At(i, k) + vectors.At(rows+j, k)
				leverages[i][j] += weight * part * part / value
			}
		}
	}
	return leverages, rank
}

// dispersion is how many times as much the cells of days vary as chance alone has it, around what the table and the day
// explain.
func dispersion(days []Parts, rows, columns []float64, rank int) float64 {
	if len(days) < 2 {
		return 1
	}
	var squares, explained float64
	cells := 0
	for _, day := range days {
		had, could := 0.0, 0.0
		for i := range day.Counts {
			for j := range day.Counts[i] {
				if expected := day.Exposures[i][j] * rows[i] * columns[j]; expected > 0 {
					had, could = had+day.Counts[i][j], could+expected
				}
			}
		}
		if could == 0 {
			continue
		}
		for i := range day.Counts {
			for j := range day.Counts[i] {
				if expected := day.Exposures[i][j] * rows[i] * columns[j] * had / could; expected > 0 {
					squares += (day.Counts[i][j] - expected) * (day.Counts[i][j] - expected)
					explained += expected
					cells++
				}
			}
		}
	}
	if free := cells - rank - len(days) + 1; free > 0 && explained > 0 {
		return max(1, squares/explained*float64(cells)/float64(free))
	}
	return 1
}
