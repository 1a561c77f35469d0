package readings

import "slices"

// AnyOf is how many visits pressed any of some blocks, of those that had one before them. Which blocks a visit pressed
// together is not summed up: where there are several it is taken that theirs are pressed by as many visits, for each
// press, as those of all blocks are. It is no less than the one that most pressed, and no more than all of them added.
func (r Reading) AnyOf(blocks []string) Rate {
	reach, most, pressed, all := 0, 0, 0, 0
	for _, block := range r.Blocks {
		taken := block.Total.Rate.Taken
		all += taken
		if slices.Contains(blocks, block.Block) {
			reach, most, pressed = max(reach, block.Total.Rate.Of), max(most, taken), pressed+taken
		}
	}
	visits := pressed
	if all > 0 {
		visits = min(pressed, max(most, pressed*r.Total.ClickThrough.Taken/all))
	}
	return NewRate(min(visits, reach), reach)
}
