package booking_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/booking"
	"jundle/internal/core/window"
)

var lisbon = func() *time.Location {
	zone, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		panic(err)
	}
	return zone
}()

func hours(from, to string, days ...window.Weekday) window.Times {
	return window.Times{Zone: "Europe/Lisbon", Weekly: []window.Weekly{{Days: days, From: from, To: to}}}
}

func written(all []time.Time) []string {
	texts := make([]string, len(all))
	for i, at := range all {
		texts[i] = at.In(lisbon).Format("Mon 02.01. 15:04")
	}
	return texts
}

func TestFreeTimesLieWithinTheHoursAndOutsideWhatIsTaken(t *testing.T) {
	// A Monday.
	now := time.Date(2026, 6, 1, 10, 20, 0, 0, lisbon)
	for name, c := range map[string]struct {
		rules booking.Rules
		taken []booking.Span
		from  time.Time
		want  []string
	}{
		"one after the other": {
			rules: booking.Rules{Hours: hours("10:00", "12:00", "MO", "WE"), Minutes: 45, AheadDays: 3},
			want:  []string{"Mon 01.06. 10:45", "Wed 03.06. 10:00", "Wed 03.06. 10:45"},
		},
		"an hour apart at most": {
			rules: booking.Rules{Hours: hours("10:00", "13:00", "TU"), Minutes: 90, AheadDays: 3},
			want:  []string{"Tue 02.06. 10:00", "Tue 02.06. 11:00"},
		},
		"not in what is taken, and up to where that begins": {
			rules: booking.Rules{Hours: hours("10:00", "13:00", "TU"), Minutes: 60, AheadDays: 3},
			taken: []booking.Span{{now.Add(24*time.Hour + 40*time.Minute), now.Add(24*time.Hour + 50*time.Minute)}},
			want:  []string{"Tue 02.06. 10:00", "Tue 02.06. 12:00"},
		},
		"so long before": {
			rules: booking.Rules{Hours: hours("10:00", "12:00", "TU", "WE"), Minutes: 60, AheadDays: 3, NoticeHours: 25},
			want:  []string{"Wed 03.06. 10:00", "Wed 03.06. 11:00"},
		},
		"from a day on": {
			rules: booking.Rules{Hours: hours("10:00", "11:00", "TU", "WE", "TH"), Minutes: 60, AheadDays: 3},
			from:  time.Date(2026, 6, 3, 0, 0, 0, 0, lisbon),
			want:  []string{"Wed 03.06. 10:00", "Thu 04.06. 10:00"},
		},
		"round the clock from midnight on": {
			rules: booking.Rules{Hours: hours("00:00", "00:00", "MO", "TU", "WE", "TH", "FR", "SA", "SU"), Minutes: 720, AheadDays: 1},
			want: []string{
				"Mon 01.06. 11:00", "Mon 01.06. 12:00", "Mon 01.06. 13:00", "Mon 01.06. 14:00", "Mon 01.06. 15:00",
			},
		},
		"none where the hours are too short": {
			rules: booking.Rules{Hours: hours("10:00", "10:30", "TU"), Minutes: 60, AheadDays: 90},
			want:  []string{},
		},
	} {
		assert.Equal(t, c.want, written(c.rules.Free(c.taken, now, c.from, 5)), name)
	}
}

// Portugal's clocks went from 01:00 to 02:00 on 29 March 2026 (IANA time zone database).
func TestATimeTakesAsLongAsItDoesWhenClocksChange(t *testing.T) {
	now := time.Date(2026, 3, 28, 12, 0, 0, 0, lisbon)
	rules := booking.Rules{Hours: hours("00:00", "04:00", "SU"), Minutes: 60, AheadDays: 2}
	free := rules.Free(nil, now, time.Time{}, 10)
	assert.Equal(t, []string{"Sun 29.03. 00:00", "Sun 29.03. 02:00", "Sun 29.03. 03:00"}, written(free))
	assert.Equal(t, time.Hour, rules.Span(free[0]).To.Sub(free[0]))
}

func TestWhatIsOfferedIsWhatIsFree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		now := time.Unix(rapid.Int64Range(1_770_000_000, 1_800_000_000).Draw(t, "now"), 0)
		clock := func(name string) string {
			return time.Unix(60*rapid.Int64Range(0, 1439).Draw(t, name), 0).UTC().Format("15:04")
		}
		rules := booking.Rules{
			Hours:   hours(clock("from"), clock("to"), rapid.SampledFrom([]window.Weekday{"MO", "TH", "SU"}).Draw(t, "day"), "FR"),
			Minutes: rapid.IntRange(booking.MinMinutes, booking.MaxMinutes).Draw(t, "minutes"), NoticeHours: rapid.IntRange(0, 48).Draw(t, "notice"),
			AheadDays: rapid.IntRange(1, 30).Draw(t, "ahead"),
		}
		all := rules.Free(nil, now, time.Time{}, 1000)
		if len(all) == 0 {
			return
		}
		var taken []booking.Span
		for _, at := range rapid.SliceOfN(rapid.SampledFrom(all), 0, 5).Draw(t, "taken") {
			taken = append(taken, booking.Span{From: at, To: at.Add(time.Duration(rapid.IntRange(1, 2000).Draw(t, "long")) * time.Minute)})
		}
		left := rules.Free(taken, now, time.Time{}, 1000)
		for _, at := range all {
			span := rules.Span(at)
			isLeft := slices.ContainsFunc(left, at.Equal)
			assert.Equal(t, isLeft, rules.Offers(taken, now, at), at)
			assert.Equal(t, isLeft, !slices.ContainsFunc(taken, span.Overlaps), at)
			assert.True(t, rules.Hours.Holds(span.From) && rules.Hours.Holds(span.To.Add(-time.Second)), at)
			assert.False(t, rules.Offers(nil, now, at.Add(time.Second)))
			assert.False(t, at.Before(now.Add(time.Duration(rules.NoticeHours)*time.Hour)) || at.After(now.AddDate(0, 0, rules.AheadDays)), at)
		}
	})
}

func TestWhatBecomesOfATimeFollowsOnHowItStands(t *testing.T) {
	from := time.Date(2026, 6, 3, 9, 0, 0, 0, time.UTC)
	before := from.Add(-time.Hour)
	for _, c := range []struct {
		state booking.State
		act   booking.Act
		at    time.Time
		then  booking.State
		err   error
	}{
		{booking.Asked, booking.Agree, before, booking.Agreed, nil},
		{booking.Asked, booking.Decline, before, booking.Declined, nil},
		{booking.Asked, booking.Withdraw, before, booking.Withdrawn, nil},
		{booking.Asked, booking.CallOff, before, booking.Asked, booking.ErrAnswered},
		{booking.Asked, booking.Agree, from, booking.Asked, booking.ErrOver},
		{booking.Agreed, booking.CallOff, before, booking.CalledOff, nil},
		{booking.Agreed, booking.Withdraw, before, booking.Withdrawn, nil},
		{booking.Agreed, booking.Withdraw, from, booking.Agreed, booking.ErrOver},
		{booking.Agreed, booking.Decline, before, booking.Agreed, booking.ErrAnswered},
		{booking.Agreed, booking.Agree, from, booking.Agreed, nil},
		{booking.Withdrawn, booking.Agree, before, booking.Withdrawn, booking.ErrAnswered},
		{booking.Declined, booking.Agree, before, booking.Declined, booking.ErrAnswered},
		{booking.CalledOff, booking.Withdraw, before, booking.CalledOff, booking.ErrAnswered},
		{booking.Asked, "whatever", before, booking.Asked, booking.ErrAnswered},
	} {
		then, err := c.state.After(c.act, from, c.at)
		require.ErrorIs(t, err, c.err, "%s %s", c.state, c.act)
		assert.Equal(t, c.then, then, "%s %s", c.state, c.act)
	}
	assert.Equal(t, booking.Lapsed, booking.Asked.StateAt(from, from))
	assert.Equal(t, booking.Asked, booking.Asked.StateAt(from, before))
	assert.Equal(t, booking.Agreed, booking.Agreed.StateAt(from, from.Add(time.Hour)))
}
