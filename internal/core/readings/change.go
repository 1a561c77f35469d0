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
}

// RateChange is a share against what it was before.
type RateChange struct {
	Before Rate           `json:"before"`
	Points stats.Interval `json:"points" doc:"95 % hybrid score interval of the difference."`
	Called bool           `json:"called" doc:"The interval leaves out 0; of several rows at once, by Holm's step-down at 5 %."`
}

// Changes are the figures of a page against those of a span before.
type Changes struct {
	From     string                `json:"from" doc:"First day of the span before, YYYY-MM-DD."`
	To       string                `json:"to"`
	Days     int                   `json:"days" doc:"Of how many days each; today, which is not over, takes no part."`
	Visits   CountChange           `json:"visits"`
	Visitors CountChange           `json:"visitors"`
	Clicks   CountChange           `json:"clicks"`
	Through  RateChange            `json:"clickThrough"`
	Blocks   map[string]RateChange `json:"blocks" doc:"Of the rate of each block that was shown enough in both, by key."`
}

// Compare holds a reading against one of a span before, both of the same length.
func Compare(now, before Reading) Changes {
	changes := Changes{
		Visits:   change(now, before, func(d Day) int { return d.Visits }),
		Clicks:   change(now, before, func(d Day) int { return d.Clicks }),
		Visitors: changed(now.Total.Visitors, before.Total.Visitors),
		Through:  rateChange(now.Total.ClickThrough, before.Total.ClickThrough),
		Blocks:   make(map[string]RateChange),
		Days:     len(before.Days),
	}
	if len(before.Days) > 0 {
		changes.From, changes.To = before.Days[0].Date, before.Days[len(before.Days)-1].Date
	}
	changes.Through.Called = enough(now.Total.ClickThrough, before.Total.ClickThrough) && changes.Through.Points.Excludes(0)
	var keys []string
	var chances []float64
	earlier := make(map[string]Rate, len(before.Blocks))
	for _, block := range before.Blocks {
		earlier[block.Block] = block.Total.Rate
	}
	for _, block := range now.Blocks {
		rate, was := block.Total.Rate, earlier[block.Block]
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
func change(now, before Reading, count func(Day) int) CountChange {
	daily := func(days []Day) (counts []int, sum int) {
		for _, day := range days {
			counts = append(counts, count(day))
			sum += count(day)
		}
		return counts, sum
	}
	after, sum := daily(now.Days)
	earlier, was := daily(before.Days)
	c := changed(sum, was)
	c.Called = stats.CountsDiffer(after, earlier) < level
	return c
}
