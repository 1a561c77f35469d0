package readings_test

import (
	"fmt"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
)

func spanOf(t *testing.T, text string, now time.Time, zone *time.Location) readings.Span {
	t.Helper()
	span, err := readings.ParseSpan(text, now, now.AddDate(-1, 0, 0), zone)
	require.NoError(t, err)
	return span
}

func TestASpanIsComparedWithTheSameLengthBeforeOrTheSameWeekdays(t *testing.T) {
	for _, c := range []struct {
		text     string
		with     readings.Comparison
		from, to string
	}{
		{"7d", readings.Before, "2026-05-27", "2026-06-02"},
		{"7d", readings.SameWeekdays, "2026-05-27", "2026-06-02"},
		{"month", readings.Before, "2026-05-22", "2026-05-31"},
		{"month", readings.SameWeekdays, "2026-05-18", "2026-05-27"},
		{"2026-06-08..2026-06-08", readings.Before, "2026-06-07", "2026-06-07"},
		{"2026-06-08..2026-06-08", readings.SameWeekdays, "2026-06-01", "2026-06-01"},
	} {
		got := spanOf(t, c.text, noon, time.UTC).Compared(c.with)
		assert.Equal(t, c.from+" "+c.to, got.Date(0)+" "+got.Date(got.Len()-1), "%s %s", c.text, c.with)
	}
}

// Lisbon goes back an hour on 2026-10-25: the day of 25 hours is one day, and so is the one
// it is held against.
func TestDaysOfASpanThatIsComparedAreDaysOfTheZone(t *testing.T) {
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	span := spanOf(t, "2026-10-26..2026-11-01", noon, lisbon)
	before := span.Compared(readings.Before)
	assert.Equal(t, "2026-10-19", before.Date(0))
	assert.Equal(t, span.From(), before.To())
	assert.Equal(t, 169*time.Hour, before.To().Sub(before.From()))
}

func TestTodayTakesNoPartInAComparison(t *testing.T) {
	span := spanOf(t, "month", noon, time.UTC)
	over, compares := span.Finished(noon)
	assert.True(t, compares)
	assert.Equal(t, 9, over.Len())
	assert.Equal(t, "2026-06-09", over.Date(8))
	past := spanOf(t, "2026-06-01..2026-06-05", noon, time.UTC)
	over, compares = past.Finished(noon)
	assert.Equal(t, past, over)
	assert.True(t, compares)
	first := time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)
	for text, now := range map[string]time.Time{"2026-06-10..2026-06-10": noon, "month": first} {
		_, compares = spanOf(t, text, now, time.UTC).Finished(now)
		assert.False(t, compares, "some hours of %s are not held against a whole day", text)
	}
}

// sums are days of so many visits, of which so many pressed each of some blocks.
func sums(span readings.Span, visits int, takers map[string]int) daily.Sums {
	var all daily.Sums
	for i := range span.Len() {
		page := daily.PageRow{PageKey: daily.PageKey{Day: span.Date(i)}}
		page.Visits, page.Visitors = visits+i%3, visits
		for block, taken := range takers {
			row := daily.BlockRow{BlockKey: daily.BlockKey{Day: span.Date(i), Block: block}}
			row.Clicks, row.Takers, row.Reach = taken, taken, page.Visits
			all.Blocks = append(all.Blocks, row)
			page.Clicks += taken
			page.ClickedVisits = max(page.ClickedVisits, taken)
		}
		all.Pages = append(all.Pages, page)
	}
	return all
}

// with puts the days of several spans together.
func with(all ...daily.Sums) (sums daily.Sums) {
	for _, each := range all {
		sums.Pages, sums.Blocks = append(sums.Pages, each.Pages...), append(sums.Blocks, each.Blocks...)
	}
	return sums
}

func TestAChangeIsCalledOneOnlyWhereSuchDaysWouldNotDoItByThemselves(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-07", noon, time.UTC)
	before := span.Compared(readings.Before)
	history := sums(before.History(), 100, map[string]int{"same": 20, "rose": 10})
	was := sums(before, 100, map[string]int{"same": 20, "rose": 10})
	changes := readings.Compare(span, before, with(history, was, sums(span, 140, map[string]int{"same": 29, "rose": 40, "new": 5})), nil)
	assert.Equal(t, "2026-05-25", changes.From)
	assert.Equal(t, 7, changes.Days)
	assert.True(t, changes.Visits.Called)
	assert.InDelta(t, 0.4, changes.Visits.Share, 0.01)
	assert.False(t, changes.Visits.Interval.Excludes(changes.Visits.Share))
	assert.True(t, changes.Blocks["rose"].Called)
	assert.Greater(t, changes.Blocks["rose"].Points.Low, 0.1)
	assert.False(t, changes.Blocks["same"].Called)
	assert.NotContains(t, changes.Blocks, "new", "it was not there before")
	assert.True(t, changes.Through.Called)
	assert.False(t, changes.Visits.Close)

	quiet := readings.Compare(span, before, with(history, was, sums(span, 100, map[string]int{"same": 20, "rose": 10})), nil)
	assert.False(t, quiet.Visits.Called || quiet.Through.Called)
	assert.InDelta(t, 0, quiet.Visits.Share, 0.02)
	needs := quiet.Blocks["rose"].Needs
	assert.InDelta(t, 0.025, needs.Quarter, 0.001, "a quarter of 10 of 100")
	assert.Greater(t, needs.Points, needs.Quarter)
	assert.Equal(t, math.Ceil(math.Pow(needs.Points/needs.Quarter, 2)), float64(needs.Weeks),
		"what is not known falls with the root of the weeks")
	assert.Zero(t, changes.Blocks["new"].Needs)
	few := readings.Compare(span, before, sums(span, 2, map[string]int{"rose": 2}), nil)
	assert.False(t, few.Through.Called, "too few visits to say")
	assert.Empty(t, few.Blocks)
	assert.Zero(t, few.Through.Needs)
	assert.False(t, few.Visits.Called, "nobody came before")
}

func TestOfAYoungPageItIsSaidWhenAChangeCanBeTold(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-07", noon, time.UTC)
	before := span.Compared(readings.Before)
	changes := readings.Compare(span, before, with(sums(before, 100, nil), sums(span, 300, nil)), nil)
	assert.False(t, changes.Visits.Called)
	assert.Equal(t, 7, changes.Visits.Missing, "three weeks are needed, and two are there")
	day := spanOf(t, "2026-06-07..2026-06-07", noon, time.UTC)
	all := with(sums(before.History(), 100, nil), sums(before, 100, nil), sums(span, 900, nil))
	one := readings.Compare(day, day.Compared(readings.Before), all, nil)
	assert.False(t, one.Visits.Called, "one day against one day")
}

// The visits of the last of the days before are so many that with them there is no change: a day earlier there is.
func TestAVerdictThatTheDaysBesideWouldTurnIsClose(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-07", noon, time.UTC)
	before := span.Compared(readings.Before)
	history, was, now := sums(before.History(), 100, nil), sums(before, 100, nil), sums(span, 100, nil)
	tried, close := 0, 0
	for more := 0; more <= 60; more += 2 {
		for i := range now.Pages {
			now.Pages[i].Visits = 100 + more + i%5
		}
		was.Pages[6].Visits = 140
		tried++
		if readings.Compare(span, before, with(history, was, now), nil).Visits.Close {
			close++
		}
	}
	assert.Positive(t, close)
	assert.Less(t, close, tried/2)
}

func TestSourcesThatGoOneWayAndTheirSumTheOtherAreSaid(t *testing.T) {
	span := spanOf(t, "2026-05-04..2026-05-31", noon, time.UTC)
	before := span.Compared(readings.Before)
	var all daily.Sums
	add := func(of readings.Span, source string, pressed, visits int) {
		for i := range of.Len() {
			all.Pages = append(all.Pages, daily.PageRow{
				PageKey: daily.PageKey{Day: of.Date(i), Source: source}, Visits: visits, ClickedVisits: pressed + i%2,
			})
		}
	}
	add(before, "loft", 80, 400)
	add(before, "letter", 5, 100)
	add(span, "loft", 22, 100)
	add(span, "letter", 28, 400)
	through := readings.Compare(span, before, all, nil).Through
	assert.True(t, through.Mixed)
	assert.True(t, through.Called)
	assert.Positive(t, through.Points.Low, "each source is pressed more")
}

func cellsOf(span readings.Span, visits int, rows [][]int) daily.Sums {
	all := daily.Sums{Pages: []daily.PageRow{{PageKey: daily.PageKey{Day: span.Date(0)}, Visits: visits}}}
	for i, row := range rows {
		for j, takers := range row {
			cell := daily.BlockRow{BlockKey: daily.BlockKey{Day: span.Date(0), Block: fmt.Sprint("block", i), Source: fmt.Sprint("source", j)}}
			cell.Clicks, cell.Takers, cell.Reach = takers+5, takers, 2000
			all.Blocks = append(all.Blocks, cell)
		}
	}
	return all
}

// The published table, as buttons and sources: the same residuals.
func TestCellsAreMarkedThatAreMoreThanTheirRowAndColumnExplain(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-01", noon, time.UTC)
	rows := [][]int{{762, 327, 468}, {484, 239, 477}}
	got := readings.Associate(span, cellsOf(span, 2000, rows))
	assert.InDelta(t, 30.1, got.ChiSquared, 0.05)
	var marked []string
	for _, mark := range got.Marks {
		marked = append(marked, fmt.Sprintf("%s %s %.2f", mark.Block, mark.Source, mark.Residual))
	}
	assert.Equal(t, []string{"block0 source0 4.50", "block0 source2 -5.32", "block1 source0 -4.50", "block1 source2 5.32"}, marked)
	assert.Empty(t, readings.Associate(span, daily.Sums{}).Marks)
	assert.Empty(t, readings.Associate(span, cellsOf(span, 29, rows)).Marks, "too few visits to say")
	assert.Equal(t, [3]int{6, 6, 0}, [3]int{got.Cells, got.Compared, got.Missing})
}

func TestItIsSaidOfHowManyCellsTooLittleIsKnown(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-01", noon, time.UTC)
	some := readings.Associate(span, cellsOf(span, 2000, [][]int{{40, 1, 2}, {30, 1, 0}}))
	assert.Equal(t, [3]int{6, 2, 0}, [3]int{some.Cells, some.Compared, some.Missing})
	few := readings.Associate(span, cellsOf(span, 2000, [][]int{{2, 1}, {1, 1}}))
	assert.Equal(t, [2]int{4, 0}, [2]int{few.Cells, few.Compared})
	// Of 3 of 5 by 3 of 5, 1.8 are expected in the first cell in a day: 5 in 2.8 days.
	assert.Equal(t, 2, few.Missing)
}

func TestAButtonThatOneSourceAloneHadBeforeItIsNoMark(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-01", noon, time.UTC)
	all := cellsOf(span, 2000, [][]int{{200, 300, 100}, {100, 150, 50}})
	only := daily.BlockKey{Day: span.Date(0), Block: "only", Source: "source1"}
	all.Blocks = append(all.Blocks, daily.BlockRow{BlockKey: only, Takers: 400, Reach: 2000})
	got := readings.Associate(span, all)
	assert.Empty(t, got.Marks)
	assert.Equal(t, 2, got.Freedom)
}

func TestALongSpanIsLookedAtInAsManyPartsAsAShortOne(t *testing.T) {
	span := spanOf(t, "2020-01-01..2026-05-31", noon, time.UTC)
	all := sums(span, 40, map[string]int{"film": 4, "sale": 3})
	assert.Empty(t, readings.Associate(span, all).Marks)
}

// An edition on 20 April made a button be pressed half as often again, and on 4 May it fell to what it was: without knowing
// of the first, the page seems to change by itself.
func TestWhatAnEditionDidIsNotTakenForHowRatesVary(t *testing.T) {
	span := spanOf(t, "2026-05-04..2026-05-31", noon, time.UTC)
	before := span.Compared(readings.Before)
	went := before.Days[14]
	var all daily.Sums
	add := func(of readings.Span) {
		for i, day := range of.Days[:of.Len()] {
			pressed := 80 + 7*(i%3)
			if !day.Before(went) && day.Before(span.From()) {
				pressed = 120 + 7*(i%3)
			}
			one := readings.Span{Days: []time.Time{day, day.AddDate(0, 0, 1)}}
			all = with(all, sums(one, 400, map[string]int{"film": pressed}))
		}
	}
	add(before.History())
	add(before)
	add(span)
	assert.False(t, readings.Compare(span, before, all, nil).Blocks["film"].Called)
	knowing := readings.Compare(span, before, all, []time.Time{went.Add(15 * time.Hour), span.From()})
	assert.True(t, knowing.Blocks["film"].Called)
	assert.Negative(t, knowing.Blocks["film"].Points.High)
}
