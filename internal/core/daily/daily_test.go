package daily_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func event(minute int, visitor byte, kind traffic.Kind, from string) traffic.Event {
	e := traffic.Event{
		ID: fmt.Sprintf("%04d", minute), At: noon.Add(time.Duration(minute) * time.Minute), Kind: kind, Edition: 1,
		Visitor: traffic.VisitorKey{visitor}, Device: traffic.Phone,
		Source: from, Evidence: source.ByReferrer,
	}
	if kind == traffic.Click {
		e.Block, e.Source, e.Evidence = "dates", "", source.Untagged // a click's address says no more
	}
	return e
}

func shown(int, audience.Audience) []string { return []string{"dates", "sale"} }

func ExampleSum() {
	sums := daily.Sum([]traffic.Event{
		event(1, 1, traffic.Click, ""),
		event(0, 1, traffic.View, "loft"),
		event(5, 2, traffic.View, "loft"),
	}, time.UTC, shown)
	for _, row := range sums.Pages {
		fmt.Println(row.Day, row.Source, row.Evidence, row.Views, row.Visits, row.Clicks)
	}
	for _, row := range sums.Blocks {
		fmt.Println(row.Block, row.Clicks, row.Takers, row.Reach)
	}
	// Output:
	// 2026-06-01 loft referrer 2 2 1
	// dates 1 1 2
	// sale 0 0 2
}

func TestOneUTCDayMayFallOnTwoDaysOfTheWorkspace(t *testing.T) {
	kolkata := time.FixedZone("", 19800)
	late := event(7*60, 1, traffic.View, "loft") // half past midnight there
	sums := daily.Sum([]traffic.Event{event(0, 1, traffic.View, "loft"), late}, kolkata, shown)
	assert.Equal(t, "2026-06-01", sums.Pages[0].Day)
	assert.Equal(t, "2026-06-02", sums.Pages[1].Day)
	assert.Equal(t, [2]int{1, 0}, [2]int{sums.Pages[0].Visitors, sums.Pages[1].Visitors}, "who comes twice in one UTC day is one visitor")
	assert.Equal(t, [2]int{1, 1}, [2]int{sums.Pages[0].Visits, sums.Pages[1].Visits})
}

func TestAClickLongAfterTheViewIsAVisitOfItsOwn(t *testing.T) {
	sums := daily.Sum([]traffic.Event{event(0, 1, traffic.View, "loft"), event(31, 1, traffic.Click, "")}, time.UTC, shown)
	visits := map[string]int{}
	for _, row := range sums.Pages {
		visits[row.Source] += row.Visits
	}
	assert.Equal(t, map[string]int{"loft": 1, "": 1}, visits)
}

func TestADayTellsAHundredPlacesApartAndSumsUpTheRestTogether(t *testing.T) {
	var events []traffic.Event
	for i := range 1000 {
		visitor := traffic.VisitorKey{byte(i), byte(i >> 8), 1}
		place := source.UnlistedCampaign.Key(fmt.Sprintf("made-up-%03d", i))
		if i%4 == 0 {
			place = source.UnlistedCampaign.Key("potters_weekly")
		}
		view := event(i, 0, traffic.View, place)
		view.Visitor = visitor
		click := event(i, 0, traffic.Click, "")
		click.ID, click.Visitor = fmt.Sprintf("%04d click", i), visitor
		events = append(events, view, click)
	}
	sums := daily.Sum(events, time.UTC, shown)
	visits, clicks, reach := map[string]int{}, 0, 0
	for _, row := range sums.Pages {
		visits[row.Source] += row.Visits
		clicks += row.Clicks
	}
	for _, row := range sums.Blocks {
		reach += row.Reach
	}
	assert.Len(t, visits, daily.PlacesADay+1)
	assert.Equal(t, 250, visits["campaign:potters_weekly"], "a place that many come from is among them")
	assert.Equal(t, 1000-250-99, visits["others:"])
	assert.Equal(t, [2]int{1000, 2000}, [2]int{clicks, reach}, "nothing is lost")
}

func TestAPressAfterMidnightIsOfItsOwnDayWithItsItem(t *testing.T) {
	kolkata := time.FixedZone("", 19800)
	press := event(6*60+31, 1, traffic.Click, "") // a minute after midnight there
	press.Item = "bowl"
	sums := daily.Sum([]traffic.Event{event(6*60+20, 1, traffic.View, "loft"), press}, kolkata, shown)
	clicks, takers := map[string]int{}, map[string]int{}
	for _, row := range sums.Items {
		clicks[row.Day], takers[row.Day] = row.Clicks, row.Takers
	}
	assert.Equal(t, map[string]int{"2026-06-01": 0, "2026-06-02": 1}, clicks, "as clicks of its block are")
	assert.Equal(t, map[string]int{"2026-06-01": 1, "2026-06-02": 0}, takers, "who pressed it came the day before")
}
