package readings

import (
	"time"

	"jundle/internal/core/daily"
)

// mostDaysByHour is how many days a span may have to be read hour by hour.
const mostDaysByHour = 2

// Hour is what came in one hour of a day.
type Hour struct {
	Date   string `json:"date" doc:"YYYY-MM-DD"`
	Hour   int    `json:"hour" doc:"0 to 23 by the clocks of the workspace; one that comes twice is one."`
	Visits int    `json:"visits"`
	Clicks int    `json:"clicks"`
}

// ByHour reads a span of one day or two hour by hour; there are none of a longer one. An hour
// that the clocks leave out is not among them.
func ByHour(span Span, hours []daily.HourRow) []Hour {
	list := []Hour{}
	if span.Len() > mostDaysByHour {
		return list
	}
	came := make(map[daily.HourKey]daily.HourRow, len(hours))
	for _, row := range hours {
		sum := came[row.HourKey]
		sum.Visits += row.Visits
		sum.Clicks += row.Clicks
		came[row.HourKey] = sum
	}
	for i := range span.Len() {
		last := -1
		for at := span.Days[i]; at.Before(span.Days[i+1]); at = at.Add(30 * time.Minute) {
			if at.Hour() <= last {
				continue
			}
			last = at.Hour()
			sum := came[daily.HourKey{Day: span.Date(i), Hour: last}]
			list = append(list, Hour{span.Date(i), last, sum.Visits, sum.Clicks})
		}
	}
	return list
}
