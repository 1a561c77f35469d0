package page_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

func TestWindowsAreMarkedWhereTheirEditionWasLive(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 6, n, 10, 0, 0, 0, time.UTC) }
	sale := page.Showing{When: &window.Times{Zone: "UTC", Spans: []window.Span{{From: day(3), To: day(9)}}}}
	live := []page.LiveShowing{
		{Block: "sale", Showing: sale, From: day(1), Until: day(6)},
		{Block: "sale", Showing: sale, From: day(6), Until: day(8)},
		{Block: "always", From: day(1)},
	}
	assert.Equal(t, []page.WindowMark{{Block: "sale", At: day(3), Begins: true}}, page.WindowMarks(live, day(1), day(28)),
		"it was taken off before its window ended")
	live = append(live, page.LiveShowing{Block: "sale", Showing: sale, From: day(8)})
	assert.Equal(t, []page.WindowMark{{Block: "sale", At: day(9)}}, page.WindowMarks(live, day(4), day(28)))
	assert.Empty(t, page.WindowMarks(live, day(10), day(28)))
}

func TestWindowsOfABlockAreOpenWhereTheirEditionWasLive(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 6, n, 10, 0, 0, 0, time.UTC) }
	within := func(spans ...window.Span) page.Showing {
		return page.Showing{When: &window.Times{Zone: "UTC", Spans: spans}}
	}
	sale := within(window.Span{From: day(3), To: day(9)}, window.Span{From: day(20)})
	live := []page.LiveShowing{
		{Block: "sale", Showing: sale, From: day(1), Until: day(6)},
		{Block: "other", Showing: sale, From: day(1)},
		{Block: "sale", Showing: sale, From: day(6), Until: day(8)},
		{Block: "sale", From: day(8), Until: day(15)},
		{Block: "sale", Showing: sale, From: day(15)},
	}
	assert.Equal(t, []page.OpenWindow{{From: day(3), To: day(8)}, {From: day(20), To: day(28)}},
		page.OpenWindows(live, "sale", day(1), day(28)), "an edition between does not end one, taking the windows off does")
	assert.Equal(t, []page.OpenWindow{{From: day(4), To: day(5)}}, page.OpenWindows(live, "sale", day(4), day(5)))
	assert.Empty(t, page.OpenWindows(live, "film", day(1), day(28)))
}
