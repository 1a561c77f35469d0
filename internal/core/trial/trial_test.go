package trial_test

import (
	"encoding/binary"
	"math"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/trial"
)

// worlds is how many are simulated: 200 by `make worlds`, fewer in the suite.
func worlds() int {
	if n, err := strconv.Atoi(os.Getenv("JUNDLE_WORLDS")); err == nil {
		return n
	}
	return 40
}

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

// world runs a trial of so many days with a true rate for each variant, and looks every day.
func world(random *rand.Rand, rates []float64, days, perDay int, worth float64) trial.Verdict {
	plan := trial.NewPlan(rates[0], days*perDay, len(rates))
	arms := make([]trial.Arm, len(rates))
	for range days {
		for i, rate := range rates {
			arms[i].Reach += perDay
			for range perDay {
				if random.Float64() < rate {
					arms[i].Takers++
				}
			}
		}
		if result := trial.Judge(arms, plan.Tau(), worth); result.Verdict != trial.NotYet {
			return result.Verdict
		}
	}
	return trial.NotYet
}

func TestTrialsOfEqualsThatAreLookedAtEveryDayAreSeldomCalled(t *testing.T) {
	for name, rates := range map[string][]float64{"two": {0.12, 0.12}, "three": {0.12, 0.12, 0.12}, "rare": {0.02, 0.02}} {
		called := 0
		for i := range worlds() {
			random := rand.New(rand.NewPCG(uint64(i), 9))
			if world(random, rates, 28, 120, 0) == trial.Better {
				called++
			}
		}
		t.Logf("%s: %d of %d called", name, called, worlds())
		assert.LessOrEqual(t, called, max(2, worlds()/20), name)
	}
}

func TestAnEffectOfTheSizeThatIsSaidIsFoundInMostTrials(t *testing.T) {
	plan := trial.NewPlan(0.12, 28*120, 2)
	found := 0
	for i := range worlds() {
		random := rand.New(rand.NewPCG(uint64(i), 10))
		if world(random, []float64{0.12, 0.12 + plan.Findable}, 28, 120, 0) == trial.Better {
			found++
		}
	}
	t.Logf("%d of %d found, an effect of %.1f points", found, worlds(), 100*plan.Findable)
	assert.GreaterOrEqual(t, found, worlds()*7/10)
}

func TestATrialEndsWithNoDifferenceWhereNoneIsWorthHaving(t *testing.T) {
	ended := 0
	for i := range worlds() {
		random := rand.New(rand.NewPCG(uint64(i), 11))
		if world(random, []float64{0.12, 0.12}, 60, 400, 0.03) == trial.NoDifference {
			ended++
		}
	}
	t.Logf("%d of %d ended with no difference", ended, worlds())
	assert.GreaterOrEqual(t, ended, worlds()*8/10)
	few := trial.Judge([]trial.Arm{{Reach: 50, Takers: 2}, {Reach: 50, Takers: 9}}, 0.05, 0.01)
	assert.Equal(t, trial.NotYet, few.Verdict, "before there are enough takers nothing is said")
}
