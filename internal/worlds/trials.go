package worlds

import (
	"fmt"
	"math/rand/v2"
	"time"

	"jundle/internal/core/stats"
	"jundle/internal/core/trial"
)

// How long trials go on, and how many visitors each variant has on a day.
const (
	trialDays   = 28
	trialPerDay = 120
)

// returns is how often visitors come on a day: the chance of each number of visits.
type returns struct {
	name   string
	visits []int
	// chances add up to 1, in the order of visits.
	chances []float64
}

var (
	once   = returns{"every visitor comes once", []int{1}, []float64{1}}
	mild   = returns{"60, 20 and 20 % of visitors come 1, 2 and 4 times a day", []int{1, 2, 4}, []float64{0.6, 0.2, 0.2}}
	heavy  = returns{"30 % come 8 times, 5 % 20 times", []int{1, 8, 20}, []float64{0.65, 0.3, 0.05}}
	shared = returns{"one address in a hundred is that of a school, with 40 visits", []int{1, 40}, []float64{0.99, 0.01}}
)

func (r returns) draw(random *rand.Rand) int {
	u := random.Float64()
	for i, chance := range r.chances {
		if u -= chance; u < 0 {
			return r.visits[i]
		}
	}
	return r.visits[len(r.visits)-1]
}

// mean is how many visits a visitor makes.
func (r returns) mean() (mean float64) {
	for i, chance := range r.chances {
		mean += chance * float64(r.visits[i])
	}
	return mean
}

// Trials looks at trials on every day.
func Trials(n int) []Finding {
	var found []Finding
	for _, null := range []struct {
		name  string
		rates []float64
		returns
	}{
		{"two", []float64{0.12, 0.12}, once},
		{"three", []float64{0.12, 0.12, 0.12}, once},
		{"two that are seldom pressed", []float64{0.02, 0.02}, once},
		{"two", []float64{0.12, 0.12}, mild},
		{"two", []float64{0.12, 0.12}, heavy},
		{"two", []float64{0.12, 0.12}, shared},
		{"three", []float64{0.12, 0.12, 0.12}, mild},
	} {
		called := Finding{What: fmt.Sprintf("a trial of equals is called, looked at every day: %s; %s", null.name, null.returns.name), Most: 0.05}
		for seed := range n {
			t := tried{random: rand.New(rand.NewPCG(uint64(seed), 9)), rates: null.rates, returns: null.returns}
			called.count(t.run(trialDays, trialPerDay, 0).Verdict == trial.Better)
		}
		found = append(found, called)
	}
	for _, of := range []returns{once, mild} {
		found = append(found, effects(n, of)...)
	}
	return append(found, worthless(n), novel(n), moved(n))
}

// effects holds what plans promise against what is found, and between what differences are said to lie against the truth.
func effects(n int, of returns) []Finding {
	plan := trial.NewPlan(0.12, int(trialDays*trialPerDay*of.mean()), 2, of.mean())
	effect := Finding{
		What:  fmt.Sprintf("an effect of the size that is said beforehand (%.1f points) is found; %s", 100*plan.Findable, of.name),
		Least: 0.75, Most: 1,
	}
	within := Finding{What: "the difference is within what was said, on every day; " + of.name, Least: 0.95, Most: 1}
	for seed := range n {
		t := tried{random: rand.New(rand.NewPCG(uint64(seed), 10)), rates: []float64{0.12, 0.12 + plan.Findable}, returns: of}
		effect.count(t.run(trialDays, trialPerDay, 0).Verdict == trial.Better)
		within.count(!t.missed)
	}
	return []Finding{effect, within}
}

func worthless(n int) Finding {
	none := Finding{What: "a trial of equals ends with no difference worth having (3 points, 400 a day)", Least: 0.8, Most: 1}
	for seed := range n {
		t := tried{random: rand.New(rand.NewPCG(uint64(seed), 11)), rates: []float64{0.12, 0.12}, returns: once}
		none.count(t.run(60, 400, 0.03).Verdict == trial.NoDifference)
	}
	return none
}

// novel tries what is pressed more in its first days only: the last week shows it.
func novel(n int) Finding {
	shown := Finding{What: "of a variant that is pressed more in its first week only, the last week shows no difference", Least: 0.9, Most: 1}
	for seed := range n {
		t := tried{random: rand.New(rand.NewPCG(uint64(seed), 12)), rates: []float64{0.12, 0.12}, returns: once, novelty: 0.06}
		result := t.run(trialDays, 4*trialPerDay, 0)
		shown.count(!result.LastWeek[1].Excludes(0))
	}
	return shown
}

// moved tries an order: who pressed any of the buttons that move counts once.
func moved(n int) Finding {
	rate := 0.45 // of two buttons that 30 and 35 of 100 press, some of them both
	plan := trial.NewPlan(rate, trialDays*trialPerDay, 2, 1)
	found := Finding{
		What:  fmt.Sprintf("of an order of two buttons, the effect that is said beforehand (%.1f points) is found", 100*plan.Findable),
		Least: 0.75, Most: 1,
	}
	for seed := range n {
		t := tried{random: rand.New(rand.NewPCG(uint64(seed), 13)), rates: []float64{rate, rate + plan.Findable}, returns: once}
		found.count(t.run(trialDays, trialPerDay, 0).Verdict == trial.Better)
	}
	return found
}

// tried is a trial with a true rate for each variant. Who comes back the same day does as before.
type tried struct {
	random *rand.Rand
	rates  []float64
	returns
	// novelty is how much more often the second variant is pressed in the first week.
	novelty float64
	// missed tells whether the truth was on any day outside what was said of it.
	missed bool
}

// run goes on until the trial has an end, and looks every day.
func (t *tried) run(days, perDay int, worth float64) (result trial.Result) {
	plan := trial.NewPlan(t.rates[0], int(float64(days*perDay)*t.mean()), len(t.rates), t.mean())
	history := make([][]trial.Arm, 0, days)
	arms := make([]trial.Arm, len(t.rates))
	for day := range days {
		today := make([]trial.Arm, len(t.rates))
		for i, rate := range t.rates {
			if i == 1 && day < 7 {
				rate += t.novelty
			}
			for range perDay {
				visits, pressed := t.draw(t.random), 0
				if t.random.Float64() < rate {
					pressed = visits
				}
				today[i].Visited(visits, pressed)
			}
			arms[i].Add(today[i])
		}
		history = append(history, today)
		lastWeek := make([]trial.Arm, len(t.rates))
		for _, one := range history[max(0, len(history)-7):] {
			for i := range one {
				lastWeek[i].Add(one[i])
			}
		}
		result = trial.Judge(arms, lastWeek, plan.Tau(), worth, time.Duration(day+1)*24*time.Hour)
		between := result.Differences[1]
		t.missed = t.missed || t.novelty == 0 && between != (stats.Interval{Low: -1, High: 1}) && between.Excludes(t.rates[1]-t.rates[0])
		if result.Verdict == trial.Better || result.Verdict == trial.NoDifference {
			return result
		}
	}
	return result
}
