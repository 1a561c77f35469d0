package readings_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
)

func TestHoursAddUpByWeekdayAndLeaveOutWhatIsNotOfTheSpan(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-14", noon, time.UTC) // from a Monday, two weeks
	hour := func(day string, at, visits, clicks int) daily.HourRow {
		return daily.HourRow{HourKey: daily.HourKey{Day: day, Hour: at}, Visits: visits, Clicks: clicks}
	}
	week := readings.ByWeekHour(span, []daily.HourRow{
		hour("2026-06-01", 9, 3, 1), hour("2026-06-08", 9, 4, 2), hour("2026-06-14", 23, 5, 5), hour("2026-06-15", 9, 100, 100),
	})
	assert.Equal(t, 7, week.Visits[9], "two Mondays")
	assert.Equal(t, 3, week.Clicks[9])
	assert.Equal(t, 5, week.Visits[6*24+23], "a Sunday")
	total := 0
	for _, visits := range week.Visits {
		total += visits
	}
	assert.Equal(t, 12, total)
}
