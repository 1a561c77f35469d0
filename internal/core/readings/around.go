package readings

import (
	"time"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

// mostWeeksAround is how many weeks on either side of an edit are compared at most.
const mostWeeksAround = 4

// usualInertia is by how much what makes days differ beyond chance is taken to last to the next day at least: four weeks on
// either side are too short to see a slow drift in.
const usualInertia = 0.8

// Around is what the rate of a block was before an edit and after it, over as many whole
// weeks on either side, so that every weekday takes part as often. The day of the edit
// itself is neither.
type Around struct {
	Weeks  int            `json:"weeks" doc:"On either side; 0 where there is not one whole week on both, and then nothing is said."`
	Before Rate           `json:"before"`
	After  Rate           `json:"after"`
	Points stats.Interval `json:"points" doc:"95 % interval of the difference, each source against itself, as uneven as days are."`
	Called bool           `json:"called" doc:"Enough visits on either side, and the interval leaves out 0; edits shown together are wrong in 2 of 100."`
	// Mixed: the rate of all went the other way than that of the sources.
	Mixed bool  `json:"mixed" doc:"All sources together went the other way than the sources by themselves, because their mix changed."`
	Needs Needs `json:"needs"`
	// Missing is how many days are missing until there is a whole week, or another, on either side.
	Missing int `json:"missing" doc:"In how many days there is a whole week after it, or another; 0 where there never will be."`
	// Chance is the p-value of no difference; 1 where nothing can be said.
	Chance float64 `json:"-"`

	change stats.ChangeOfRate
}

// Edited is when something was edited, and in which zone days begin.
type Edited struct {
	At time.Time
	// Last and Next are the edits before and after it; zero where there are none.
	Last, Next time.Time
	// Now is up to when there are figures where nothing came after it.
	Now  time.Time
	Zone *time.Location
}

// weeks are how many whole weeks there are on either side, and how many days are missing until there is one more.
func (e Edited) weeks() (weeks, missing int) {
	day := startOfDay(e.At, e.Zone)
	after, to := day.AddDate(0, 0, 1), startOfDay(e.Now, e.Zone)
	if !e.Next.IsZero() {
		to = startOfDay(e.Next, e.Zone)
	}
	from := startOfDay(e.Last, e.Zone).AddDate(0, 0, 1) // of the day of the other edits nothing takes part
	there := func(weeks int) bool { return !day.AddDate(0, 0, -7*weeks).Before(from) }
	for weeks < mostWeeksAround && there(weeks+1) && !after.AddDate(0, 0, 7*(weeks+1)).After(to) {
		weeks++
	}
	if weeks < mostWeeksAround && there(weeks+1) && e.Next.IsZero() {
		for missing < 7 && after.AddDate(0, 0, 7*(weeks+1)-missing).After(to) {
			missing++
		}
	}
	return weeks, missing
}

// AroundEdit compares the rate of a block before an edit with that after it, between the edits before and after that.
func AroundEdit(sums daily.Sums, block string, edit Edited) Around {
	return around(edit, func(span Span) []stats.DailyRate {
		if rates, known := blocksByDay(sums, span)[block]; known {
			return rates.list()
		}
		return nil
	})
}

// AroundPage compares how many visits pressed anything before an edit with how many did after it.
func AroundPage(sums daily.Sums, edit Edited) Around {
	return around(edit, func(span Span) []stats.DailyRate { return throughByDay(span, sums) })
}

func around(edit Edited, rates func(Span) []stats.DailyRate) Around {
	weeks, missing := edit.weeks()
	if weeks == 0 {
		return Around{Chance: 1, Missing: missing}
	}
	day := startOfDay(edit.At, edit.Zone)
	after := day.AddDate(0, 0, 1)
	first, second := rates(daysFrom(after, 7*weeks)), rates(daysFrom(day.AddDate(0, 0, -7*weeks), 7*weeks))
	change := stats.CompareRates(first, second, usualInertia)
	row := rateChange(change, rateOf(second))
	found := Around{
		Weeks: weeks, Before: row.Before, After: rateOf(first), Points: row.Points, Mixed: row.Mixed,
		Needs:   needsOf(change, row.Before, levelOfEdits, 7*weeks),
		Missing: missing, Chance: change.P, change: change,
	}
	if !enough(found.Before, found.After) {
		found.Chance = 1
	}
	found.Called = found.Chance < levelOfEdits && found.Points.Excludes(0)
	return found
}

// Together has all edits that are shown be wrong in 5 of 100 together.
func Together(all []*Around) {
	chances := make([]float64, len(all))
	for i, each := range all {
		chances[i] = each.Chance
	}
	for i, rejected := range stats.Holm(chances, levelOfEdits) {
		all[i].Called = all[i].Called && rejected
		all[i].Needs = needsOf(all[i].change, all[i].Before, levelOfEdits/float64(len(all)), 7*all[i].Weeks)
	}
}

// daysFrom are so many days from one on.
func daysFrom(day time.Time, many int) Span {
	span := Span{Days: make([]time.Time, many+1)}
	for i := range span.Days {
		span.Days[i] = day.AddDate(0, 0, i)
	}
	return span
}

// rateOf is the rate of all days and sources together.
func rateOf(rates []stats.DailyRate) Rate {
	taken, of := 0, 0
	for _, each := range rates {
		taken, of = taken+each.Taken, of+each.Of
	}
	return NewRate(taken, of)
}
