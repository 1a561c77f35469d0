package trial_test

import (
	"encoding/binary"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/trial"
)

func TestSharesAreFairAndStay(t *testing.T) {
	counts := [3]int{}
	var key [16]byte
	for i := range 30_000 {
		binary.BigEndian.PutUint64(key[:], uint64(i))
		share := trial.Share("kiln", key[:], 3)
		assert.Equal(t, share, trial.Share("kiln", key[:], 3))
		counts[share]++
	}
	// Chi-squared with two degrees of freedom: 13.8 is passed by one fair draw in a thousand.
	sum := 0.0
	for _, n := range counts {
		sum += math.Pow(float64(n)-10_000, 2) / 10_000
	}
	assert.Less(t, sum, 13.8, "%v", counts)
}

// Source: Howard, Ramdas, McAuliffe, Sekhon, Annals of Statistics 49 (2021), equation 14: the
// boundary of a sum of variance V is sqrt((V + rho) log((V + rho) / (alpha^2 rho))). Of a mean
// whose variance is v, V is 1/v with a mixture of variance 1/rho = tau^2.
func TestTheRadiusIsTheNormalMixtureOfHowardAndOthers(t *testing.T) {
	for _, c := range []struct{ v, tau, alpha float64 }{{1e-4, 0.02, 0.05}, {4e-6, 0.01, 0.05}, {2e-5, 0.05, 0.01}} {
		v, rho := 1/c.v, 1/(c.tau*c.tau)
		boundary := math.Sqrt((v + rho) * math.Log((v+rho)/(c.alpha*c.alpha*rho)))
		assert.InDelta(t, boundary/v, trial.Radius(c.v, c.tau, c.alpha), 1e-9)
	}
}

// Source: Johari, Pekelis, Walsh, Always Valid Inference (2017), the mixture likelihood ratio of a
// normal: it is 1/alpha exactly at the edge of the interval.
func TestTheRadiusIsWhereTheMixtureRatioOfJohariAndOthersIsOneByAlpha(t *testing.T) {
	v, tau, alpha := 3e-5, 0.015, 0.05
	d := trial.Radius(v, tau, alpha)
	ratio := math.Sqrt(v/(v+tau*tau)) * math.Exp(d*d*tau*tau/(2*v*(v+tau*tau)))
	assert.InDelta(t, 1/alpha, ratio, 1e-6)
}

// Source: the sample size of two proportions; 0.25 and 0.40 at 5 % and 80 % need 152 in each group
// (Fleiss, Statistical Methods for Rates and Proportions, table A.3 before correction; from memory).
func TestHowManyAreNeededToTellTwoProportionsApart(t *testing.T) {
	assert.Equal(t, 152.0, math.Ceil(trial.PerArm(0.25, 0.40, 0.05)))
}

func TestMoreVisitsFindSmallerEffectsAndLookingDailyCostsSome(t *testing.T) {
	few, many := trial.NewPlan(0.1, 500, 2), trial.NewPlan(0.1, 5000, 2)
	assert.Greater(t, few.Findable, many.Findable)
	assert.Greater(t, many.Findable, many.Fixed)
	assert.Less(t, many.Findable, 1.9*many.Fixed)
	assert.Equal(t, 1.0, trial.NewPlan(0.1, 0, 2).Findable, "without visits nothing is found")
	assert.Greater(t, trial.NewPlan(0.1, 5000, 3).Findable, many.Findable, "three variants are three comparisons")
}

func TestATrialEndsWithThisOneNoDifferenceOrNotYet(t *testing.T) {
	for _, c := range []struct {
		arms    []trial.Arm
		worth   float64
		verdict trial.Verdict
		best    int
	}{
		{[]trial.Arm{{Reach: 5000, Takers: 500}, {Reach: 5000, Takers: 700}}, 0.01, trial.Better, 1},
		{[]trial.Arm{{Reach: 5000, Takers: 700}, {Reach: 5000, Takers: 500}}, 0.01, trial.Better, 0},
		{[]trial.Arm{{Reach: 50000, Takers: 6000}, {Reach: 50000, Takers: 6010}}, 0.02, trial.NoDifference, 1},
		{[]trial.Arm{{Reach: 500, Takers: 60}, {Reach: 500, Takers: 63}}, 0.02, trial.NotYet, 1},
		{[]trial.Arm{{Reach: 50, Takers: 2}, {Reach: 50, Takers: 9}}, 0.01, trial.NotYet, 1}, // too few takers
		{[]trial.Arm{{Reach: 5000, Takers: 500}, {Reach: 5000, Takers: 700}, {Reach: 5000, Takers: 690}}, 0.01, trial.NotYet, 1},
		{make([]trial.Arm, 2), 0.5, trial.NotYet, 0},
	} {
		result := trial.Judge(c.arms, 0.02, c.worth)
		assert.Equal(t, c.verdict, result.Verdict, "%v", c.arms)
		assert.Equal(t, c.best, result.Best, "%v", c.arms)
		assert.Len(t, result.Differences, len(c.arms))
	}
}
