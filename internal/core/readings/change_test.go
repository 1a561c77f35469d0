package readings_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
)

func spanOf(t *testing.T, text string, now time.Time, zone *time.Location) readings.Span {
	t.Helper()
	span, err := readings.ParseSpan(text, now, now, zone)
	require.NoError(t, err)
	return span
}

func TestASpanIsComparedWithTheSameLengthBeforeOrTheSameWeekdays(t *testing.T) {
	for _, c := range []struct {
		text     string
		with     readings.Comparison
		from, to string
	}{
		{"7d", readings.Before, "2026-05-28", "2026-06-03"},
		{"7d", readings.SameWeekdays, "2026-05-28", "2026-06-03"},
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
	span := spanOf(t, "7d", noon, time.UTC)
	over, compares := span.Finished(noon)
	assert.True(t, compares)
	assert.Equal(t, 6, over.Len())
	assert.Equal(t, "2026-06-09", over.Date(5))
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

func TestAChangeIsCalledOneOnlyWhereChanceAloneWouldNotDo(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-07", noon, time.UTC)
	earlier := span.Compared(readings.Before)
	before := readings.Read(earlier, sums(earlier, 100, map[string]int{"same": 20, "rose": 10}))
	now := readings.Read(span, sums(span, 140, map[string]int{"same": 29, "rose": 40, "new": 5}))
	changes := readings.Compare(now, before, before)
	assert.Equal(t, "2026-05-25", changes.From)
	assert.Equal(t, 7, changes.Days)
	assert.True(t, changes.Visits.Called)
	assert.InDelta(t, 0.4, changes.Visits.Share, 0.01)
	assert.True(t, changes.Blocks["rose"].Called)
	assert.Greater(t, changes.Blocks["rose"].Points.Low, 0.1)
	assert.False(t, changes.Blocks["same"].Called)
	assert.NotContains(t, changes.Blocks, "new", "it was not there before")
	assert.True(t, changes.Through.Called)
	assert.False(t, changes.Visits.Close)

	beside := earlier.DayEarlier()
	assert.Equal(t, "2026-05-24", beside.Date(0))
	busy := readings.Read(beside, sums(beside, 140, nil))
	assert.True(t, readings.Compare(now, before, busy).Visits.Close, "against the days beside it would not be called")
	assert.True(t, readings.Compare(busy, busy, before).Visits.Close, "nor the other way round")

	quiet := readings.Compare(before, before, before)
	assert.False(t, quiet.Visits.Called || quiet.Clicks.Called || quiet.Through.Called)
	assert.Zero(t, quiet.Visits.Share)
	few := readings.Compare(readings.Read(span, sums(span, 2, map[string]int{"rose": 2})), readings.Read(earlier, daily.Sums{}), before)
	assert.False(t, few.Through.Called, "too few visits to say")
	assert.Empty(t, few.Blocks)
}

// The published table, as buttons and sources: the same residuals.
func TestCellsAreMarkedThatAreMoreThanTheirRowAndColumnExplain(t *testing.T) {
	span := spanOf(t, "2026-06-01..2026-06-01", noon, time.UTC)
	all := daily.Sums{Pages: []daily.PageRow{{PageKey: daily.PageKey{Day: span.Date(0)}, Visits: 2000}}}
	for i, row := range [][]int{{762, 327, 468}, {484, 239, 477}} {
		for j, takers := range row {
			cell := daily.BlockRow{BlockKey: daily.BlockKey{Day: span.Date(0), Block: fmt.Sprint("block", i), Source: fmt.Sprint("source", j)}}
			cell.Clicks, cell.Takers, cell.Reach = takers+5, takers, 2000
			all.Blocks = append(all.Blocks, cell)
		}
	}
	got := readings.Associate(readings.Read(span, all))
	assert.InDelta(t, 30.1, got.ChiSquared, 0.05)
	var marked []string
	for _, mark := range got.Marks {
		marked = append(marked, fmt.Sprintf("%s %s %.2f", mark.Block, mark.Source, mark.Residual))
	}
	assert.Equal(t, []string{"block0 source0 4.50", "block0 source2 -5.32", "block1 source0 -4.50", "block1 source2 5.32"}, marked)
	assert.Empty(t, readings.Associate(readings.Read(span, daily.Sums{})).Marks)
	all.Pages[0].Visits = 29
	assert.Empty(t, readings.Associate(readings.Read(span, all)).Marks, "too few visits to say")
}
