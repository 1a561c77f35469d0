package trial

import "time"

// Shown is a trial as visitors have it before them.
type Shown struct {
	ID string
	// Variants is how many there are, with the thing as it is.
	Variants int
	// Keys are the blocks whose clicks are compared: a taker is a visit that pressed any of them.
	Keys []string
	// From and Until say when it runs; Until is not in it.
	From, Until time.Time
}

// Holds tells whether it runs at a moment.
func (s Shown) Holds(at time.Time) bool { return !at.Before(s.From) && at.Before(s.Until) }
