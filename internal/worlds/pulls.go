package worlds

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sort"

	"jundle/internal/core/pull"
)

// editions of a page, and visits of each, of which pull is worked out.
const (
	pullEditions = 5
	pullVisits   = 4_000
)

// Pulls holds the click model and its advice against the values that clicks were made from.
func Pulls(n int) []Finding {
	appealOrder := Finding{What: "appeals stand in their true order (rank agreement above 0.9 at 20,000 visits)", Least: 0.95, Most: 1}
	seenOrder := Finding{What: "places stand in the order in which they are seen (the same)", Least: 0.95, Most: 1}
	alike := Finding{What: "advice is given where all buttons are alike", Most: 0.05}
	better := Finding{What: "advice is given where a better order is there", Least: 0.9, Most: 1}
	within := Finding{What: "the gain it would bring in fact is within what was said", Least: 0.93, Most: 1}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 4))
		appeal := []float64{0.05, 0.08, 0.12, 0.17, 0.23, 0.3}
		random.Shuffle(len(appeal), func(i, j int) { appeal[i], appeal[j] = appeal[j], appeal[i] })
		cells := clicks(random, appeal, pullEditions, pullVisits)
		model := pull.Fit(cells)
		fitted := make([]float64, len(appeal))
		for i := range fitted {
			fitted[i] = model.Appeal[fmt.Sprint(i)]
		}
		appealOrder.count(agreement(fitted, appeal) > 0.9)
		seenOrder.count(agreement(model.Seen, seen) > 0.9)

		same := []float64{0.15, 0.15, 0.15, 0.15, 0.15, 0.15}
		alike.count(pull.Advise(clicks(random, same, pullEditions, 1000), slots(), rand.NewPCG(1, 1)).Offered)

		rising := []float64{0.05, 0.08, 0.1, 0.2, 0.25, 0.3}
		advice := pull.Advise(clicks(random, rising, pullEditions, pullVisits), slots(), rand.NewPCG(1, 1))
		better.count(advice.Offered)
		if !advice.Offered {
			continue
		}
		gain := 0.0
		for place, block := range advice.Order {
			gain += 100 * seen[place] * (rising[number(block)] - rising[place])
		}
		within.count(gain >= advice.Low && gain <= advice.High)
	}
	return []Finding{appealOrder, seenOrder, alike, better, within}
}

func (f *Finding) count(held bool) {
	f.Of++
	if held {
		f.Held++
	}
}

func slots() (all []pull.Slot) {
	for i := range seen {
		all = append(all, pull.Slot{Block: fmt.Sprint(i), Group: 1})
	}
	return all
}

func number(block string) (n int) {
	_, _ = fmt.Sscan(block, &n)
	return n
}

// clicks are made from appeals, on editions that have the buttons in orders of their own.
func clicks(random *rand.Rand, appeal []float64, editions, visits int) []pull.Cell {
	var cells []pull.Cell
	for edition := range editions {
		order := random.Perm(len(appeal))
		if edition == 0 {
			sort.Ints(order)
		}
		for place, block := range order {
			cell := pull.Cell{Edition: edition + 1, Place: place + 1, Block: fmt.Sprint(block), Reach: visits}
			for range visits {
				if random.Float64() < seen[place]*appeal[block] {
					cell.Takers++
				}
			}
			cells = append(cells, cell)
		}
	}
	return cells
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
	order := make([]int, len(values))
	for i := range order {
		order[i] = i
	}
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
