package calendar_test

import (
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/calendar"
	"jundle/internal/core/page"
)

// Read back by another library than the one that writes: emersion/go-ical.
func TestWhatIsWrittenIsReadBackByAnotherLibrary(t *testing.T) {
	at := time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)
	dates := &page.Dates{Title: "Kiln, openings", Zone: "Europe/Berlin", Items: []page.DateItem{
		{Key: "overover", What: "Over", From: at.Add(-72 * time.Hour)},
		{
			Key: "winter", What: "Winter opening; tea\nBEGIN:VEVENT", From: at.Add(81 * time.Hour), To: at.Add(84 * time.Hour),
			Place:   "The old mill, Quarrow",
			Address: "https://quarrow.example/tickets?a=1,2",
		},
		{Key: "spring", What: strings.Repeat("Frühling ", 20), From: time.Date(2027, 3, 11, 23, 0, 0, 0, time.UTC), WholeDay: true},
	}}
	text := calendar.Write(dates, "pages.example", "quarrow-clay", at)
	for line := range strings.SplitSeq(strings.TrimSuffix(text, "\r\n"), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "RFC 5545 s3.1: lines are folded")
	}
	read, err := ical.NewDecoder(strings.NewReader(text)).Decode()
	require.NoError(t, err)
	events := read.Events()
	require.Len(t, events, 2)
	winter, spring := events[0], events[1]
	summary, err := winter.Props.Text(ical.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, "Winter opening; tea\nBEGIN:VEVENT", summary)
	place, err := winter.Props.Text(ical.PropLocation)
	require.NoError(t, err)
	assert.Equal(t, "The old mill, Quarrow", place)
	begins, err := winter.DateTimeStart(time.UTC)
	require.NoError(t, err)
	ends, err := winter.DateTimeEnd(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, []time.Time{at.Add(81 * time.Hour), at.Add(84 * time.Hour)}, []time.Time{begins.UTC(), ends.UTC()})
	assert.Equal(t, "https://quarrow.example/tickets?a=1,2", winter.Props.Get(ical.PropURL).Value)
	assert.Equal(t, "winter.quarrow-clay@pages.example", winter.Props.Get(ical.PropUID).Value)
	assert.Equal(t, "20270312", spring.Props.Get(ical.PropDateTimeStart).Value, "a day by the clocks of its zone")
	assert.Equal(t, "20270313", spring.Props.Get(ical.PropDateTimeEnd).Value)
	summary, err = spring.Props.Text(ical.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, strings.Repeat("Frühling ", 20), summary)
}
