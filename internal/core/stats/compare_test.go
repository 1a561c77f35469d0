package stats_test

import (
	"fmt"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"jundle/internal/core/stats"
)

// Source: Newcombe, Statistics in Medicine 17 (1998) 873-890, Table II, method 10.
func TestDifferencesAgreeWithThePublishedTable(t *testing.T) {
	for _, c := range []struct {
		taken, n, other, m int
		low, high          float64
	}{
		{56, 70, 48, 80, 0.0524, 0.3339}, {9, 10, 3, 10, 0.1705, 0.8090}, {5, 56, 0, 29, -0.0381, 0.1926}, {10, 10, 0, 20, 0.6791, 1.0000},
	} {
		got := stats.Difference(c.taken, c.n, c.other, c.m)
		assert.InDelta(t, c.low, got.Low, 0.00005, "%d/%d - %d/%d", c.taken, c.n, c.other, c.m)
		assert.InDelta(t, c.high, got.High, 0.00005, "%d/%d - %d/%d", c.taken, c.n, c.other, c.m)
	}
}

func TestADifferenceTurnedRoundIsTheSameTurnedRound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, m := rapid.IntRange(1, 5000).Draw(t, "n"), rapid.IntRange(1, 5000).Draw(t, "m")
		a, b := rapid.IntRange(0, n).Draw(t, "a"), rapid.IntRange(0, m).Draw(t, "b")
		there, back := stats.Difference(a, n, b, m), stats.Difference(b, m, a, n)
		difference := float64(a)/float64(n) - float64(b)/float64(m)
		if there.Low > difference+1e-12 || there.High < difference-1e-12 || there.Low < -1-1e-12 || there.High > 1+1e-12 {
			t.Fatalf("%d/%d - %d/%d gave %+v", a, n, b, m, there)
		}
		assert.InDelta(t, -there.High, back.Low, 1e-12)
		assert.InDelta(t, -there.Low, back.High, 1e-12)
	})
}

// Source: Agresti, An Introduction to Categorical Data Analysis, section 2.6: of four cups with milk first, three are
// told; one-sided mid P-value 0.129 (from memory; by hand 9/70).
func TestFewCountsAreTestedExactly(t *testing.T) {
	assert.InDelta(t, 2*9.0/70, stats.SameRate(3, 4, 1, 4), 1e-12)
	assert.InDelta(t, 1, stats.SameRate(2, 4, 2, 4), 1e-12)
}

func TestFewCountsAgreeWithFractionsOfWholeNumbers(t *testing.T) {
	ways := func(n, k int) *big.Int { return new(big.Int).Binomial(int64(n), int64(k)) }
	rapid.Check(t, func(t *rapid.T) {
		n, m := rapid.IntRange(1, 60).Draw(t, "n"), rapid.IntRange(1, 3000).Draw(t, "m")
		a, b := rapid.IntRange(0, min(n, 4)).Draw(t, "a"), rapid.IntRange(0, min(m, 4)).Draw(t, "b")
		if a+b == 0 || a+b == n+m || float64(min(n, m)*min(a+b, n+m-a-b)) >= 5*float64(n+m) {
			return
		}
		tail := func(from, to int) float64 {
			sum := new(big.Int)
			for x := max(from, a+b-m, 0); x <= min(to, a+b, n); x++ {
				sum.Add(sum, new(big.Int).Mul(ways(n, x), ways(m, a+b-x)))
			}
			share, _ := new(big.Rat).SetFrac(sum, ways(n+m, a+b)).Float64()
			return share
		}
		seen := tail(a, a)
		want := min(1, 2*min(tail(0, a)-seen/2, tail(a, n)-seen/2))
		assert.InDelta(t, want, stats.SameRate(a, n, b, m), 1e-9, "%d/%d, %d/%d", a, n, b, m)
	})
}

// Thirty visits beside ten thousand, of which one in two hundred press: what is called different by chance.
func TestFewBesideManyAreSeldomCalledDifferent(t *testing.T) {
	called := 0.0
	of := distuv.Binomial{N: 30, P: 0.005}
	for taken := range 31 {
		if stats.SameRate(taken, 30, 50, 10_000) < 0.05 {
			called += of.Prob(float64(taken))
		}
	}
	assert.Less(t, called, 0.05)
	assert.Less(t, stats.SameRate(6, 30, 50, 10_000), 0.001, "six of thirty are no chance")
}

// Source: Agresti, An Introduction to Categorical Data Analysis, party identification by
// gender: chi-squared 30.1 with 2 degrees of freedom, residuals 4.50, 0.70 and -5.32.
func TestATableOfCountsAgreesWithThePublishedOne(t *testing.T) {
	got := plain([][]float64{{762, 327, 468}, {484, 239, 477}})
	assert.InDelta(t, 30.1, got.ChiSquared, 0.05)
	assert.Equal(t, 2, got.Freedom)
	assert.Less(t, got.P, 0.0001)
	for j, want := range []float64{4.50, 0.70, -5.32} {
		assert.InDelta(t, want, got.Residual[0][j], 0.005)
		assert.InDelta(t, -want, got.Residual[1][j], 0.005)
	}
}

func TestRowsAndColumnsThatAreEmptySayNothing(t *testing.T) {
	with := plain([][]float64{{10, 0, 20}, {0, 0, 0}, {30, 0, 5}})
	without := plain([][]float64{{10, 20}, {30, 5}})
	assert.InDelta(t, without.ChiSquared, with.ChiSquared, 1e-12)
	assert.Equal(t, 1, with.Freedom)
	assert.Zero(t, with.Residual[1][0])
	assert.InDelta(t, without.Residual[1][1], with.Residual[2][2], 1e-12)
	for _, nothing := range [][][]float64{nil, {{}}, {{0, 0}}, {{1, 2, 3}}} {
		got := plain(nothing)
		assert.Equal(t, 1.0, got.P, fmt.Sprint(nothing))
		assert.Zero(t, got.Freedom)
	}
}

// The 2 x 2 table and the score test are the same test, where enough is expected for it.
func TestTwoRatesAndTheirTableGiveTheSameAnswer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, m := rapid.IntRange(2, 500).Draw(t, "n"), rapid.IntRange(2, 500).Draw(t, "m")
		a, b := rapid.IntRange(1, n-1).Draw(t, "a"), rapid.IntRange(1, m-1).Draw(t, "b")
		if min(n, m)*min(a+b, n+m-a-b) < 5*(n+m) {
			return
		}
		assert.InDelta(t, plain([][]float64{{float64(a), float64(n - a)}, {float64(b), float64(m - b)}}).P, stats.SameRate(a, n, b, m), 1e-9)
	})
}

// A worked example of the step-down procedure, by hand: 0.01 against 0.05/4, 0.013 against
// 0.05/3, 0.03 against 0.05/2, where it stops.
func TestHolmStepsDownUntilOneHolds(t *testing.T) {
	assert.Equal(t, []bool{true, false, true, false}, stats.Holm([]float64{0.01, 0.04, 0.013, 0.03}, 0.05))
	assert.Equal(t, []bool{false, false}, stats.Holm([]float64{0.03, 0.04}, 0.05))
	assert.Equal(t, []bool{true, true}, stats.Holm([]float64{0.02, 0.04}, 0.05))
	assert.Empty(t, stats.Holm(nil, 0.05))
}

func ExampleDifference() {
	change := stats.Difference(412, 1903, 310, 1822)
	fmt.Printf("between %.1f and %.1f points more\n", 100*change.Low, 100*change.High)
	// Output: between 2.1 and 7.2 points more
}
