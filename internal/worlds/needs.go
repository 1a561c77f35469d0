package worlds

import "fmt"

// Needs is how often a change of a size is found on pages of a size: what there has to be before anything can be said. It is
// a table, and holds nothing.
func Needs(n int) (rows []string) {
	for _, many := range []int{7, 28} {
		for _, visitors := range []float64{30, 100, 400, 1500} {
			row := fmt.Sprintf("| %d against %d days | %.0f |", many, many, visitors)
			for _, grown := range []float64{1.3, 1.5, 2} {
				row += share(n, many, visitors, func(p *page) { p.visitors *= grown }, func(c comparison) bool { return c.Visits.Called })
			}
			for _, rate := range []float64{0.15, 0.18, 0.24} {
				row += share(n, many, visitors, func(p *page) { p.rates[1] = rate }, func(c comparison) bool { return c.Blocks[key(1)].Called })
			}
			rows = append(rows, row)
		}
	}
	return rows
}

func share(n, many int, visitors float64, change func(*page), found func(comparison) bool) string {
	called := Finding{}
	for seed := range n {
		p := usual(seed, 61)
		p.visitors, p.traffic, p.moods, p.returns = visitors, drift{0.3, 0.15}, drift{0.3, 0.05}, mild
		called.count(found(p.compare(many, change)))
	}
	return fmt.Sprintf(" %.0f %% |", 100*called.Share())
}
