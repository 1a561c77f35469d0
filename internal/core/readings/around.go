package readings

import (
	"time"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

// mostWeeksAround is how many weeks on either side of an edit are compared at most.
const mostWeeksAround = 4

// Around is what the rate of a block was before an edit and after it, over as many whole
// weeks on either side, so that every weekday takes part as often. The day of the edit
// itself is neither.
type Around struct {
	Weeks  int            `json:"weeks" doc:"On either side; 0 where there is not one whole week on both, and then nothing is said."`
	Before Rate           `json:"before"`
	After  Rate           `json:"after"`
	Points stats.Interval `json:"points" doc:"95 % hybrid score interval of the difference."`
	Called bool           `json:"called" doc:"There were enough visits on either side, the interval leaves out 0, and so does the test."`
}

// AroundEdit compares the rate of a block before a time with that after it. Last and next
// are when it was edited before that and after that: what is compared lies between them.
func AroundEdit(sums daily.Sums, block string, edit, last, next time.Time, zone *time.Location) Around {
	return around(edit, last, next, zone, func(from, to time.Time) Rate { return rateBetween(sums, block, from, to) })
}

// AroundPage compares how many visits pressed anything before a time with how many did after it.
func AroundPage(sums daily.Sums, edit, last, next time.Time, zone *time.Location) Around {
	return around(edit, last, next, zone, func(from, to time.Time) Rate {
		first, end := from.Format(time.DateOnly), to.Format(time.DateOnly)
		var sum tally
		for _, row := range sums.Pages {
			if row.Day >= first && row.Day < end {
				sum.add(tallyOf(row))
			}
		}
		return NewRate(sum.clickedVisits, sum.visits)
	})
}

func around(edit, last, next time.Time, zone *time.Location, rate func(from, to time.Time) Rate) Around {
	day := startOfDay(edit, zone)
	after := day.AddDate(0, 0, 1)
	// Of the day of the other edits nothing takes part.
	from, to := startOfDay(last, zone).AddDate(0, 0, 1), startOfDay(next, zone)
	weeks := 0
	for weeks < mostWeeksAround && !day.AddDate(0, 0, -7*(weeks+1)).Before(from) && !after.AddDate(0, 0, 7*(weeks+1)).After(to) {
		weeks++
	}
	if weeks == 0 {
		return Around{}
	}
	found := Around{Weeks: weeks, Before: rate(day.AddDate(0, 0, -7*weeks), day), After: rate(after, after.AddDate(0, 0, 7*weeks))}
	found.Points = stats.Difference(found.After.Taken, found.After.Of, found.Before.Taken, found.Before.Of)
	found.Called = differ(found.After, found.Before, found.Points)
	return found
}

// rateBetween is the rate of a block from one day up to another.
func rateBetween(sums daily.Sums, block string, from, to time.Time) Rate {
	first, end := from.Format(time.DateOnly), to.Format(time.DateOnly)
	var sum cell
	for _, row := range sums.Blocks {
		if row.Block == block && row.Day >= first && row.Day < end {
			sum.add(row)
		}
	}
	return NewRate(sum.takers, sum.reach)
}
