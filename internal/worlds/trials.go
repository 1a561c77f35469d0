package worlds

import (
	"fmt"
	"math/rand/v2"

	"jundle/internal/core/trial"
)

// How long trials go on, and how many visits each variant has on a day.
const (
	trialDays   = 28
	trialPerDay = 120
)

// Trials looks at trials on every day.
func Trials(n int) []Finding {
	var found []Finding
	for _, null := range []struct {
		name  string
		rates []float64
	}{{"two", []float64{0.12, 0.12}}, {"three", []float64{0.12, 0.12, 0.12}}, {"two that are seldom pressed", []float64{0.02, 0.02}}} {
		called := Finding{What: fmt.Sprintf("a trial of equals is called, looked at every day: %s", null.name), Most: 0.05}
		for seed := range n {
			called.count(tried(rand.New(rand.NewPCG(uint64(seed), 9)), null.rates, trialDays, trialPerDay, 0) == trial.Better)
		}
		found = append(found, called)
	}
	plan := trial.NewPlan(0.12, trialDays*trialPerDay, 2)
	size := fmt.Sprintf("an effect of the size that is said beforehand (%.1f points) is found", 100*plan.Findable)
	effect := Finding{What: size, Least: 0.75, Most: 1}
	none := Finding{What: "a trial of equals ends with no difference worth having (3 points, 400 a day)", Least: 0.8, Most: 1}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 10))
		effect.count(tried(random, []float64{0.12, 0.12 + plan.Findable}, trialDays, trialPerDay, 0) == trial.Better)
		none.count(tried(random, []float64{0.12, 0.12}, 60, 400, 0.03) == trial.NoDifference)
	}
	return append(found, effect, none)
}

// tried runs a trial with a true rate for each variant, and looks every day until it has an end.
func tried(random *rand.Rand, rates []float64, days, perDay int, worth float64) trial.Verdict {
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
