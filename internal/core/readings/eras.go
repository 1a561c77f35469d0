package readings

import (
	"slices"
	"time"

	"jundle/internal/core/stats"
)

// eras are the numbers of the days on which something began to be another, in order, leastEra days apart at least.
type eras []int

// leastEra is of how many days an era is at least: in a shorter one it does not show how days hang together.
const leastEra = 14

func erasOf(edited []time.Time, zone *time.Location) eras {
	var numbers []int
	for _, at := range edited {
		numbers = append(numbers, dayNumber(at.In(zone).Format(time.DateOnly)))
	}
	slices.Sort(numbers)
	var apart eras
	for _, day := range numbers {
		if len(apart) == 0 || day >= apart[len(apart)-1]+leastEra {
			apart = append(apart, day)
		}
	}
	return apart
}

// mark says of each rate in which era it is; the day of a change is in the later one.
func (e eras) mark(rates []stats.DailyRate) []stats.DailyRate {
	for i, rate := range rates {
		era, begins := slices.BinarySearch(e, rate.Day)
		if begins {
			era++
		}
		rates[i].Era = era
	}
	return rates
}
