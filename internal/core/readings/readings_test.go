package readings_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/readings"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/fuzzing"
)

var noon = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

func lastWeek() readings.Span { return readings.WithToday(6, noon, time.UTC) }

func edition(keys ...string) page.Document {
	var doc page.Document
	for _, key := range keys {
		doc.Blocks = append(doc.Blocks, page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: key}})
	}
	return doc
}

// read is readings.Read on what the events of each UTC day sum up to.
func read(span readings.Span, events []traffic.Event, editions map[int]page.Document) readings.Reading {
	whole := daily.NewTally(nil, nil)
	for _, day := range byUTCDay(events) {
		whole.AddSums(daily.Sum(day, span.From().Location(), func(number int, _ audience.Audience) []string {
			var keys []string
			for _, row := range editions[number].Rows() {
				keys = append(keys, row.Key)
			}
			return keys
		}))
	}
	return readings.Read(span, whole.Sums())
}

func at(minute int, visitor byte, kind traffic.Kind, block, from string) traffic.Event {
	return traffic.Event{
		ID: fmt.Sprintf("%05d%s", minute, block), At: noon.Add(time.Duration(minute) * time.Minute), Kind: kind, Edition: 1,
		Block: block, Source: from, Visitor: traffic.VisitorKey{visitor},
	}
}

func TestTheTableSaysWhichButtonFromWhichSource(t *testing.T) {
	events := []traffic.Event{
		at(0, 1, traffic.View, "", "loft"), at(1, 1, traffic.Click, "dates", "loft"), at(2, 1, traffic.Click, "dates", "loft"), at(3, 1,
			traffic.Click, "sale", "loft"),
		at(4, 2, traffic.View, "", "loft"),
		at(5, 3, traffic.View, "", ""), at(6, 3, traffic.Click, "sale", ""),
	}
	got := read(lastWeek(), events, map[int]page.Document{1: edition("dates", "sale")})

	assert.Equal(t, 3, got.Total.Views)
	assert.Equal(t, 3, got.Total.Visits)
	assert.Equal(t, 4, got.Total.Clicks)
	assert.Equal(t, 2, got.Total.ClickThrough.Taken)
	assert.InDelta(t, 2.0/3, got.Total.ClickThrough.Rate, 1e-9)
	assert.Equal(t, 27, got.Missing, "30 visits are needed before a rate says anything")

	require.Len(t, got.Blocks, 2)
	dates := got.Blocks[0]
	assert.Equal(t, "dates", dates.Block)
	assert.Equal(t, 2, dates.BySource["loft"].Clicks)
	assert.Equal(t, 1, dates.BySource["loft"].Rate.Taken, "two clicks of one visit are one taker")
	assert.Equal(t, 2, dates.BySource["loft"].Rate.Of)
	assert.Zero(t, dates.BySource[readings.Untagged].Clicks)
	assert.Equal(t, 1, dates.BySource[readings.Untagged].Rate.Of, "it was shown there all the same")
	assert.Equal(t, 1, got.Blocks[1].BySource[readings.Untagged].Clicks)
}

func TestWhatLeadsNowhereHasNoFiguresAndAllItemsOfARowAreOne(t *testing.T) {
	click := func(minute int, block, item string) traffic.Event {
		event := at(minute, 1, traffic.Click, block, "loft")
		event.ID, event.Item = event.ID+item, item
		return event
	}
	events := []traffic.Event{
		at(0, 1, traffic.View, "", "loft"), click(1, "icons", "loft"), click(2, "icons", "ownn"), click(3, "pictures", "bowl"), click(4,
			"footer", "privacy"),
		at(5, 2, traffic.View, "", "loft"),
	}
	got := read(lastWeek(), events, map[int]page.Document{1: pagetest.Everything()})
	clicks, takers := map[string]int{}, map[string]int{}
	for _, row := range got.Blocks {
		clicks[row.Block], takers[row.Block] = row.Total.Clicks, row.Total.Rate.Taken
		assert.Equal(t, 2, row.Total.Rate.Of, "%s was shown to both", row.Block)
	}
	assert.Equal(t, map[string]int{
		"icons": 2, "button": 0, "code": 0, "dates": 0, "place": 0, "signup": 0, "player": 0, "contact": 0,
		"text": 0, "pictures": 1, "file": 0, "offer": 0, "payment": 0, "booking": 0, "footer": 1,
	},
		clicks)
	assert.Equal(t, 1, takers["icons"], "two icons pressed in one visit are one taker")
}

func TestReachCountsOnlyVisitsThatWereShownTheBlock(t *testing.T) {
	second := at(10, 2, traffic.View, "", "")
	second.Edition = 2
	events := []traffic.Event{at(0, 1, traffic.View, "", ""), second}
	got := read(lastWeek(), events, map[int]page.Document{1: edition("old", "both"), 2: edition("both", "new")})
	reach := map[string]int{}
	for _, row := range got.Blocks {
		reach[row.Block] = row.Total.Rate.Of
	}
	assert.Equal(t, map[string]int{"old": 1, "both": 2, "new": 1}, reach)
}

func TestWhatIsLeftOutIsCountedByReason(t *testing.T) {
	own, crawler := at(0, 1, traffic.Click, "a", ""), at(1, 2, traffic.View, "", "")
	own.Flags, crawler.Flags = traffic.Own|traffic.Repeat, traffic.Crawler
	got := read(lastWeek(), []traffic.Event{own, crawler}, nil)
	assert.Zero(t, got.Total.Views+got.Total.Clicks)
	left := map[string][2]int{}
	for _, out := range got.LeftOut {
		left[out.Reason] = [2]int{out.Views, out.Clicks}
	}
	assert.Equal(t, map[string][2]int{"crawler": {1, 0}, "preview": {}, "prefetch": {}, "own": {0, 1}, "flood": {}, "repeat": {}}, left)
}

func TestEverySplitAddsUpToItsTotal(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var events []traffic.Event
		for i := range rapid.IntRange(0, 80).Draw(t, "events") {
			e := at(-rapid.IntRange(0, 8000).Draw(t, "minutes ago"), byte(rapid.IntRange(1, 4).Draw(t, "visitor")), traffic.View, "",
				rapid.SampledFrom([]string{"", "loft", "card", "host:a.example", "campaign:b"}).Draw(t, "from"))
			e.Evidence, e.Device = source.ByTag, rapid.SampledFrom(traffic.Devices).Draw(t, "device")
			e.ID, e.Edition = fmt.Sprint(i), rapid.IntRange(1, 2).Draw(t, "edition")
			e.Flags = rapid.SampledFrom([]traffic.Flags{0, 0, 0, traffic.Crawler, traffic.Own}).Draw(t, "flags")
			if rapid.Bool().Draw(t, "is a click") {
				e.Kind, e.Block = traffic.Click, rapid.SampledFrom([]string{"a", "b", "gone"}).Draw(t, "block")
			}
			events = append(events, e)
		}
		got := read(lastWeek(), events, map[int]page.Document{1: edition("a"), 2: edition("b", "a")})

		var split readings.Figures
		clicked := 0
		for _, figures := range got.BySource {
			split.Views += figures.Views
			split.Visits += figures.Visits
			split.Clicks += figures.Clicks
			clicked += figures.ClickThrough.Taken
		}
		assert.Equal(t, [4]int{got.Total.Views, got.Total.Visits, got.Total.Clicks, got.Total.ClickThrough.Taken},
			[4]int{split.Views, split.Visits, split.Clicks, clicked})
		unlisted := 0
		for _, place := range got.Unlisted {
			unlisted += place.Figures.Visits
		}
		assert.Equal(t, got.BySource[readings.Unlisted].Visits, unlisted, "unlisted places")
		covered, held := 0, 0
		for _, evidence := range got.Coverage {
			covered += evidence.Visits
		}
		for _, device := range got.Devices {
			held += device.Visits
		}
		assert.Equal(t, [2]int{got.Total.Visits, got.Total.Visits}, [2]int{covered, held}, "evidence and devices")
		var views, visits, clicks int
		for _, day := range got.Days {
			views, visits, clicks = views+day.Views, visits+day.Visits, clicks+day.Clicks
		}
		assert.Equal(t, [3]int{got.Total.Views, got.Total.Visits, got.Total.Clicks}, [3]int{views, visits, clicks}, "days")
		rows := 0
		for _, row := range got.Blocks {
			rows += row.Total.Clicks
			var cells, takers, reach, daily int
			for _, cell := range row.BySource {
				cells, takers, reach = cells+cell.Clicks, takers+cell.Rate.Taken, reach+cell.Rate.Of
			}
			for _, n := range row.Daily {
				daily += n
			}
			assert.Equal(t, [4]int{row.Total.Clicks, row.Total.Clicks, row.Total.Rate.Taken, row.Total.Rate.Of},
				[4]int{cells, daily, takers, reach}, "row %s", row.Block)
			assert.LessOrEqual(t, row.Total.Rate.Taken, row.Total.Rate.Of)
		}
		assert.Equal(t, got.Total.Clicks, rows, "rows")
		kept := got.Total.Views + got.Total.Clicks
		for _, out := range got.LeftOut {
			kept += out.Views + out.Clicks
		}
		assert.Equal(t, len(events), kept, "nothing is dropped")
	})
}

func TestRangesAreWholeDaysOfTheWorkspacesZone(t *testing.T) {
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	// Half past midnight in Lisbon is still the day before in UTC.
	now := time.Date(2026, 6, 9, 23, 30, 0, 0, time.UTC)
	first := time.Date(2026, 5, 31, 22, 0, 0, 0, time.UTC)
	cases := []struct {
		text, from, last string
		days             int
	}{
		{"today", "2026-06-10", "2026-06-10", 1},
		{"yesterday", "2026-06-09", "2026-06-09", 1},
		{"7d", "2026-06-03", "2026-06-09", 7},
		{"28d", "2026-05-13", "2026-06-09", 28},
		{"90d", "2026-03-12", "2026-06-09", 90},
		{"28d-today", "2026-05-13", "2026-06-10", 29},
		{"month", "2026-06-01", "2026-06-10", 10},
		{"last-month", "2026-05-01", "2026-05-31", 31},
		{"all", "2026-05-31", "2026-06-10", 11},
		{"2026-02-27..2026-03-01", "2026-02-27", "2026-03-01", 3},
	}
	for _, c := range cases {
		t.Run(c.text, func(t *testing.T) {
			span, err := readings.ParseSpan(c.text, now, first, lisbon)
			require.NoError(t, err)
			assert.Equal(t, c.days, span.Len())
			assert.Equal(t, c.from, span.Date(0))
			assert.Equal(t, c.last, span.Date(span.Len()-1))
		})
	}
	for _, text := range []string{"", "8d", "2026-13-01..2026-01-01", "2026-06-02..2026-06-01", "0001-01-01..9999-12-31"} {
		_, err := readings.ParseSpan(text, now, first, lisbon)
		var bad *readings.SpanError
		assert.ErrorAs(t, err, &bad, text)
	}
}

func TestTodayIsShownApartFromDaysThatAreOver(t *testing.T) {
	first := noon.AddDate(0, -1, 0)
	for text, apart := range map[string]bool{
		"7d": true, "28d": true, "yesterday": true, "today": false, "month": false, "last-month": false, "all": false,
	} {
		span, err := readings.ParseSpan(text, noon, first, time.UTC)
		require.NoError(t, err)
		today, is := span.Next(noon)
		assert.Equal(t, apart, is, text)
		assert.Equal(t, text == "7d" || text == "28d", readings.LastDays(text), text)
		if apart {
			assert.Equal(t, "2026-06-10", today.Date(0))
		}
	}
}

func TestOnTheFirstDayOfFiguresThereIsNothingButToday(t *testing.T) {
	for _, text := range []string{"7d", "28d", "90d"} {
		span, err := readings.ParseSpan(text, noon, noon.Add(-time.Hour), time.UTC)
		require.NoError(t, err)
		assert.Equal(t, "2026-06-10 1", fmt.Sprint(span.Date(0), " ", span.Len()))
	}
}

func TestCountsWithoutAVerdictTakeTodayIn(t *testing.T) {
	span := readings.WithToday(7, noon, time.UTC)
	assert.Equal(t, "2026-06-03 to 2026-06-10", span.Date(0)+" to "+span.Date(span.Len()-1))
}

// Source: IANA tz database, Europe/Berlin, transitions of 2026: 29 March and
// 25 October.
func TestADayOf23Or25HoursIsOneDay(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	for date, hours := range map[string]float64{"2026-03-29": 23, "2026-10-25": 25, "2026-06-01": 24} {
		span, err := readings.ParseSpan(date+".."+date, noon, noon, berlin)
		require.NoError(t, err)
		require.Equal(t, 1, span.Len())
		assert.Equal(t, hours, span.To().Sub(span.From()).Hours(), date)
	}
}

func FuzzParseSpan(f *testing.F) {
	f.Add("7d")
	f.Add("2026-09-01..2026-09-30")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			span, err := readings.ParseSpan(text, noon, noon, time.UTC)
			if err == nil && (span.Len() < 1 || !span.From().Before(span.To())) {
				t.Fatalf("%q gave %v", text, span)
			}
		})
	})
}

func TestPlacesBeyondFiftyAreShownTogetherAndLast(t *testing.T) {
	var events []traffic.Event
	for i := range 90 {
		events = append(events, at(i, byte(i), traffic.View, "", source.UnlistedHost.Key(fmt.Sprintf("site-%02d.example", i))))
	}
	places := read(lastWeek(), events, map[int]page.Document{1: edition("dates")}).Unlisted
	require.Len(t, places, readings.PlacesShown+1)
	assert.Equal(t, source.UnlistedHost.Key("site-00.example"), places[0].Key)
	assert.Equal(t, source.Others, places[readings.PlacesShown].Known)
	assert.Equal(t, 40, places[readings.PlacesShown].Figures.Visits)
}

func byUTCDay(events []traffic.Event) map[time.Time][]traffic.Event {
	days := make(map[time.Time][]traffic.Event)
	for _, event := range events {
		day := daily.UTCDay(event.At)
		days[day] = append(days[day], event)
	}
	return days
}
