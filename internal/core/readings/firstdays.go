package readings

import (
	"time"

	"jundle/internal/core/daily"
)

// FirstDaysShown is how many days of a block's beginning are looked at.
const FirstDaysShown = 28

// FirstDays is how the clicks on a block came in, in the days after it was first shown.
type FirstDays struct {
	Since  string `json:"since" doc:"The first day on which it was shown, YYYY-MM-DD."`
	Clicks int    `json:"clicks" doc:"In the days that are looked at: the first 28, or as many as are over."`
	// Shares grow to 1; there are none where there are no clicks.
	Shares []float64 `json:"shares" nullable:"false" doc:"What part of these clicks had come by the end of each day."`
	// HalfLife is worked out as if the clicks of a day came evenly.
	HalfLife float64 `json:"halfLife" doc:"In how many days the first half of them came; 0 where there are none."`
}

// FirstDaysOf reads how the clicks on a block came in, from sums since its beginning, of days
// that are over at a time.
func FirstDaysOf(sums daily.Sums, block string, now time.Time, zone *time.Location) FirstDays {
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
	var daily []int
	today := startOfDay(now, zone)
	for day := begun; day.Before(today) && len(daily) < FirstDaysShown; day = day.AddDate(0, 0, 1) {
		daily = append(daily, clicks[day.Format(time.DateOnly)])
		first.Clicks += daily[len(daily)-1]
	}
	if first.Clicks == 0 {
		return first
	}
	sum, half := 0, float64(first.Clicks)/2
	for i, count := range daily {
		if before := float64(sum); before < half && before+float64(count) >= half {
			first.HalfLife = float64(i) + (half-before)/float64(count)
		}
		sum += count
		first.Shares = append(first.Shares, float64(sum)/float64(first.Clicks))
	}
	return first
}
