package window_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/window"
)

func span(from, to string) window.Span {
	var s window.Span
	if from != "" {
		s.From = at(from)
	}
	if to != "" {
		s.To = at(to)
	}
	return s
}

func weekly(days, from, to string) window.Weekly {
	w := window.Weekly{From: from, To: to}
	for day := range strings.SplitSeq(days, ",") {
		w.Days = append(w.Days, window.Weekday(day))
	}
	return w
}

// Spring and autumn of 2026 in the IANA tz database: Europe/Lisbon on 29 March and
// 25 October at 01:00 UTC, America/New_York on 8 March and 1 November,
// Australia/Lord_Howe by half an hour on 5 April and 4 October, America/Santiago on
// 5 April and 6 September, at midnight.
func TestAWeeklyTimeKeepsToTheClocksAcrossAChangeOfThem(t *testing.T) {
	for _, c := range []struct{ zone, day, from, to, wantFrom, wantTo, why string }{
		{"Europe/Lisbon", "2026-03-28", "10:00", "18:00", "2026-03-28T10:00:00Z", "2026-03-28T18:00:00Z", "the day before, at UTC"},
		{"Europe/Lisbon", "2026-03-29", "10:00", "18:00", "2026-03-29T09:00:00Z", "2026-03-29T17:00:00Z", "the same on the clock"},
		{"Europe/Lisbon", "2026-03-29", "01:30", "03:00", "2026-03-29T01:30:00Z", "2026-03-29T02:00:00Z", "a beginning in the gap moves forward"},
		{"Europe/Lisbon", "2026-03-28", "22:00", "02:00", "2026-03-28T22:00:00Z", "2026-03-29T01:00:00Z", "a night of three hours"},
		{"Europe/Lisbon", "2026-10-24", "22:00", "02:00", "2026-10-24T21:00:00Z", "2026-10-25T02:00:00Z", "a night of five hours"},
		{"Europe/Lisbon", "2026-10-25", "01:30", "03:00", "2026-10-25T00:30:00Z", "2026-10-25T03:00:00Z", "a doubled time means the first"},
		{"America/New_York", "2026-03-08", "02:15", "04:00", "2026-03-08T07:15:00Z", "2026-03-08T08:00:00Z", "in the gap: from 03:15"},
		{"America/New_York", "2026-11-01", "00:30", "01:30", "2026-11-01T04:30:00Z", "2026-11-01T05:30:00Z", "until the first 01:30"},
		{"Australia/Lord_Howe", "2026-10-04", "02:15", "03:00", "2026-10-03T15:45:00Z", "2026-10-03T16:00:00Z", "a gap of half an hour"},
		{"Australia/Lord_Howe", "2026-04-05", "01:45", "02:15", "2026-04-04T14:45:00Z", "2026-04-04T15:45:00Z", "half an hour comes twice"},
		{"America/Santiago", "2026-09-06", "00:00", "08:00", "2026-09-06T04:00:00Z", "2026-09-06T11:00:00Z", "midnight is skipped"},
		{"America/Santiago", "2026-04-04", "23:30", "01:00", "2026-04-05T02:30:00Z", "2026-04-05T05:00:00Z", "half past eleven comes twice"},
	} {
		date, err := time.Parse(time.DateOnly, c.day)
		require.NoError(t, err)
		day := strings.ToUpper(date.Weekday().String()[:2])
		times := window.Times{
			Zone:   c.zone,
			Weekly: []window.Weekly{{Days: []window.Weekday{window.Weekday(day)}, From: c.from, To: c.to, First: c.day, Last: c.day}},
		}
		got := times.Between(date.AddDate(0, 0, -7), date.AddDate(0, 0, 7))
		require.Len(t, got, 1, "%s %s", c.zone, c.day)
		assert.Equal(
			t,
			[]string{c.wantFrom, c.wantTo},
			[]string{got[0].From.Format(time.RFC3339), got[0].To.Format(time.RFC3339)},
			"%s %s: %s",
			c.zone,
			c.day,
			c.why,
		)
	}
}

func TestATimeWhoseBeginningIsPutOffBeyondItsEndNeverComes(t *testing.T) {
	times := window.Times{Zone: "Europe/Lisbon", Weekly: []window.Weekly{weekly("SU", "01:10", "02:10")}}
	assert.Empty(t, times.Between(at("2026-03-29T00:00:00Z"), at("2026-03-30T00:00:00Z")), "01:10 moves forward to 02:10")
	assert.Len(t, times.Between(at("2026-04-05T00:00:00Z"), at("2026-04-06T00:00:00Z")), 1)
}

func TestTimesSayWhatHoldsNowAndWhatIsNext(t *testing.T) {
	sale := window.Times{Zone: "Europe/Lisbon", Spans: []window.Span{
		span("2026-12-04T08:00:00Z", "2026-12-06T18:00:00Z"), span("2026-12-06T18:00:00Z", "2026-12-08T00:00:00Z"),
	}}
	spans := func(all ...window.Span) window.Times { return window.Times{Zone: "UTC", Spans: all} }
	weekends := window.Times{Zone: "UTC", Weekly: []window.Weekly{weekly("FR,SA", "10:00", "18:00")}}
	fair := window.Times{
		Zone: "UTC", Spans: []window.Span{span("2026-12-07T00:00:00Z", "2026-12-20T00:00:00Z")},
		Weekly: []window.Weekly{weekly("FR,SA", "10:00", "18:00")},
	}
	either := fair
	either.Either = true
	always := window.Times{Zone: "UTC", Weekly: []window.Weekly{weekly("MO,TU,WE,TH,FR,SA,SU", "00:00", "00:00")}}
	for _, c := range []struct {
		times          window.Times
		at, next, what string
		state          window.State
	}{
		{sale, "2026-12-01T00:00:00Z", "2026-12-04T08:00:00Z", "a sale to come", window.Before},
		{sale, "2026-12-04T08:00:00Z", "2026-12-08T00:00:00Z", "windows that touch are one", window.InForce},
		{sale, "2026-12-08T00:00:00Z", "", "over", window.Over},
		{sale, "2026-01-01T00:00:00Z", "", "too far ahead to be the next, and to come all the same", window.Before},
		{spans(span("", "2026-12-01T00:00:00Z")), "2026-11-01T00:00:00Z", "2026-12-01T00:00:00Z", "an open beginning", window.InForce},
		{spans(span("2026-10-01T00:00:00Z", "")), "2026-11-01T00:00:00Z", "", "no end", window.InForce},
		{weekends, "2026-12-05T18:00:00Z", "2026-12-11T10:00:00Z", "until next Friday", window.Before},
		{fair, "2026-12-04T12:00:00Z", "2026-12-11T10:00:00Z", "a Friday before the dates", window.Before},
		{fair, "2026-12-08T12:00:00Z", "2026-12-11T10:00:00Z", "within the dates, outside the hours", window.Before},
		{fair, "2026-12-11T12:00:00Z", "2026-12-11T18:00:00Z", "within both", window.InForce},
		{fair, "2026-12-19T18:00:00Z", "", "after the last hours within the dates", window.Over},
		{either, "2026-12-04T12:00:00Z", "2026-12-04T18:00:00Z", "a Friday before the dates, of an older page", window.InForce},
		{either, "2026-12-08T12:00:00Z", "2026-12-20T00:00:00Z", "within the dates, of an older page", window.InForce},
		{always, "2026-12-05T18:00:00Z", "", "always, said as a week", window.InForce},
	} {
		now := at(c.at)
		assert.Equal(t, c.state, c.times.StateAt(now), c.what)
		next := ""
		if found := c.times.Next(now); !found.IsZero() {
			next = found.UTC().Format(time.RFC3339)
		}
		assert.Equal(t, c.next, next, c.what)
	}
}

var anyTimes = rapid.Custom(func(t *rapid.T) window.Times {
	day := time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)
	times := window.Times{
		Zone: rapid.SampledFrom([]string{"Europe/Lisbon", "America/New_York", "Australia/Lord_Howe", "America/Santiago", "Asia/Kolkata"}).
			Draw(t, "zone"),
	}
	for range rapid.IntRange(0, 4).Draw(t, "spans") {
		s := window.Span{From: day.Add(time.Duration(rapid.IntRange(0, 60*24*60).Draw(t, "from")) * time.Minute)}
		s.To = s.From.Add(time.Duration(rapid.IntRange(1, 20*24*60).Draw(t, "for")) * time.Minute)
		times.Spans = append(times.Spans, s)
	}
	minutes := func(label string) string {
		return day.Add(time.Duration(rapid.IntRange(0, 24*60-1).Draw(t, label)) * time.Minute).Format("15:04")
	}
	for range rapid.IntRange(0, 3).Draw(t, "weekly") {
		days := rapid.SliceOfDistinct(rapid.SampledFrom([]string{"MO", "TU", "WE", "TH", "FR", "SA", "SU"}), func(s string) string { return s }).
			Draw(t, "days")
		if len(days) > 0 {
			times.Weekly = append(times.Weekly, weekly(strings.Join(days, ","), minutes("begins"), minutes("ends")))
		}
	}
	times.Either = rapid.Bool().Draw(t, "either")
	return times
})

func TestNothingChangesBeforeWhatIsNextAndSomethingDoesThen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		times := anyTimes.Draw(t, "times")
		now := at("2026-03-01T00:00:00Z").Add(time.Duration(rapid.IntRange(0, 80*24*60).Draw(t, "now")) * time.Minute)
		next := times.Next(now)
		until := next
		if next.IsZero() {
			until = now.Add(window.Ahead)
		} else {
			require.NotEqual(t, times.Holds(now), times.Holds(next), "something changes then")
		}
		for range 50 {
			between := now.Add(time.Duration(rapid.Int64Range(0, int64(until.Sub(now))-1).Draw(t, "between")))
			require.Equal(t, times.Holds(now), times.Holds(between), "nothing changes at %s", between)
		}
	})
}

func TestWindowsOfASpanAreThoseInWhichTheTimesHold(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		times := anyTimes.Draw(t, "times")
		from := at("2026-03-20T00:00:00Z")
		to := from.AddDate(0, 0, 30)
		windows := times.Between(from, to)
		for i := 1; i < len(windows); i++ {
			require.True(t, windows[i].From.After(windows[i-1].To), "in order, and apart")
		}
		for range 50 {
			moment := from.Add(time.Duration(rapid.Int64Range(0, int64(to.Sub(from))-1).Draw(t, "moment")))
			drawn := slices.ContainsFunc(windows, func(w window.Window) bool { return w.Holds(moment) })
			require.Equal(t, times.Holds(moment), drawn, "%s", moment)
		}
	})
}

func TestTidyingLosesNoTimeAndNamesWhatIsWrong(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		times := anyTimes.Draw(t, "times")
		var wrong invalid.List
		before := times
		before.Spans, before.Weekly = slices.Clone(times.Spans), slices.Clone(times.Weekly)
		tidied := times.Tidy(&wrong, "when")
		require.NoError(t, wrong.Err())
		if len(before.Spans)+len(before.Weekly) == 0 {
			require.Nil(t, tidied)
			return
		}
		moment := at("2026-03-01T00:00:00Z").Add(time.Duration(rapid.IntRange(0, 80*24*60).Draw(t, "moment")) * time.Minute)
		require.Equal(t, before.Holds(moment), tidied.Holds(moment))
	})

	backwards := weekly("MO", "09:00", "10:00")
	backwards.First, backwards.Last = "2026-12-02", "2026-12-01"
	for want, times := range map[string]window.Times{
		"when/zone":           {Zone: "Local", Spans: []window.Span{span("2026-12-04T08:00:00Z", "")}},
		"when/spans/0/to":     {Zone: "UTC", Spans: []window.Span{span("2026-12-04T08:00:00Z", "2026-12-04T08:00:00Z")}},
		"when/spans/0/from":   {Zone: "UTC", Spans: []window.Span{span("9026-12-04T08:00:00Z", "")}},
		"when/spans":          {Zone: "UTC", Spans: slices.Repeat([]window.Span{span("2026-12-04T08:00:00Z", "")}, 25)},
		"when/weekly/0/from":  {Zone: "UTC", Weekly: []window.Weekly{weekly("MO", "25:00", "18:00")}},
		"when/weekly/0/to":    {Zone: "UTC", Weekly: []window.Weekly{weekly("MO", "09:00", "6 pm")}},
		"when/weekly/0/first": {Zone: "UTC", Weekly: []window.Weekly{{Days: []window.Weekday{"MO"}, From: "09:00", To: "10:00", First: "soon"}}},
		"when/weekly/0/last":  {Zone: "UTC", Weekly: []window.Weekly{backwards}},
		"when/weekly":         {Zone: "UTC", Weekly: slices.Repeat([]window.Weekly{weekly("MO", "09:00", "10:00")}, 8)},
	} {
		var wrong invalid.List
		times.Tidy(&wrong, "when")
		var refused *invalid.Error
		require.ErrorAs(t, wrong.Err(), &refused, want)
		assert.Equal(t, want, refused.Problems[0].Where)
	}
	var wrong invalid.List
	nothing := window.Times{
		Zone:   "UTC",
		Spans:  []window.Span{{}},
		Weekly: []window.Weekly{{Days: []window.Weekday{"XX"}, From: "09:00", To: "10:00"}},
	}
	assert.Nil(t, nothing.Tidy(&wrong, "when"), "what says nothing is dropped")
}

func TestAZoneHasOneName(t *testing.T) {
	for name, known := range map[string]bool{
		"Europe/Lisbon": true, "UTC": true, "": false, "Local": false, "Europe//Lisbon": false, "Europe/./Lisbon": false,
		"../zoneinfo/UTC": false, "Middle/Earth": false,
	} {
		assert.Equal(t, known, window.IsZone(name), name)
	}
}

func TestTimesAreSaidByTheClocksOfTheirZone(t *testing.T) {
	times := window.Times{
		Zone: "Europe/Lisbon", Spans: []window.Span{span("2026-07-04T08:00:00Z", "2026-07-06T18:00:00Z"), span("2026-12-01T00:00:00Z", "")},
		Weekly: []window.Weekly{{Days: []window.Weekday{"FR", "SA"}, From: "10:00", To: "18:00", Last: "2026-12-31"}},
	}
	assert.Equal(
		t,
		"4 Jul 2026 09:00 to 6 Jul 2026 19:00, and from 1 Dec 2026 00:00, and then only Fri, Sat 10:00 to 18:00 each week until 2026-12-31",
		times.String(),
	)
}
