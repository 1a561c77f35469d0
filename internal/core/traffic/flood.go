package traffic

import "time"

// FloodBudget is how many events of one page are counted from one client address:
// so many in an hour, and all of them at once where they come so. It is generous: a
// school, an office, or the hall of a concert in which everybody opens the page at the same
// moment, stays below it behind one router.
type FloodBudget struct{ PerHour int }

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
	if next.Sub(at) > time.Duration(b.PerHour)*pause {
		return whole, false
	}
	return next, true
}
