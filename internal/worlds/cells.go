package worlds

import (
	"fmt"
	"math"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
)

// Cells holds the cells of buttons by sources that are marked against what is there.
func Cells(n int) []Finding {
	const many = 28
	table := func(seed int, kind uint64, as func(*page), change func(*daily.Sums)) readings.Association {
		p := usual(seed, kind)
		p.rates = []float64{0.2, 0.12, 0.07, 0.04, 0.04, 0.03}
		as(p)
		sums := p.days(monday, many)
		change(&sums)
		return readings.Associate(spanOf(monday, many), sums)
	}
	asItIs := func(*daily.Sums) {}
	var found []Finding
	null := func(what string, as func(*page), change func(*daily.Sums)) {
		f := Finding{What: "a cell of buttons by sources is marked: " + what, Most: 0.05}
		for seed := range n {
			f.count(len(table(seed, 41, as, change).Marks) > 0)
		}
		found = append(found, f)
	}
	// What a source's visitors press more, they press more of every button by the same factor.
	factor := func(p *page) { p.keen = []float64{0, -0.4, 0.3}; p.byFactor = true }
	null(once.name, factor, asItIs)
	null(mild.name, func(p *page) { factor(p); p.returns = mild }, asItIs)
	null(heavy.name, func(p *page) { factor(p); p.returns = heavy }, asItIs)
	null("one button is on the page for one source only", factor, func(sums *daily.Sums) { only(sums, 2, 1) })
	null("rates vary by day (0.15)", func(p *page) { factor(p); p.moods = drift{0.3, 0.15} }, asItIs)
	power := Finding{What: "a cell that is pressed 1.6 times as often is marked, 400 visitors a day, 28 days", Least: 0.9, Most: 1}
	for seed := range n {
		marks := table(seed, 42, func(p *page) { factor(p); p.cell = [3]float64{1, 1, 1.6} }, asItIs).Marks
		hit := false
		for _, mark := range marks {
			hit = hit || mark.Block == key(1) && mark.Source == "source1" && mark.Residual > 0
		}
		power.count(hit)
	}
	return append(found, power)
}

// only leaves a button on the page for one source.
func only(sums *daily.Sums, button, source int) {
	kept := sums.Blocks[:0]
	for _, row := range sums.Blocks {
		if row.Block != key(button) || row.Source == fmt.Sprint("source", source) {
			kept = append(kept, row)
		}
	}
	sums.Blocks = kept
}

// chance is how often a button is pressed in a visit from a source.
func (p *page) chance(button, source int) float64 {
	rate := p.rates[button]
	if p.cell[2] > 0 && button == int(p.cell[0]) && source == int(p.cell[1]) {
		rate *= p.cell[2]
	}
	if p.byFactor {
		return min(0.95, rate*math.Exp(p.mood+p.edition+p.keen[source]))
	}
	return logistic(logit(rate) + p.mood + p.edition + p.keen[source])
}
