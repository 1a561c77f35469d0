package readings

import (
	"time"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

const (
	// FirstDaysShown is how many days of a block's beginning are looked at.
	FirstDaysShown = 28
	// enoughFirstClicks is from how many clicks on it is said how they came in.
	enoughFirstClicks = 30
)

// FirstDays is how the clicks on a block came in, in the days after it was first shown.
type FirstDays struct {
	Since  string `json:"since" doc:"The first day on which it was shown, YYYY-MM-DD."`
	Clicks int    `json:"clicks" doc:"In the days that are looked at: the first 28, or as many as are over."`
	// Shares grow to 1; there are none where there are fewer than 30 clicks.
	Shares []float64 `json:"shares" nullable:"false" doc:"What part of these clicks had come by the end of each day; empty below 30 clicks."`
	// HalfLife is worked out as if the clicks of a day came evenly.
	HalfLife float64 `json:"halfLife" doc:"In how many days from its beginning the first half of them came; 0 where that is not said."`
	Steady   float64 `json:"steady" doc:"In how many days half would have come if as many came at all times."`
	// Fades tells whether it is pressed less than at first, by more than such days differ by themselves.
	Fades bool `json:"fades" doc:"Its clicks came earlier than if as many came at all times, by more than such days differ."`
}

// FirstDaysOf reads how the clicks on a block came in, from sums since its beginning, of days
// that are over at a time. Shown is when it was first shown, which of its first day leaves some hours.
func FirstDaysOf(sums daily.Sums, block string, shown, now time.Time, zone *time.Location) FirstDays {
	clicks, since := make(map[string]int), ""
	for _, row := range sums.Blocks {
		if row.Block != block || row.Reach <= 0 && row.Clicks <= 0 {
			continue
		}
		clicks[row.Day] += row.Clicks
		if since == "" || row.Day < since {
			since = row.Day
		}
	}
	first := FirstDays{Since: since, Shares: []float64{}}
	begun, err := time.ParseInLocation(time.DateOnly, since, zone)
	if err != nil {
		return first // it was never shown
	}
	var days []stats.Daily
	today := startOfDay(now, zone)
	for day := begun; day.Before(today) && len(days) < FirstDaysShown; day = day.AddDate(0, 0, 1) {
		days = append(days, stats.Daily{Day: dayNumber(day.Format(time.DateOnly)), Count: clicks[day.Format(time.DateOnly)]})
		first.Clicks += days[len(days)-1].Count
	}
	if first.Clicks < enoughFirstClicks {
		return first
	}
	first.spread(days, partLeft(shown, begun, zone))
	first.Fades = stats.Fading(days[1:]) < levelOfEdits
	return first
}

// partLeft is what part of a day was left when something was first shown on it: all of it where that was before.
func partLeft(shown, day time.Time, zone *time.Location) float64 {
	end := day.AddDate(0, 0, 1)
	if shown.Before(day) || !shown.Before(end) {
		return 1
	}
	return max(1.0/24, float64(end.Sub(shown.In(zone)))/float64(end.Sub(day)))
}

// spread works out how the clicks of days came in, of which the first has but a part.
func (f *FirstDays) spread(days []stats.Daily, part float64) {
	sum, half, passed := 0.0, float64(f.Clicks)/2, 0.0
	for i, day := range days {
		length, count := 1.0, float64(day.Count)
		if i == 0 {
			length = part
		}
		if sum < half && sum+count >= half {
			f.HalfLife = passed + length*(half-sum)/count
		}
		sum, passed = sum+count, passed+length
		f.Shares = append(f.Shares, sum/float64(f.Clicks))
	}
	f.Steady = passed / 2
}
