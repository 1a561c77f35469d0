package readings

import (
	"math"
	"time"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

const (
	// Everything that is called on one screen is wrong in 5 of 100 screens at most. Of these 2 are the visits', which is
	// asked first, 1.5 those of all rates together, and the rest of cells that are marked.
	levelOfVisits = 0.02
	levelOfRates  = 0.015
	// levelOfEdits is for all edits that are shown. It is as small because rates of some pages drift in ways that are not in
	// the arithmetic (`make worlds` has them at 5 in 100 at most).
	levelOfEdits = 0.02
)

// CountChange is a number of things against what it was before.
type CountChange struct {
	Before int     `json:"before" doc:"What it was then."`
	Share  float64 `json:"share" doc:"By what part of that it rose or fell; 0 where it was 0."`
}

// VisitsChange is a number of visits against what it was before, and whether that is a change.
type VisitsChange struct {
	CountChange
	Interval stats.Interval `json:"interval" doc:"Between what parts it rose or fell (95 %); -1 to 1000 where it cannot be told."`
	// Called: it is more than days as uneven as these do by themselves.
	Called bool `json:"called" doc:"More than days as uneven as these do by themselves."`
	// Close: against the days that begin a day earlier it would be the other way round.
	Close bool `json:"close" doc:"The verdict would turn if the span before began a day earlier."`
	// Missing is how many more days of figures there must be before anything can be called.
	Missing int `json:"missing" doc:"How many more days of figures are needed before it can be told; 0 when there are enough."`
}

// RateChange is a share against what it was before.
type RateChange struct {
	Before Rate           `json:"before"`
	Points stats.Interval `json:"points" doc:"95 % interval of the difference, each source against itself, as uneven as days are."`
	Called bool           `json:"called" doc:"The interval leaves out 0, and all that is called on the screen is wrong in 5 of 100."`
	// Mixed: the rate of all went the other way than that of the sources.
	Mixed bool  `json:"mixed" doc:"All sources together went the other way than the sources by themselves, because their mix changed."`
	Needs Needs `json:"needs"`
}

// Needs is what it takes for a difference of two rates to be told.
type Needs struct {
	Points float64 `json:"points" doc:"A difference of this size would be told in 8 of 10 such spans; 0 where none would."`
	// Quarter and Weeks are for a difference of a quarter of the rate that was.
	Quarter float64 `json:"quarter" doc:"A quarter of the rate before."`
	Weeks   int     `json:"weeks" doc:"Of how many weeks both spans have to be for a difference of a quarter to be told; 0 where these are long enough, or it takes more than 13 weeks."`
}

// mostWeeks is how many weeks on either side are spoken of at most.
const mostWeeks = 13

// needsOf is what a change over so many days on either side needs to be told at a level.
func needsOf(change stats.ChangeOfRate, before Rate, level float64, days int) Needs {
	points := change.Least(level)
	if math.IsNaN(points) || points >= 1 {
		return Needs{}
	}
	needs := Needs{Points: points, Quarter: before.Rate / 4}
	// What is not known falls with the root of the time, where days are as they were.
	if needs.Quarter > 0 && points > needs.Quarter {
		weeks := math.Ceil(float64(days) / 7 * math.Pow(points/needs.Quarter, 2))
		if weeks <= mostWeeks {
			needs.Weeks = int(weeks)
		}
	}
	return needs
}

// Changes are the figures of a page against those of a span before.
type Changes struct {
	From string `json:"from" doc:"First day of the span before, YYYY-MM-DD."`
	To   string `json:"to"`
	Days int    `json:"days" doc:"Of how many days each. One day against one is never called a change."`
	// WithoutToday: the span that is read goes on today, which takes no part.
	WithoutToday bool                  `json:"withoutToday" doc:"Today, which is not over, is in the span and takes no part in the comparison."`
	Visits       VisitsChange          `json:"visits"`
	Visitors     CountChange           `json:"visitors"`
	Clicks       CountChange           `json:"clicks"`
	Through      RateChange            `json:"clickThrough"`
	Blocks       map[string]RateChange `json:"blocks" doc:"Of the rate of each block that was shown enough in both, by key."`
}

// historyDays is how many days there are in all, where there are as many, out of which it is seen how days vary.
const historyDays = 84

// History is the span of days before one that shows how days vary: enough that with both that are compared there are
// twelve weeks, and four weeks at least.
func (s Span) History() Span {
	days := max(28, historyDays-2*s.Len())
	earlier := Span{Days: make([]time.Time, days+1)}
	for i := range earlier.Days {
		earlier.Days[i] = s.Days[0].AddDate(0, 0, i-days)
	}
	return earlier
}

// Compare holds the figures of a span against those of one before, both of the same length and over. Sums have the rows of
// both, and the visits of the days of History of the span before with how many pressed anything. Edited are the days on which
// an edition went live: what it did to rates is no sign of how they vary by themselves.
func Compare(now, before Span, sums daily.Sums, edited []time.Time) Changes {
	reading, was := Read(now, sums), Read(before, sums)
	visits := visitsByDay(sums)
	changes := Changes{
		From: before.Date(0), To: before.Date(before.Len() - 1), Days: before.Len(),
		Visits:   visitsChange(now, before, visits),
		Visitors: changed(reading.Total.Visitors, was.Total.Visitors),
		Clicks:   changed(reading.Total.Clicks, was.Total.Clicks),
		Blocks:   make(map[string]RateChange),
	}
	changes.Through = rateChange(stats.CompareRates(nil, nil, 0), was.Total.ClickThrough)
	if was.Total.Visits == 0 {
		return changes // there is nothing to hold rates against
	}
	var chances []float64
	eras := erasOf(edited, now.Days[0].Location())
	pressed, earlier := eras.mark(throughByDay(now, sums)), eras.mark(throughByDay(before, sums))
	inertia := stats.RateInertia(eras.mark(together(pressed)), eras.mark(wholeByDay(before, sums)))
	through := stats.CompareRates(pressed, earlier, inertia)
	changes.Through = rateChange(through, was.Total.ClickThrough)
	if enough(reading.Total.ClickThrough, was.Total.ClickThrough) {
		chances = append(chances, through.P)
	}
	rates := make(map[string]Rate, len(was.Blocks))
	for _, block := range was.Blocks {
		rates[block.Block] = block.Total.Rate
	}
	byDay := blocksByDay(sums, now, before)
	found := make(map[string]stats.ChangeOfRate)
	var keys []string
	for _, block := range reading.Blocks {
		rate, key := rates[block.Block], block.Block
		if !enough(block.Total.Rate, rate) {
			continue
		}
		change := stats.CompareRates(eras.mark(byDay[key].list(now)), eras.mark(byDay[key].list(before)), inertia)
		changes.Blocks[key], found[key] = rateChange(change, rate), change
		keys, chances = append(keys, key), append(chances, change.P)
	}
	if len(chances) > 0 {
		level := levelOfRates / float64(len(chances)) // the first step of Holm's, which one change alone has to take
		if enough(reading.Total.ClickThrough, was.Total.ClickThrough) {
			changes.Through.Needs = needsOf(through, changes.Through.Before, level, before.Len())
		}
		for key, row := range changes.Blocks {
			row.Needs = needsOf(found[key], row.Before, level, before.Len())
			changes.Blocks[key] = row
		}
	}
	called := stats.Holm(chances, levelOfRates)
	if len(called) > len(keys) {
		changes.Through.Called = called[0] && changes.Through.Points.Excludes(0)
		called = called[1:]
	}
	for i, key := range keys {
		row := changes.Blocks[key]
		row.Called = called[i] && row.Points.Excludes(0)
		changes.Blocks[key] = row
	}
	return changes
}

func enough(a, b Rate) bool { return a.Of >= EnoughVisits && b.Of >= EnoughVisits }

// mixedFrom is by how much a rate goes one way, and the other without the mix, before that is said.
const mixedFrom = 0.005

func rateChange(change stats.ChangeOfRate, before Rate) RateChange {
	return RateChange{
		Before: before, Points: change.Points,
		Mixed: change.Plain >= mixedFrom && change.Difference <= -mixedFrom || change.Plain <= -mixedFrom && change.Difference >= mixedFrom,
	}
}

func changed(now, before int) CountChange {
	c := CountChange{Before: before}
	if before > 0 {
		c.Share = float64(now-before) / float64(before)
	}
	return c
}

// dayNumber counts days of the calendar.
func dayNumber(date string) int {
	day, _ := time.Parse(time.DateOnly, date)
	return int(day.Unix() / 86_400)
}

func visitsByDay(sums daily.Sums) map[string]int {
	visits := make(map[string]int)
	for _, row := range sums.Pages {
		visits[row.Day] += row.Visits
	}
	return visits
}

// visitsChange is that of the visits by day.
func visitsChange(now, before Span, visits map[string]int) VisitsChange {
	days := func(span Span) (counts []stats.Daily) {
		for i := range span.Len() {
			counts = append(counts, stats.Daily{Day: dayNumber(span.Date(i)), Count: visits[span.Date(i)]})
		}
		return counts
	}
	sum := func(counts []stats.Daily) (sum int) {
		for _, day := range counts {
			sum += day.Count
		}
		return sum
	}
	after, was := days(now), days(before)
	change := VisitsChange{CountChange: changed(sum(after), sum(was)), Interval: stats.Interval{Low: -1, High: mostShare}}
	if now.Len() < 2 || change.Before == 0 {
		return change
	}
	history := days(before.History())
	for len(history) > 0 && history[0].Count == 0 {
		history = history[1:] // the page was not there yet
	}
	late := 0
	for late < len(was) && len(history) == 0 && was[late].Count == 0 {
		late++
	}
	if change.Missing = max(late, stats.DaysToCompare-len(history)-len(was)-len(after)); change.Missing > 0 {
		return change
	}
	found := stats.CompareCounts(after, was, history)
	change.Called = found.P < levelOfVisits
	change.Interval = stats.Interval{Low: found.Share.Low, High: min(mostShare, found.Share.High)}
	beside := stats.CompareCounts(after, days(before.DayEarlier()), days(before.DayEarlier().History()))
	change.Close = (beside.P < levelOfVisits) != change.Called
	return change
}

// mostShare stands for all that a count can have grown by: JSON has no number for infinity.
const mostShare = 1000
