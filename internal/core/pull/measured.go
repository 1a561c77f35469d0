package pull

import "math"

// Look is how many openings of a page that told how far down they got had a place on screen.
type Look struct{ Seen, Of int }

// FitMeasured is Fit for a page that measures what comes on screen. How likely a place is to be seen is known, from the first
// place on, and not fitted: appeals can be told apart wherever two blocks were shown, whether or not they ever changed
// places. Places of which too few openings told are left out. How likely places are to be seen is said as it was measured.
func FitMeasured(cells []Cell, looks []Look) Model {
	var known []Cell
	for _, c := range cells {
		if c.Place >= 1 && c.Place <= len(looks) && looks[c.Place-1].known() {
			known = append(known, c)
		}
	}
	spots, blocks, places := spotsOf(known)
	model := newModel(blocks, places)
	if len(blocks) < 2 {
		return model
	}
	one := part{places: []int{0}} // for the fit all stand at one place
	for block := range blocks {
		one.blocks = append(one.blocks, block)
	}
	for i, s := range spots {
		spots[i].rate -= looks[s.place].log()
		spots[i].variance += looks[s.place].variance()
		spots[i].place = 0
	}
	fitted, ok := solve(spots, []part{one}, len(blocks))
	if !ok {
		return model
	}
	one.take(fitted)
	one.places = nil
	for place, look := range looks {
		if look.known() {
			one.places, one.looks = append(one.places, place), append(one.looks, look.log())
		}
	}
	model.add(one)
	for i, place := range one.places {
		if place < places {
			model.Seen[place] = math.Exp(one.looks[i])
		}
	}
	return model
}

// Measured tells whether enough is known of any place.
func Measured(looks []Look) bool {
	for _, look := range looks {
		if look.known() {
			return true
		}
	}
	return false
}

func (l Look) known() bool { return l.Of >= Enough && l.Seen > 0 }

func (l Look) log() float64 { return math.Log(float64(l.Seen) / float64(l.Of)) }

// variance is that of the logarithm, by the delta method.
func (l Look) variance() float64 { return 1/float64(l.Seen) - 1/float64(l.Of) }
