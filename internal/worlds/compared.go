package worlds

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/stats"
)

// drift is what goes up and down from one day to the next: an autoregression of the first order on a logarithm, with that
// correlation and standard deviation.
type drift struct{ inertia, size float64 }

// strong is a week of a page whose visitors come at weekends.
var strong = [7]float64{0.3, 0.3, 0.4, 0.6, 1, 2, 2.4}

// page is a page as days of it are made.
type page struct {
	random *rand.Rand
	// visitors come on an average day, as often as returns says; with week, drift and, of 100 days, four on which several
	// times as many come.
	visitors float64
	week     [7]float64
	traffic  drift
	spread   float64
	spikes   bool
	returns
	// rates are the chances that each button is pressed, which go up and down together.
	rates []float64
	moods drift
	// mix is what part of the visitors each source brings, and keen how much more they press than others.
	mix, keen []float64
	// byFactor has mood and keen multiply rates, where they add to their logits otherwise. Cell is a button, a source and by
	// how many times it is pressed more from there.
	byFactor bool
	cell     [3]float64

	// every is after how many days an edition goes live, which makes all buttons be pressed up to so much more or less: the
	// largest difference of logarithms. 0: none does.
	every   int
	shifted float64

	traffics, mood, edition float64
	begun                   bool
	made                    int
	editions                []time.Time
}

func (p *page) next(of drift, now float64) float64 {
	if !p.begun {
		return of.size * p.random.NormFloat64()
	}
	return of.inertia*now + math.Sqrt(1-of.inertia*of.inertia)*of.size*p.random.NormFloat64()
}

// days makes so many days from a date on.
func (p *page) days(from time.Time, many int) (sums daily.Sums) {
	for i := range many {
		p.traffics, p.mood, p.begun = p.next(p.traffic, p.traffics), p.next(p.moods, p.mood), true
		day := from.AddDate(0, 0, i)
		if p.made++; p.every > 0 && p.made%p.every == 0 {
			p.editions, p.edition = append(p.editions, day), p.shifted*(2*p.random.Float64()-1)
		}
		mean := p.visitors * p.week[(int(day.Weekday())+6)%7] * math.Exp(p.traffics)
		if p.spikes && p.random.Float64() < 0.04 {
			mean *= 3 + 5*p.random.Float64()
		}
		for source, part := range p.mix {
			p.day(&sums, day.Format(time.DateOnly), source, mean*part)
		}
	}
	return sums
}

// day makes what one source brings on a day: each number of visits a day by itself. Who comes back does as before.
func (p *page) day(sums *daily.Sums, day string, source int, mean float64) {
	visitors := drawn(p.random, mean, p.spread)
	row := daily.PageRow{PageKey: daily.PageKey{Day: day, Source: fmt.Sprint("source", source)}}
	takers := make([]int, len(p.rates))
	left, chance := visitors, 1.0
	for i, each := range p.visits {
		some := binomial(p.random, left, p.chances[i]/chance)
		left, chance = left-some, max(1e-9, chance-p.chances[i])
		row.Visits, row.Visitors = row.Visits+some*each, row.Visitors+some
		pressed := 0
		for button := range p.rates {
			takes := binomial(p.random, some, p.chance(button, source))
			takers[button] += takes * each
			pressed = max(pressed, takes)
		}
		row.ClickedVisits += pressed * each
	}
	sums.Pages = append(sums.Pages, row)
	for button := range p.rates {
		sums.Blocks = append(sums.Blocks, daily.BlockRow{
			BlockKey: daily.BlockKey{Day: day, Block: key(button), Source: row.Source}, Takers: takers[button], Reach: row.Visits,
		})
	}
}

func logit(rate float64) float64     { return math.Log(rate / (1 - rate)) }
func logistic(value float64) float64 { return 1 / (1 + math.Exp(-value)) }

func binomial(random *rand.Rand, n int, p float64) int {
	switch {
	case n <= 0 || p <= 0:
		return 0
	case p >= 1:
		return n
	}
	return int(distuv.Binomial{N: float64(n), P: p, Src: random}.Rand())
}

// usual is a page of four buttons and three sources, of which visitors press in different measure.
func usual(seed int, kind uint64) *page {
	return &page{
		random: rand.New(rand.NewPCG(uint64(seed), kind)), visitors: 400, week: rhythm, spread: 0.02, returns: once,
		rates: []float64{0.2, 0.12, 0.07, 0.04}, mix: []float64{0.5, 0.3, 0.2}, keen: []float64{0, -0.4, 0.3},
	}
}

// comparison is what is said of two spans.
type comparison = readings.Changes

// compare makes two spans of so many days with the history before, changes the page between them, and compares.
func (p *page) compare(many int, change func(*page)) readings.Changes {
	start := monday.AddDate(0, 0, -2*many)
	before := spanOf(start, many)
	history := before.DayEarlier().History()
	sums := p.days(history.From(), int(start.Sub(history.From()).Hours()/24+0.5)+many)
	change(p)
	more := p.days(start.AddDate(0, 0, many), many)
	sums.Pages, sums.Blocks = append(sums.Pages, more.Pages...), append(sums.Blocks, more.Blocks...)
	return readings.Compare(spanOf(start.AddDate(0, 0, many), many), before, sums, p.editions)
}

func spanOf(from time.Time, many int) (span readings.Span) {
	for i := range many + 1 {
		span.Days = append(span.Days, from.AddDate(0, 0, i))
	}
	return span
}

func nothing(*page) {}

// calledAny tells whether any rate is called a change.
func calledAny(changes readings.Changes) bool {
	for _, change := range changes.Blocks {
		if change.Called {
			return true
		}
	}
	return changes.Through.Called
}

// Weeks holds what is called between two spans of a page against what changed on it.
func Weeks(n int) []Finding {
	found := []Finding{}
	null := func(what string, many int, called func(readings.Changes) bool, as func(*page)) {
		f := Finding{What: what, Most: 0.05}
		for seed := range n {
			p := usual(seed, 31)
			as(p)
			f.count(called(p.compare(many, nothing)))
		}
		found = append(found, f)
	}
	const rate = "any rate is called changed between two weeks: "
	null(rate+"every visitor comes once", 7, calledAny, nothing)
	null(rate+mild.name, 7, calledAny, func(p *page) { p.returns = mild })
	null(rate+heavy.name, 7, calledAny, func(p *page) { p.returns = heavy })
	null(rate+"rates vary by day (logit sd 0.15), 1,000 visits a day", 7, calledAny, func(p *page) {
		p.visitors, p.moods = 1000, drift{0, 0.15}
	})
	null(rate+"they drift from day to day (0.6)", 7, calledAny, func(p *page) { p.visitors, p.moods = 1000, drift{0.6, 0.15} })
	null("the same, 28 against 28 days, 0.8", 28, calledAny, func(p *page) { p.visitors, p.moods = 1000, drift{0.8, 0.15} })
	null("the same, 28 against 28 days, 0.8, and an edition that changes nothing goes live every five days", 28, calledAny, func(p *page) {
		p.visitors, p.moods, p.every = 1000, drift{0.8, 0.15}, 5
	})
	const visits = "visits are called changed, 28 against 28 days: "
	calledVisits := func(c readings.Changes) bool { return c.Visits.Called }
	for _, inertia := range []float64{0, 0.6, 0.8} {
		null(fmt.Sprintf("%sdays hang together (%.1f, sd 0.3)", visits, inertia), 28, calledVisits, func(p *page) {
			p.traffic = drift{inertia, 0.3}
		})
	}
	null(visits+"four days of a hundred have 3 to 8 times as many", 28, calledVisits, func(p *page) { p.spikes = true })
	null("visits are called changed, 7 against 7 days: days hang together (0.6, sd 0.3)", 7, calledVisits, func(p *page) {
		p.traffic = drift{0.6, 0.3}
	})
	null("anything at all is called on a screen of a week", 7, func(c readings.Changes) bool { return c.Visits.Called || calledAny(c) },
		func(p *page) { p.returns, p.traffic, p.moods = mild, drift{0.3, 0.2}, drift{0.3, 0.1} })
	return append(found, grown(n)...)
}

// grown changes something, and holds whether it is found and what is said of it.
func grown(n int) []Finding {
	third := Finding{What: "30 % more visits are found, 28 against 28 days, strong weekly rhythm", Least: 0.9, Most: 1}
	double := Finding{
		What:  "twice the visits are found, 28 against 28 days, strong weekly rhythm, days hang together (0.6)",
		Least: 0.8, Most: 1,
	}
	within := Finding{What: "by what part visits grew is within what is said, 28 days", Least: 0.93, Most: 1}
	button := Finding{What: "a button pressed by 16 instead of 12 of 100 is found, 400 visits a day, 28 against 28 days", Least: 0.9, Most: 1}
	edited := Finding{
		What:  "a button is found, on a page with an edition every three weeks that changes how much all buttons are pressed",
		Least: 0.8, Most: 1,
	}
	points := Finding{What: "by how much it was pressed more is within what is said", Least: 0.93, Most: 1}
	for seed := range n {
		p := usual(seed, 32)
		p.week = strong
		changes := p.compare(28, func(p *page) { p.visitors *= 1.3 })
		third.count(changes.Visits.Called)
		within.count(!changes.Visits.Interval.Excludes(0.3))
		p = usual(seed, 33)
		p.week, p.traffic = strong, drift{0.6, 0.2}
		double.count(p.compare(28, func(p *page) { p.visitors *= 2 }).Visits.Called)
		p = usual(seed, 34)
		p.keen = []float64{0, 0, 0}
		change := p.compare(28, func(p *page) { p.rates[1] = 0.16 }).Blocks[key(1)]
		button.count(change.Called)
		points.count(!change.Points.Excludes(0.04))
		p = usual(seed, 39)
		p.every, p.shifted = 21, 0.3
		edited.count(p.compare(28, func(p *page) { p.rates[1], p.every, p.edition = 0.18, 0, 0 }).Blocks[key(1)].Called)
	}
	return []Finding{third, double, within, button, points, edited}
}

// Edits holds what is said of an edit against pages on which it did nothing.
func Edits(n int) []Finding {
	drifts := Finding{What: "an edit is said to have changed a rate, on a page that drifts slowly (0.95 a day, logit sd 0.3)", Most: 0.05}
	mixed := Finding{What: "the same where only the mix of sources changed", Most: 0.05}
	simpson := Finding{What: "it is said that the mix went against the sources, where it did", Least: 0.9, Most: 1}
	found := Finding{What: "an edit that makes 16 of 100 press instead of 12 is found in four weeks, 400 visits a day", Least: 0.9, Most: 1}
	around := func(p *page, change func(*page)) readings.Around {
		edit := monday.Add(12 * time.Hour)
		sums := p.days(monday.AddDate(0, 0, -28), 29)
		change(p)
		more := p.days(monday.AddDate(0, 0, 1), 28)
		sums.Blocks = append(sums.Blocks, more.Blocks...)
		return readings.AroundEdit(sums, key(1), readings.Edited{At: edit, Now: monday.AddDate(0, 0, 60), Zone: time.UTC})
	}
	for seed := range n {
		p := usual(seed, 35)
		p.moods = drift{0.95, 0.3}
		drifts.count(around(p, nothing).Called)
		p = usual(seed, 36)
		p.keen = []float64{0, -1, 0.8}
		mixed.count(around(p, func(p *page) { p.mix = []float64{0.2, 0.7, 0.1} }).Called)
		p = usual(seed, 37)
		p.keen = []float64{0, -1, 0.8}
		simpson.count(around(p, func(p *page) { p.mix, p.rates[1] = []float64{0.1, 0.85, 0.05}, 0.15 }).Mixed)
		p = usual(seed, 38)
		found.count(around(p, func(p *page) { p.rates[1] = 0.16 }).Called)
	}
	return []Finding{drifts, mixed, simpson, found}
}

// rateWithin tells whether a true difference is within what is said of two rates.
func rateWithin(a, b readings.Rate, truth float64) bool {
	return !stats.Difference(a.Taken, a.Of, b.Taken, b.Of).Excludes(truth)
}
