package stats

import "math"

// influence is by how much a day moves the rate of its span, by how much it would that of its era, and the variance that
// chance alone gives to that.
type influence struct {
	day, era              int
	moved, within, chance float64
}

// influences are those of the days of a span, in order.
func (s strata) influences(weights []float64) []influence {
	moved := make([]influence, len(s.days))
	for at, day := range s.days {
		one := influence{day: day.day, era: day.era}
		for i, weight := range weights {
			if weight == 0 {
				continue
			}
			rate, share := s.sums[i].rate(), weight/float64(s.sums[i].of)
			taken, of := float64(day.of[i].taken), float64(day.of[i].of)
			one.moved += share * (taken - rate*of)
			one.within += share * (taken - s.eras[day.era][i].rate()*of)
			one.chance += share * share * rate * (1 - rate) * of
		}
		moved[at] = one
	}
	return moved
}

// spread are the influences of the days of two spans.
type spread struct{ first, second []influence }

// RateInertia is by how much rates of days hang together, from 0 to 1, out of the days of two spans.
func RateInertia(first, second []DailyRate) float64 {
	a, b := strataOf(first, second)
	weights := mixOf(a, b)
	return spread{a.influences(weights), b.influences(weights)}.inertia()
}

// inertia is how far days of an era hang together beyond chance, which makes each day differ from the next by itself.
func (s spread) inertia() float64 {
	var squares, chance, products float64
	n, pairs, eras := 0, 0, 0
	for _, span := range [][]influence{s.first, s.second} {
		// A day of the longer span moves its rate less.
		scale := float64(len(span)) * float64(len(span))
		for i, one := range span {
			squares += scale * one.within * one.within
			chance += scale * one.chance
			n++
			if i == 0 || span[i-1].era != one.era {
				eras++
			} else if span[i-1].day == one.day-1 {
				products += scale * one.within * span[i-1].within
				pairs++
			}
		}
	}
	own := squares - chance
	if pairs == 0 || own <= squares/10 {
		return usualInertia // there is as good as nothing that could hang together
	}
	// What chance does to each day hides how its own part hangs together.
	sure := float64(n) * math.Pow(min(1, own/squares), 2)
	return inertiaOf(min(1, products/float64(pairs)/(own/float64(n))), float64(n), float64(eras), sure)
}

// variance is that of the difference of the two rates: of what chance does to each day by itself, and of the rest, which
// hangs together.
func (s spread) variance(inertia float64) (sum float64) {
	for _, span := range [][]influence{s.first, s.second} {
		days, squares, chance := float64(len(span)), 0.0, 0.0
		for _, one := range span {
			squares += one.moved * one.moved
			chance += one.chance
		}
		wider, hangs := 1.0, 1.0
		for lag := 1; lag < len(span); lag++ {
			hangs *= inertia
			wider += 2 * (1 - float64(lag)/days) * hangs
		}
		// Days that hang together go with their mean, so that they seem to differ less from it.
		sum += chance + max(0, squares-chance)*wider/(1-min(0.8, wider/days))
	}
	return sum
}
