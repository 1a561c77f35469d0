package readings

import (
	"jundle/internal/core/daily"
)

// WeekHours are how many visits began, and how often was clicked, by weekday and hour of
// the clock, in all of a span.
type WeekHours struct {
	Visits []int `json:"visits" nullable:"false" doc:"168 of them: from Monday at 0 to Sunday at 23."`
	Clicks []int `json:"clicks" nullable:"false"`
}

// ByWeekHour adds hours of days in a span up. An hour that a clock shows twice is one; one
// that it leaves out has none.
func ByWeekHour(span Span, hours []daily.HourRow) WeekHours {
	week := WeekHours{Visits: make([]int, 7*24), Clicks: make([]int, 7*24)}
	weekdays := make(map[string]int, span.Len())
	for i := range span.Len() {
		weekdays[span.Date(i)] = weekday(span, i)
	}
	for _, row := range hours {
		day, within := weekdays[row.Day]
		if !within || row.Hour < 0 || row.Hour > 23 {
			continue
		}
		week.Visits[24*day+row.Hour] += row.Visits
		week.Clicks[24*day+row.Hour] += row.Clicks
	}
	return week
}
