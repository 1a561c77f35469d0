package trial_test

import (
	"encoding/binary"
	"math"
	"math/rand/v2"
	"testing"
	"time"

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
	few, many := trial.NewPlan(0.1, 500, 2, 1), trial.NewPlan(0.1, 5000, 2, 1)
	assert.Greater(t, few.Findable, many.Findable)
	assert.Greater(t, many.Findable, many.Fixed)
	assert.Less(t, many.Findable, 1.9*many.Fixed)
	assert.Equal(t, 1.0, trial.NewPlan(0.1, 0, 2, 1).Findable, "without visits nothing is found")
	assert.Greater(t, trial.NewPlan(0.1, 5000, 3, 1).Findable, many.Findable, "three variants are three comparisons")
}

// once is an arm of visitors who come once.
func once(reach, takers int) (arm trial.Arm) {
	for i := range reach {
		arm.Visited(1, min(1, max(0, takers-i)))
	}
	return arm
}

func TestOfVisitorsWhoComeOnceTheVarianceIsThatOfAProportion(t *testing.T) {
	assert.InDelta(t, 0.12*0.88/1000, once(1000, 120).Variance(), 5e-7)
	plain := trial.Arm{Reach: 1000, Takers: 120}
	assert.InDelta(t, once(1000, 120).Variance(), plain.Variance(), 5e-7)
}

// Worked by hand with the ratio estimator's variance (Cochran, Sampling Techniques, 3rd ed., 1977, equation 2.46; from
// memory): visitors with (visits, presses) of (1,0), (2,2), (4,4), (1,1), (2,0): ratio 0.7, residuals -0.7, 0.6, 1.2, 0.3
// and -1.4, their squares 4.34; 4.34 / 10^2 * 5 / 4.
func TestWhoComesBackMakesARateLessSure(t *testing.T) {
	var arm trial.Arm
	for _, of := range [][2]int{{1, 0}, {2, 2}, {4, 4}, {1, 1}, {2, 0}} {
		arm.Visited(of[0], of[1])
	}
	assert.InDelta(t, 4.34/100*5/4, arm.Variance(), 1e-12)
}

// The same out of the visitors themselves: the sum of squared residuals, without the three sums.
func TestTheVarianceOutOfSumsIsThatOutOfVisitors(t *testing.T) {
	random := rand.New(rand.NewPCG(2018, 3))
	for range 1000 {
		var arm trial.Arm
		var visitors [][2]float64
		for range 20 + random.IntN(200) {
			visits := 1 + random.IntN(6)
			pressed := random.IntN(visits + 1)
			arm.Visited(visits, pressed)
			visitors = append(visitors, [2]float64{float64(visits), float64(pressed)})
		}
		ratio, squares, n := float64(arm.Takers)/float64(arm.Reach), 0.0, float64(len(visitors))
		for _, v := range visitors {
			squares += (v[1] - ratio*v[0]) * (v[1] - ratio*v[0])
		}
		rate := (float64(arm.Takers) + 0.5) / (float64(arm.Reach) + 1)
		want := math.Max(rate*(1-rate)/float64(arm.Reach), n/(n-1)*squares/float64(arm.Reach)/float64(arm.Reach))
		assert.InEpsilon(t, want, arm.Variance(), 1e-6)
	}
}

func TestNobodyChoosesBeforeTwoWholeWeeks(t *testing.T) {
	arms := []trial.Arm{once(5000, 500), once(5000, 700)}
	lastWeek := []trial.Arm{once(900, 90), once(900, 92)}
	assert.Equal(t, trial.Early, trial.Judge(arms, lastWeek, 0.02, 0.01, 14*24*time.Hour-time.Second).Verdict)
	result := trial.Judge(arms, lastWeek, 0.02, 0.01, 14*24*time.Hour)
	assert.Equal(t, trial.Better, result.Verdict)
	assert.True(t, result.Differences[1].Excludes(0))
	assert.False(t, result.LastWeek[1].Excludes(0), "and whether it is still so is said beside it")
	assert.InDelta(t, 92.0/900-0.1, (result.LastWeek[1].Low+result.LastWeek[1].High)/2, 1e-9)
}

func TestWhoPressesAgainAndAgainIsOneWhoPressed(t *testing.T) {
	var few, none trial.Arm
	for range 4 {
		few.Visited(30, 30) // a hundred and twenty presses of four
	}
	for range 200 {
		few.Visited(1, 0)
		none.Visited(1, 0)
	}
	assert.Equal(t, trial.NotYet, trial.Judge([]trial.Arm{once(300, 15), few}, nil, 0.02, 0.01, trial.Least).Verdict)
	assert.Equal(t, trial.NotYet, trial.Judge([]trial.Arm{once(300, 15), none}, nil, 0.02, 0.01, trial.Least).Verdict)
}

func TestATrialEndsWithThisOneNoDifferenceOrNotYet(t *testing.T) {
	for _, c := range []struct {
		arms    []trial.Arm
		worth   float64
		verdict trial.Verdict
		best    int
	}{
		{[]trial.Arm{once(5000, 500), once(5000, 700)}, 0.01, trial.Better, 1},
		{[]trial.Arm{once(5000, 700), once(5000, 500)}, 0.01, trial.Better, 0},
		{[]trial.Arm{once(50000, 6000), once(50000, 6010)}, 0.02, trial.NoDifference, 1},
		{[]trial.Arm{once(500, 60), once(500, 63)}, 0.02, trial.NotYet, 1},
		{[]trial.Arm{once(50, 2), once(50, 9)}, 0.01, trial.NotYet, 1}, // too few takers
		{[]trial.Arm{once(5000, 500), once(5000, 700), once(5000, 690)}, 0.01, trial.NotYet, 1},
		{make([]trial.Arm, 2), 0.5, trial.NotYet, 0},
	} {
		result := trial.Judge(c.arms, nil, 0.02, c.worth, 28*24*time.Hour)
		assert.Equal(t, c.verdict, result.Verdict, "%v", c.arms)
		assert.Equal(t, c.best, result.Best, "%v", c.arms)
		assert.Len(t, result.Differences, len(c.arms))
	}
}
