package readings

import "jundle/internal/core/stats"

// level is how often it may happen by chance alone that anything is called a change.
const level = 0.05

// CountChange is a number of things against what it was before.
type CountChange struct {
	Before int     `json:"before" doc:"What it was then."`
	Share  float64 `json:"share" doc:"By what part of that it rose or fell; 0 where it was 0."`
	// Called: it is more than chance alone would do.
	Called bool `json:"called" doc:"More than chance alone does on days as uneven as these."`
	// Close: against the days that begin a day earlier it would be the other way round.
	Close bool `json:"close" doc:"The verdict would turn if the span before began a day earlier."`
}

// RateChange is a share against what it was before.
type RateChange struct {
	Before Rate           `json:"before"`
	Points stats.Interval `json:"points" doc:"95 % hybrid score interval of the difference."`
	Called bool           `json:"called" doc:"The interval leaves out 0; of several rows at once, by Holm's step-down at 5 %."`
}

// Changes are the figures of a page against those of a span before.
type Changes struct {
	From string `json:"from" doc:"First day of the span before, YYYY-MM-DD."`
	To   string `json:"to"`
	Days int    `json:"days" doc:"Of how many days each."`
	// WithoutToday: the span that is read goes on today, which takes no part.
	WithoutToday bool                  `json:"withoutToday" doc:"Today, which is not over, is in the span and takes no part in the comparison."`
	Visits       CountChange           `json:"visits"`
	Visitors     CountChange           `json:"visitors"`
	Clicks       CountChange           `json:"clicks"`
	Through      RateChange            `json:"clickThrough"`
	Blocks       map[string]RateChange `json:"blocks" doc:"Of the rate of each block that was shown enough in both, by key."`
}

// Compare holds a reading against one of a span before, both of the same length. earlier is of the span that begins a
// day before that one: a verdict that it would turn is called close.
func Compare(now, before, earlier Reading) Changes {
	changes := Changes{
		Visits:   change(now, before, earlier, func(d Day) int { return d.Visits }),
		Clicks:   change(now, before, earlier, func(d Day) int { return d.Clicks }),
		Visitors: changed(now.Total.Visitors, before.Total.Visitors),
		Through:  rateChange(now.Total.ClickThrough, before.Total.ClickThrough),
		Blocks:   make(map[string]RateChange),
		Days:     len(before.Days),
	}
	if len(before.Days) > 0 {
		changes.From, changes.To = before.Days[0].Date, before.Days[len(before.Days)-1].Date
	}
	changes.Through.Called = differ(now.Total.ClickThrough, before.Total.ClickThrough, changes.Through.Points)
	var keys []string
	var chances []float64
	rates := make(map[string]Rate, len(before.Blocks))
	for _, block := range before.Blocks {
		rates[block.Block] = block.Total.Rate
	}
	for _, block := range now.Blocks {
		rate, was := block.Total.Rate, rates[block.Block]
		if enough(rate, was) {
			changes.Blocks[block.Block] = rateChange(rate, was)
			keys = append(keys, block.Block)
			chances = append(chances, stats.SameRate(rate.Taken, rate.Of, was.Taken, was.Of))
		}
	}
	for i, rejected := range stats.Holm(chances, level) {
		row := changes.Blocks[keys[i]]
		row.Called = rejected && row.Points.Excludes(0)
		changes.Blocks[keys[i]] = row
	}
	return changes
}

// differ tells whether two rates can be called different: of enough visits each, by the interval of the difference and
// by the test. Of very few against very many, the interval alone calls one click a difference.
func differ(a, b Rate, points stats.Interval) bool {
	return enough(a, b) && points.Excludes(0) && stats.SameRate(a.Taken, a.Of, b.Taken, b.Of) < level
}

func enough(a, b Rate) bool { return a.Of >= EnoughVisits && b.Of >= EnoughVisits }

func rateChange(now, before Rate) RateChange {
	return RateChange{Before: before, Points: stats.Difference(now.Taken, now.Of, before.Taken, before.Of)}
}

func changed(now, before int) CountChange {
	c := CountChange{Before: before}
	if before > 0 {
		c.Share = float64(now-before) / float64(before)
	}
	return c
}

// change is that of something that is counted by day.
func change(now, before, earlier Reading, count func(Day) int) CountChange {
	daily := func(days []Day) (counts []int, sum int) {
		for _, day := range days {
			counts = append(counts, count(day))
			sum += count(day)
		}
		return counts, sum
	}
	after, sum := daily(now.Days)
	first, was := daily(before.Days)
	beside, _ := daily(earlier.Days)
	c := changed(sum, was)
	c.Called = stats.CountsDiffer(after, first) < level
	c.Close = was > 0 && (stats.CountsDiffer(after, beside) < level) != c.Called
	return c
}
