package readings_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// clockChange is a zone and a day on which its clocks change. Source: IANA tz database,
// transitions of 2026. Lord Howe's clocks change by half an hour.
type clockChange struct {
	zone string
	day  time.Time
}

var clockChanges = []clockChange{
	{"Europe/Lisbon", time.Date(2026, 10, 25, 0, 0, 0, 0, time.UTC)},
	{"America/St_Johns", time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)},
	{"Australia/Lord_Howe", time.Date(2026, 10, 4, 0, 0, 0, 0, time.UTC)},
}

var (
	someSources = []string{"loft", "card", source.UnlistedHost.Key("claynews.example"), ""}
	someBlocks  = []string{"dates", "pictures", "gone"}
)

// someEvents are random events in the days around a change of the clocks.
func someEvents(t *rapid.T, day time.Time) []traffic.Event {
	var events []traffic.Event
	for i := range rapid.IntRange(0, 60).Draw(t, "events") {
		from := rapid.SampledFrom(someSources).Draw(t, "source")
		e := traffic.Event{
			ID: fmt.Sprintf("%05d", i), At: day.Add(time.Duration(rapid.IntRange(-2*24*60, 3*24*60).Draw(t, "minute")) * time.Minute),
			Kind: traffic.View, Edition: 1, Source: from, Evidence: rapid.SampledFrom(source.Kinds).Draw(t, "evidence"),
			Device:  rapid.SampledFrom(traffic.Devices).Draw(t, "device"),
			Visitor: traffic.VisitorKey{byte(rapid.IntRange(1, 6).Draw(t, "visitor"))},
			Flags:   rapid.SampledFrom([]traffic.Flags{0, 0, 0, 0, traffic.Crawler}).Draw(t, "flags"),
			Traits: traffic.Traits{
				Country: rapid.SampledFrom([]string{"", "PT", "GB"}).
					Draw(t, "country"),
				Language: rapid.SampledFrom([]string{"", "en"}).Draw(t, "language"),
				Paid:     rapid.Bool().Draw(t, "paid"),
			},
		}
		if rapid.Bool().Draw(t, "is a click") {
			e.Kind, e.Block = traffic.Click, rapid.SampledFrom(someBlocks).Draw(t, "block")
			if e.Block == "pictures" {
				e.Item = rapid.SampledFrom([]string{"bowl", "jug"}).Draw(t, "item")
			}
		}
		events = append(events, e)
	}
	return events
}

func sumsOf(events []traffic.Event, zone *time.Location) daily.Sums {
	whole := daily.NewTally(nil, nil)
	shown := func(int, audience.Audience) []string { return []string{"dates", "pictures"} }
	for _, day := range byUTCDay(events) {
		whole.AddSums(daily.Sum(day, zone, shown))
	}
	return whole.Sums()
}

func TestEverySplitAddsUpForAnyFilterOverAChangeOfTheClocks(t *testing.T) {
	for _, change := range clockChanges {
		t.Run(change.zone, func(t *testing.T) {
			zone, err := time.LoadLocation(change.zone)
			require.NoError(t, err)
			rapid.Check(t, func(t *rapid.T) {
				events := someEvents(t, change.day)
				sums := sumsOf(events, zone)
				first := rapid.IntRange(-3, 2).Draw(t, "first day")
				last := first + rapid.IntRange(0, 4).Draw(t, "days")
				text := change.day.AddDate(0, 0, first).
					Format(time.DateOnly) +
					".." + change.day.AddDate(0, 0, last).
					Format(time.DateOnly)
				span, err := readings.ParseSpan(text, change.day, change.day, zone)
				require.NoError(t, err)
				whole := readings.Read(span, sums)
				for _, block := range someBlocks {
					splitsOfBlock(t, span, sums, whole, block)
				}
				splitsOfVisits(t, span, sums, whole)
			})
		})
	}
}

func splitsOfBlock(t *rapid.T, span readings.Span, sums daily.Sums, whole readings.Reading, block string) {
	all := readings.OfBlock(span, sums, block, "")
	addsUp(t, all)
	clicks, taken, of := 0, 0, 0
	for _, from := range []string{"loft", "card", readings.Unlisted, readings.Untagged} {
		one := readings.OfBlock(span, sums, block, from)
		addsUp(t, one)
		clicks, taken, of = clicks+one.Total.Clicks, taken+one.Total.Rate.Taken, of+one.Total.Rate.Of
	}
	assert.Equal(t, [3]int{all.Total.Clicks, all.Total.Rate.Taken, all.Total.Rate.Of}, [3]int{clicks, taken, of}, "sources of %s", block)
	at := slices.IndexFunc(whole.Blocks, func(row readings.BlockReading) bool { return row.Block == block })
	if at < 0 {
		assert.Zero(t, all.Total.Clicks)
		return
	}
	row := whole.Blocks[at]
	assert.Equal(t, row.Total, all.Total, "the table and the detail say the same of %s", block)
	items := 0
	for _, item := range row.Items {
		items += item.Clicks
		sources := 0
		for _, n := range item.BySource {
			sources += n
		}
		assert.Equal(t, item.Clicks, sources, "sources of %s", item.Item)
	}
	if block == "pictures" {
		assert.Equal(t, row.Total.Clicks, items, "items")
	}
}

func splitsOfVisits(t *rapid.T, span readings.Span, sums daily.Sums, whole readings.Reading) {
	visits, clicks := 0, 0
	for from, figures := range whole.BySource {
		one := readings.OfSource(span, sums, from)
		addsUp(t, one)
		assert.Equal(t, figures.Visits, one.Total.Rate.Of, "visits from %s", from)
		visits, clicks = visits+one.Total.Rate.Of, clicks+one.Total.Clicks
		evidence := 0
		for _, each := range readings.EvidenceOf(span, sums, from) {
			evidence += each.Visits
		}
		assert.Equal(t, figures.Visits, evidence, "evidence for %s", from)
	}
	assert.Equal(t, [2]int{whole.Total.Visits, whole.Total.Clicks}, [2]int{visits, clicks}, "sources")
	for name, values := range map[string][]readings.TraitReading{
		"countries": whole.Countries, "languages": whole.Languages, "payment": whole.Payment,
	} {
		visits, taken := 0, 0
		for _, value := range values {
			visits, taken = visits+value.Visits, taken+value.ClickThrough.Taken
		}
		assert.Equal(t, [2]int{whole.Total.Visits, whole.Total.ClickThrough.Taken}, [2]int{visits, taken}, name)
	}
	week, inWeek := readings.ByWeekHour(span, sums.Hours), 0
	for _, n := range week.Visits {
		inWeek += n
	}
	assert.Equal(t, whole.Total.Visits, inWeek, "hours of the week")
	if span.Len() <= 2 {
		inHours := 0
		for _, hour := range readings.ByHour(span, sums.Hours, sums.HourShares) {
			inHours += hour.Visits
			assert.Equal(t, hour.Visits, sum(hour.VisitsBySource), "sources of an hour")
			assert.Equal(t, hour.Clicks, sum(hour.ClicksByBlock), "buttons of an hour")
		}
		assert.Equal(t, whole.Total.Visits, inHours, "hours")
	}
}

func sum(counts map[string]int) (all int) {
	for _, n := range counts {
		all += n
	}
	return all
}

// addsUp holds the days, devices and weekdays of a detail against its total.
func addsUp(t *rapid.T, detail readings.Detail) {
	total := [3]int{detail.Total.Clicks, detail.Total.Rate.Taken, detail.Total.Rate.Of}
	var days, devices, weekdays [3]int
	for _, day := range detail.Days {
		days = [3]int{days[0] + day.Clicks, days[1] + day.Taken, days[2] + day.Of}
	}
	add := func(to *[3]int, figures readings.BlockFigures) {
		*to = [3]int{to[0] + figures.Clicks, to[1] + figures.Rate.Taken, to[2] + figures.Rate.Of}
	}
	for _, device := range detail.Devices {
		add(&devices, device.Figures)
	}
	for _, day := range detail.Weekdays {
		add(&weekdays, day)
	}
	assert.Equal(t, total, days, "days")
	assert.Equal(t, total, devices, "devices")
	assert.Equal(t, total, weekdays, "weekdays")
}

func TestHoursAreThoseThatTheClocksShow(t *testing.T) {
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	for date, hours := range map[string]int{"2026-03-29": 23, "2026-10-25": 24, "2026-06-01": 24} {
		span, err := readings.ParseSpan(date+".."+date, noon, noon, lisbon)
		require.NoError(t, err)
		assert.Len(t, readings.ByHour(span, nil, nil), hours, date)
	}
	assert.Empty(t, readings.ByHour(lastWeek(), nil, nil), "of a week there would be too many")
}
