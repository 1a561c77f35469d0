package readings

import (
	"time"

	"jundle/internal/core/daily"
)

// ByTheHour reports whether the span is short enough to be read hour by hour.
func (s Span) ByTheHour() bool { return s.Len() <= mostDaysByHour }

// mostDaysByHour is how many days a span may have to be read hour by hour.
const mostDaysByHour = 2

// Hour is what came in one hour of a day.
type Hour struct {
	Date   string `json:"date" doc:"YYYY-MM-DD"`
	Hour   int    `json:"hour" doc:"0 to 23 by the clocks of the workspace; one that comes twice is one."`
	Visits int    `json:"visits"`
	Clicks int    `json:"clicks"`
	// VisitsBySource and ClicksByBlock are split like a reading's.
	VisitsBySource map[string]int `json:"visitsBySource" nullable:"false"`
	ClicksByBlock  map[string]int `json:"clicksByBlock" nullable:"false"`
}

// ByHour reads a span of one day or two hour by hour; there are none of a longer one. An hour
// that the clocks leave out is not among them.
func ByHour(span Span, hours []daily.HourRow, shares []daily.HourShareRow) []Hour {
	list := []Hour{}
	if !span.ByTheHour() {
		return list
	}
	came := make(map[daily.HourKey]*Hour, len(hours))
	of := func(key daily.HourKey) *Hour {
		if came[key] == nil {
			came[key] = &Hour{Date: key.Day, Hour: key.Hour, VisitsBySource: map[string]int{}, ClicksByBlock: map[string]int{}}
		}
		return came[key]
	}
	for _, row := range hours {
		hour := of(row.HourKey)
		hour.Visits += row.Visits
		hour.Clicks += row.Clicks
	}
	for _, row := range shares {
		if row.Split == daily.BySource {
			of(row.HourKey).VisitsBySource[sourceKey(row.Of)] += row.Count
		} else {
			of(row.HourKey).ClicksByBlock[row.Of] += row.Count
		}
	}
	for i := range span.Len() {
		last := -1
		for at := span.Days[i]; at.Before(span.Days[i+1]); at = at.Add(30 * time.Minute) {
			if at.Hour() <= last {
				continue
			}
			last = at.Hour()
			list = append(list, *of(daily.HourKey{Day: span.Date(i), Hour: last}))
		}
	}
	return list
}
