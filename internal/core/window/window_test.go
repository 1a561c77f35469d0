package window_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/window"
)

func in(t require.TestingT, name string) *time.Location {
	zone, err := time.LoadLocation(name)
	require.NoError(t, err)
	return zone
}

func at(text string) time.Time {
	moment, err := time.Parse(time.RFC3339, text)
	if err != nil {
		panic(err)
	}
	return moment
}

// Transitions of the IANA tz database (europe, northamerica, australasia,
// africa), as Go carries it.
func TestSkippedTimesMoveForwardAndDoubledOnesAreTheFirst(t *testing.T) {
	for _, c := range []struct{ zone, wall, want, why string }{
		{"Europe/London", "2026-03-29T00:59", "2026-03-29T00:59:00Z", "a minute before the gap"},
		{"Europe/London", "2026-03-29T01:30", "2026-03-29T01:30:00Z", "in the gap: shown as 02:30"},
		{"Europe/London", "2026-03-29T02:00", "2026-03-29T01:00:00Z", "the first minute after it"},
		{"Europe/London", "2026-10-25T01:30", "2026-10-25T00:30:00Z", "comes twice: the first, in summer time"},
		{"Europe/London", "2026-10-25T02:00", "2026-10-25T02:00:00Z", "after both"},
		{"America/New_York", "2026-03-08T02:30", "2026-03-08T07:30:00Z", "in the gap"},
		{"America/New_York", "2026-11-01T01:30", "2026-11-01T05:30:00Z", "comes twice"},
		{"Australia/Lord_Howe", "2026-10-04T02:15", "2026-10-03T15:45:00Z", "a gap of half an hour"},
		{"Australia/Lord_Howe", "2026-04-05T01:45", "2026-04-04T14:45:00Z", "half an hour comes twice"},
		{"Pacific/Apia", "2011-12-30T12:00", "2011-12-30T22:00:00Z", "a whole day that never was"},
		{"Asia/Kolkata", "2026-06-01T05:30", "2026-06-01T00:00:00Z", "no transitions at all"},
	} {
		wall, err := time.Parse("2006-01-02T15:04", c.wall)
		require.NoError(t, err)
		assert.Equal(t, c.want, window.Resolve(wall, in(t, c.zone)).UTC().Format(time.RFC3339), "%s %s: %s", c.zone, c.wall, c.why)
	}
}

func TestEveryMomentIsFoundAgainByWhatTheClockShows(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		zone := in(t, rapid.SampledFrom([]string{
			"Europe/London", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata", "America/Sao_Paulo",
			"UTC",
		}).Draw(t, "zone"))
		moment := time.Unix(rapid.Int64Range(0, 2_000_000_000).Draw(t, "moment")/60*60, 0)
		again := window.Resolve(moment.In(zone), zone)
		require.Equal(t, moment.In(zone).Format("2006-01-02T15:04"), again.In(zone).Format("2006-01-02T15:04"))
		require.False(t, again.After(moment), "of two moments the first")
	})
}

func TestAWindowHasItsStartAndNotItsEnd(t *testing.T) {
	from, to := at("2026-06-01T09:00:00Z"), at("2026-06-02T09:00:00Z")
	sale := []window.Window{{From: from, To: to}, {From: to.Add(time.Hour)}}
	for _, c := range []struct {
		at   time.Time
		want window.State
		next time.Time
	}{
		{from.Add(-time.Second), window.Before, from},
		{from, window.InForce, to},
		{to.Add(-time.Second), window.InForce, to},
		{to, window.Before, to.Add(time.Hour)},
		{to.Add(time.Hour), window.InForce, time.Time{}},
	} {
		assert.Equal(t, c.want, window.StateAt(sale, c.at), c.at)
		assert.Equal(t, c.next, window.Next(sale, c.at), c.at)
	}
	assert.Equal(t, window.InForce, window.StateAt(nil, from), "no windows are always in force")
	assert.Equal(t, window.Over, window.StateAt([]window.Window{{To: to}}, to))
}

func TestAnIntervalIsReadAsItIsWritten(t *testing.T) {
	for _, text := range []string{"2026-12-01T09:00:00Z/2026-12-02T00:00:00Z", "../2026-12-02T00:00:00Z", "2026-12-01T09:00:00Z/.."} {
		w, err := window.ParseInterval(text)
		require.NoError(t, err)
		assert.Equal(t, text, w.Interval())
	}
	for _, text := range []string{"", "..", "2026-12-01T09:00:00Z", "2026-12-02T00:00:00Z/2026-12-01T09:00:00Z", "soon/later"} {
		_, err := window.ParseInterval(text)
		assert.Error(t, err, text)
	}
}

func TestWindowsAreEnteredAndShownInTheirZone(t *testing.T) {
	var wrong invalid.List
	zone := in(t, "Europe/London")
	windows := window.In(zone, []window.Entered{{From: "2026-12-01T09:00"}, {}, {From: "2026-07-01T09:00", To: "2026-07-03T18:00"}}, &wrong,
		"windows")
	require.NoError(t, wrong.Err())
	require.Len(t, windows, 2, "one that is open at both ends says nothing")
	assert.Equal(t, at("2026-07-01T08:00:00Z"), windows[0].From.UTC())
	assert.Equal(t, []window.Entered{{From: "2026-07-01T09:00", To: "2026-07-03T18:00"}, {From: "2026-12-01T09:00"}},
		window.Shown(zone, windows))

	window.In(zone, []window.Entered{{From: "soon"}, {From: "2026-07-03T09:00", To: "2026-07-03T09:00"}}, &wrong, "windows")
	require.Len(t, wrong, 2)
	assert.Equal(t, "windows/0/from", wrong[0].Where)
	assert.Equal(t, "windows/1/to", wrong[1].Where)
}
