package worlds

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"jundle/internal/core/pull"
)

// ordered is a page of six buttons whose order changed from one edition to the next.
type ordered struct {
	random *rand.Rand
	appeal []float64
	// seen is how likely each place is to be seen, in any order.
	seen []float64
	// orders are those of the editions, each with so many visits.
	orders [][]int
	visits int
	// drifts is by how much the logit of each button differs from edition to edition, moods by how much that of all does.
	drifts, moods float64
	// shifting has the mix of two sources that press other things shift between editions.
	shifting bool
}

// clicks makes the cells.
func (o ordered) clicks() (cells []pull.Cell) {
	mix := 0.5
	for edition, order := range o.orders {
		mood := o.moods * o.random.NormFloat64()
		drift := make([]float64, len(order))
		for i := range drift {
			drift[i] = o.drifts * o.random.NormFloat64()
		}
		if mix = 1 - mix; o.shifting && edition%2 == 0 { // in all, half of the visits come from either
			mix = 0.2 + 0.6*o.random.Float64()
		}
		for place, block := range order {
			for source, part := range []float64{mix, 1 - mix} {
				rate := logit(min(0.9, o.seen[place]*o.appeal[block])) + mood + drift[block]
				if o.shifting {
					rate += 0.5 * float64(1-2*((block+source)%2)) // one presses the even buttons, the other the odd
				}
				visits := int(float64(o.visits) * part)
				cells = append(cells, pull.Cell{
					Edition: edition + 1, Place: place + 1, Block: fmt.Sprint(block), Source: fmt.Sprint(source), Reach: visits,
					Takers: binomial(o.random, visits, logistic(rate)),
				})
			}
		}
	}
	return cells
}

// now is the page as it is: as in the last edition.
func (o ordered) now() (slots []pull.Slot) {
	for _, block := range o.orders[len(o.orders)-1] {
		slots = append(slots, pull.Slot{Block: fmt.Sprint(block), Group: 1})
	}
	return slots
}

// gain is how many more presses per 100 visits an order has in truth, in an edition like any.
func (o ordered) gain(order []string) (gain float64) {
	last := o.orders[len(o.orders)-1]
	for place, name := range order {
		gain += 100 * o.seen[place] * (o.appeal[number(name)] - o.appeal[last[place]])
	}
	return gain
}

func inOrder(n int) []int {
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	return order
}

// fixed, swapped and shuffled are orders of editions: always the same, two buttons changed once, and any.
func fixed(*rand.Rand) [][]int { return [][]int{inOrder(6), inOrder(6), inOrder(6)} }

func swapped(*rand.Rand) [][]int {
	return [][]int{inOrder(6), inOrder(6), {1, 0, 2, 3, 4, 5}, {1, 0, 2, 3, 4, 5}}
}

func shuffled(random *rand.Rand) (orders [][]int) {
	orders = append(orders, inOrder(6))
	for range 5 {
		orders = append(orders, random.Perm(6))
	}
	return orders
}

var (
	alike     = []float64{0.15, 0.15, 0.15, 0.15, 0.15, 0.15}
	different = []float64{0.05, 0.08, 0.1, 0.2, 0.25, 0.3}
	// overlooked is a page whose first place is passed over.
	overlooked = []float64{0.5, 0.9, 1, 0.7, 0.5, 0.35}
)

// Pulls holds the click model and its advice against the values that clicks were made from.
func Pulls(n int) (found []Finding) {
	null := func(what string, orders func(*rand.Rand) [][]int, as func(*ordered)) {
		f := Finding{What: "a better order is offered where all buttons are alike: " + what, Most: 0.05}
		for seed := range n {
			random := rand.New(rand.NewPCG(uint64(seed), 4))
			o := ordered{random: random, appeal: alike, seen: seen, orders: orders(random), visits: 4000}
			as(&o)
			f.count(pull.Fit(o.clicks()).Advise(o.now(), rand.NewPCG(1, 1)).Offered)
		}
		found = append(found, f)
	}
	asItIs := func(*ordered) {}
	null("any order", shuffled, asItIs)
	null("any order, rates drift between editions (logit sd 0.15)", shuffled, func(o *ordered) { o.drifts, o.moods = 0.15, 0.2 })
	null("any order, the mix of sources shifts", shuffled, func(o *ordered) { o.shifting = true })
	null("any order, the first place is overlooked", shuffled, func(o *ordered) { o.seen = overlooked })
	null("the order never changed", fixed, asItIs)
	null("two changed places once", swapped, asItIs)
	null("two changed places once, rates drift", swapped, func(o *ordered) { o.drifts, o.moods = 0.15, 0.2 })
	never := Finding{What: "a better order is offered where the order never changed, whatever buttons draw", Most: 0.01}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 5))
		o := ordered{random: random, appeal: different, seen: seen, orders: fixed(random), visits: 4000, drifts: 0.1}
		never.count(pull.Fit(o.clicks()).Advise(o.now(), rand.NewPCG(1, 1)).Offered)
	}
	return append(append(append(found, never), recovered(n)...), onScreen(n)...)
}

// onScreen is of pages that measure how far down visits get, whose order never changed.
func onScreen(n int) []Finding {
	fitted := func(seed int, appeal []float64) (ordered, pull.Advice) {
		random := rand.New(rand.NewPCG(uint64(seed), 7))
		o := ordered{random: random, appeal: appeal, seen: seen, orders: fixed(random), visits: 4000, drifts: 0.15, moods: 0.2}
		var looks []pull.Look
		for _, share := range seen {
			looks = append(looks, pull.Look{Seen: binomial(random, 2000, share), Of: 2000})
		}
		return o, pull.FitMeasured(o.clicks(), looks).Advise(o.now(), rand.NewPCG(1, 1))
	}
	offered := Finding{
		What: "a better order is offered where all buttons are alike: the order never changed, what is on screen is measured, rates drift",
		Most: 0.05,
	}
	found := Finding{
		What:  "a better order is offered where there is one: the order never changed, what is on screen is measured",
		Least: 0.8, Most: 1,
	}
	within := Finding{What: "the gain that it would bring is within what was said", Least: 0.93, Most: 1}
	for seed := range n {
		_, advice := fitted(seed, alike)
		offered.count(advice.Offered)
		o, advice := fitted(seed, different)
		found.count(advice.Offered)
		gain := o.gain(advice.Order) * math.Exp(0.15*0.15/2)
		within.count(gain >= advice.Low && gain <= advice.High)
	}
	return []Finding{offered, found, within}
}

// recovered holds whether a better order is found where there is one, and what is said of it.
func recovered(n int) []Finding {
	appealOrder := Finding{What: "appeals stand in their true order (rank agreement above 0.9 at 24,000 visits)", Least: 0.9, Most: 1}
	better := Finding{What: "a better order is offered where there is one: six orders, 24,000 visits", Least: 0.9, Most: 1}
	drifting := Finding{What: "the same, where rates drift (logit sd 0.15)", Least: 0.8, Most: 1}
	within := Finding{What: "the gain that the order would bring is within what was said", Least: 0.93, Most: 1}
	drifted := Finding{What: "the same, where rates drift (logit sd 0.15)", Least: 0.93, Most: 1}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 6))
		o := ordered{random: random, appeal: different, seen: seen, orders: shuffled(random), visits: 4000}
		cells := o.clicks()
		model := pull.Fit(cells)
		fitted := make([]float64, len(different))
		for i := range fitted {
			fitted[i] = model.Pulls[fmt.Sprint(i)]
		}
		appealOrder.count(agreement(fitted, different) > 0.9)
		advice := pull.Fit(cells).Advise(o.now(), rand.NewPCG(1, 1))
		better.count(advice.Offered)
		gain := o.gain(advice.Order)
		within.count(gain >= advice.Low && gain <= advice.High)
		o.drifts, o.moods = 0.15, 0.2
		advice = pull.Fit(o.clicks()).Advise(o.now(), rand.NewPCG(1, 1))
		drifting.count(advice.Offered)
		gain = o.gain(advice.Order) * math.Exp(0.15*0.15/2) // the mean of editions like these
		drifted.count(gain >= advice.Low && gain <= advice.High)
	}
	return []Finding{appealOrder, better, within, drifting, drifted}
}

func (f *Finding) count(held bool) {
	f.Of++
	if held {
		f.Held++
	}
}

func number(block string) (n int) {
	_, _ = fmt.Sscan(block, &n)
	return n
}

// agreement is Spearman's rank correlation of two lists without ties.
func agreement(a, b []float64) float64 {
	first, second := ranks(a), ranks(b)
	sum, n := 0.0, float64(len(a))
	for i := range first {
		sum += (first[i] - second[i]) * (first[i] - second[i])
	}
	return 1 - 6*sum/(n*(n*n-1))
}

func ranks(values []float64) []float64 {
	order := inOrder(len(values))
	slices.SortFunc(order, func(i, j int) int {
		if values[i] < values[j] {
			return -1
		}
		return 1
	})
	ranks := make([]float64, len(values))
	for rank, i := range order {
		ranks[i] = float64(rank)
	}
	return ranks
}
