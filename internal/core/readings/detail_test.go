package readings_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/source"
)

// blockDays are clicks of a block on days from a first on, each by a taker of its own out of reach.
func blockDays(first time.Time, reach int, clicks ...int) daily.Sums {
	var sums daily.Sums
	for i, n := range clicks {
		sums.Blocks = append(sums.Blocks, daily.BlockRow{
			BlockKey: daily.BlockKey{
				Day:   first.AddDate(0, 0, i).Format(time.DateOnly),
				Block: "dates",
			}, Clicks: n, Takers: n, Reach: reach,
		})
	}
	return sums
}

var june1 = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

func TestHalfOfTheClicksCameInTheFirstDays(t *testing.T) {
	now := june1.AddDate(0, 0, 40)
	cases := []struct {
		name   string
		clicks []int
		half   float64
	}{
		{"evenly", []int{10, 10, 10, 10}, 2},
		{"most at once", []int{80, 10, 10, 0, 0}, 0.625},
		{"in the midst of a day", []int{10, 20, 10}, 1.5},
		{"after days of nothing", []int{0, 0, 40}, 2.5},
		{"fewer than thirty", []int{10, 19}, 0},
		{"no clicks", []int{0, 0}, 0},
	}
	for _, c := range cases {
		first := readings.FirstDaysOf(blockDays(june1, 50, c.clicks...), "dates", june1, now, time.UTC)
		assert.InDelta(t, c.half, first.HalfLife, 1e-9, c.name)
		assert.Equal(t, "2026-06-01", first.Since, c.name)
		if first.Clicks >= 30 {
			assert.Len(t, first.Shares, readings.FirstDaysShown, c.name)
			assert.InDelta(t, 1, first.Shares[readings.FirstDaysShown-1], 1e-9, c.name)
		}
	}
	assert.Empty(t, readings.FirstDaysOf(daily.Sums{}, "dates", june1, now, time.UTC).Shares, "it was never shown")
	today := readings.FirstDaysOf(blockDays(june1, 50, 37, 9), "dates", june1, june1.AddDate(0, 0, 1).Add(time.Hour), time.UTC)
	assert.Equal(t, []float64{1}, today.Shares, "a day that is not over takes no part")
	late := make([]int, 60)
	late[59] = 1000
	late[0] = 42
	assert.InDelta(t, 0.5, readings.FirstDaysOf(blockDays(june1, 50, late...), "dates", june1, now, time.UTC).HalfLife, 1e-9,
		"what came after four weeks takes no part")
}

func TestOfTheFirstDayOnlyTheHoursCountInWhichItWasThere(t *testing.T) {
	now, evening := june1.AddDate(0, 0, 4), june1.Add(18*time.Hour)
	first := readings.FirstDaysOf(blockDays(june1, 50, 10, 40, 40, 40), "dates", evening, now, time.UTC)
	assert.InDelta(t, 0.25+1+15.0/40, first.HalfLife, 1e-9)
	assert.InDelta(t, 3.25/2, first.Steady, 1e-9)
	assert.InDelta(t, first.Steady, first.HalfLife, 1e-9, "forty a day at all times")
}

func TestABlockFadesWhereItsSecondHalfBringsClearlyLess(t *testing.T) {
	now := june1.AddDate(0, 0, 40)
	steady, fading := make([]int, 28), make([]int, 28)
	for i := range steady {
		steady[i], fading[i] = 20+i%3, 60/(1+i/2)+3+i%2
	}
	assert.False(t, readings.FirstDaysOf(blockDays(june1, 200, steady...), "dates", june1, now, time.UTC).Fades)
	first := readings.FirstDaysOf(blockDays(june1, 200, fading...), "dates", june1, now, time.UTC)
	assert.True(t, first.Fades)
	assert.Less(t, first.HalfLife, first.Steady/2)
	assert.False(t, readings.FirstDaysOf(blockDays(june1, 200, fading[:9]...), "dates", june1, june1.AddDate(0, 0, 9), time.UTC).Fades,
		"of nine days it cannot be told")
}

func TestAnEditIsJudgedByAsManyWeeksBeforeAsAfter(t *testing.T) {
	days := make([]int, 61)
	for i := range days {
		days[i] = 10
		if i > 30 {
			days[i] = 20
		}
	}
	days[30] = 90 // the day of the edit
	sums := blockDays(june1, 100, days...)
	edit := june1.AddDate(0, 0, 30).Add(15 * time.Hour)
	end := june1.AddDate(0, 0, 61)

	around := readings.AroundEdit(sums, "dates", readings.Edited{At: edit, Now: end, Zone: time.UTC})
	assert.Equal(t, 4, around.Weeks)
	assert.Equal(t, [2]int{280, 2800}, [2]int{around.Before.Taken, around.Before.Of})
	assert.Equal(t, [2]int{560, 2800}, [2]int{around.After.Taken, around.After.Of})
	assert.True(t, around.Called)
	// Newcombe's hybrid score interval of 560/2800 - 280/2800 (Statistics in Medicine 17 (1998), method 10) is 0.0815 to
	// 0.1185; of days that hang together as much as is allowed for, it is a little wider.
	assert.InDelta(t, 0.0794, around.Points.Low, 0.0005)
	assert.InDelta(t, 0.1206, around.Points.High, 0.0005)

	soon := readings.AroundEdit(sums, "dates", readings.Edited{
		At: edit, Last: edit.AddDate(0, 0, -10), Next: edit.AddDate(0, 0, 20), Now: end, Zone: time.UTC,
	})
	assert.Equal(t, 1, soon.Weeks, "between the edits before and after that there is one whole week on both sides")
	assert.Equal(t, 700, soon.Before.Of)
	none := readings.AroundEdit(sums, "dates", readings.Edited{At: edit, Last: edit.AddDate(0, 0, -5), Now: end, Zone: time.UTC})
	assert.Zero(t, none.Weeks)
	assert.False(t, none.Called, "less than a week says nothing")
	assert.Zero(t, none.Missing, "there never will be a week before it")
	assert.Positive(t, around.Needs.Points)
	assert.Zero(t, around.Missing, "four weeks are all that is looked at")
	assert.Zero(t, soon.Missing, "it was edited again")
	fresh := readings.AroundEdit(sums, "dates", readings.Edited{At: edit, Now: edit.AddDate(0, 0, 3), Zone: time.UTC})
	assert.Equal(t, [2]int{0, 5}, [2]int{fresh.Weeks, fresh.Missing}, "two days are over, and a week has seven")
	later := readings.AroundEdit(sums, "dates", readings.Edited{At: edit, Now: edit.AddDate(0, 0, 13), Zone: time.UTC})
	assert.Equal(t, [2]int{1, 2}, [2]int{later.Weeks, later.Missing})
}

func TestAProfileThatStillHasThePlainAddressIsFound(t *testing.T) {
	span := lastWeek()
	row := func(from string, by source.By, visits int) daily.PageRow {
		return daily.PageRow{PageKey: daily.PageKey{Day: span.Date(2), Source: from, Evidence: by}, Visits: visits}
	}
	sums := daily.Sums{Pages: []daily.PageRow{
		row("loft", source.ByTag, 90), row("loft", source.ByReferrer, 20), row("moss", source.ByApp, 30), row("moss", source.ByReferrer, 12),
		row("card", source.ByApp, 9), row("", source.Untagged, 70), row("host:claynews.example", source.ByReferrer, 500),
	}}
	found := readings.FindStillPlain(span, sums, []string{"loft", "moss", "card"})
	assert.Equal(t, &readings.StillPlain{Source: "moss", Visits: 42, ADay: 10}, found)
	assert.Nil(t, readings.FindStillPlain(span, sums, []string{"loft", "card"}))
}

func TestWhatCameOfAnotherOrderIsHeldAgainstTheWeeksBefore(t *testing.T) {
	var sums daily.Sums
	for i := range 61 {
		clicked := 40
		if i > 30 {
			clicked = 55
		}
		day := daily.PageKey{Day: june1.AddDate(0, 0, i).Format(time.DateOnly)}
		sums.Pages = append(sums.Pages, daily.PageRow{PageKey: day, Visits: 100, ClickedVisits: clicked})
	}
	around := readings.AroundPage(sums, readings.Edited{
		At: june1.AddDate(0, 0, 30).Add(time.Hour), Now: june1.AddDate(0, 0, 61), Zone: time.UTC,
	})
	assert.Equal(t, 4, around.Weeks)
	assert.InDelta(t, 0.4, around.Before.Rate, 1e-9)
	assert.InDelta(t, 0.55, around.After.Rate, 1e-9)
	assert.True(t, around.Called)
}
