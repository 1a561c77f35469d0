package traffic

import "time"

// FloodBudget is how many events of one page are counted from one client address:
// so many in an hour, spread as they may come, and no more than AtOnce in one go. It
// is generous: a school, an office or a festival behind one router stays below it.
type FloodBudget struct {
	PerHour int
	AtOnce  int
}

// NewFloodBudget is the budget of so many in an hour, a fifteenth of it at once.
func NewFloodBudget(perHour int) FloodBudget {
	return FloodBudget{PerHour: perHour, AtOnce: max(1, perHour/15)}
}

// Take uses up one event of a budget that is whole again at a time, the zero time
// for one that was never used. It returns when the budget is whole again after it,
// and whether the event is within it; one that is not uses up nothing. It is the
// generic cell rate algorithm (ITU-T I.371, annex A).
func (b FloodBudget) Take(whole, at time.Time) (next time.Time, within bool) {
	pause := time.Hour / time.Duration(b.PerHour)
	if whole.Before(at) {
		whole = at
	}
	next = whole.Add(pause)
	if next.Sub(at) > time.Duration(b.AtOnce)*pause {
		return whole, false
	}
	return next, true
}
