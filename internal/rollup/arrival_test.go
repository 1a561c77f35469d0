package rollup_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// shown is what the editions of open show.
func shown(edition int, _ audience.Audience) []string { return []string{"a", "b"}[:edition] }

// sumsOf is the sums of a page as they are kept, in order.
func (s site) sumsOf(t *testing.T) daily.Sums {
	t.Helper()
	sums, err := rollup.AllSums(t.Context(), s.store, s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	inOrder := daily.NewTally(nil, nil)
	inOrder.AddSums(sums)
	return inOrder.Sums()
}

// summed is the sums of events, counted all together.
func summed(events []store.Event) daily.Sums {
	place, _ := time.LoadLocation(zone)
	days := make(map[time.Time][]traffic.Event)
	for _, e := range events {
		days[daily.UTCDay(e.At)] = append(days[daily.UTCDay(e.At)], traffic.Event{
			ID: e.ID.String(), At: e.At, Kind: e.Kind, Edition: e.Edition, Block: e.Block, Item: e.Item, Place: e.Place, Source: e.Source,
			Evidence: e.By, Device: traffic.DeviceOf(e.UserAgent), Visitor: e.Visitor, Flags: e.Flags,
		})
	}
	tally := daily.NewTally(nil, nil)
	for _, day := range days {
		tally.AddSums(daily.Sum(day, place, shown))
	}
	return tally.Sums()
}

func (s site) sumUp(t *testing.T) {
	t.Helper()
	_, err := rollup.All(t.Context(), s.store, nil)
	require.NoError(t, err)
}

// together is the sums with all unlisted places together.
func together(sums daily.Sums) daily.Sums { return sums.Join(nil) }

// Two writers, a visitor with very many events, more places than a day tells
// apart, batches in any order and doubled in part: the sums kept as events arrive
// are those of counting them all together.
func TestSumsThatTwoWritersAddToAreThoseOfAllEventsTogether(t *testing.T) {
	s := open(t)
	for seed := range uint64(5) {
		t.Run(fmt.Sprint("seed ", seed), func(t *testing.T) {
			random := rand.New(rand.NewPCG(seed, 11))
			s := s.another(t, fmt.Sprintf("seed-%d", seed))
			events := s.crowd(random)
			deliver := append(slices.Clone(events), events[:len(events)/5]...)
			random.Shuffle(len(deliver), func(i, j int) { deliver[i], deliver[j] = deliver[j], deliver[i] })
			var writers sync.WaitGroup
			for half := range slices.Chunk(deliver, (len(deliver)+1)/2) {
				size := 40 + random.IntN(600)
				writers.Go(func() {
					for batch := range slices.Chunk(half, size) {
						assert.NoError(t, s.store.RecordEvents(t.Context(), batch))
					}
				})
			}
			writers.Wait()
			want := summed(events)
			require.NoError(t, s.store.SumUpBusyVisitors(t.Context()))
			require.Equal(t, together(want), together(s.sumsOf(t)), "as they arrived")
			s.sumUp(t)
			require.Equal(t, want, s.sumsOf(t), "once the day is over")
		})
	}
}

// crowd is a day of many visitors, one of them busy, from many places.
func (s site) crowd(random *rand.Rand) []store.Event {
	day := time.Date(2021, 3, 1, 0, 0, 0, 0, time.UTC)
	flags := []traffic.Flags{0, 0, 0, 0, traffic.Crawler, traffic.Own}
	var events []store.Event
	add := func(visitor, from string, by source.By) {
		kind := []traffic.Kind{traffic.View, traffic.View, traffic.Click}[random.IntN(3)]
		event := s.event(day.Add(time.Duration(random.IntN(24*3600))*time.Second), visitor, kind, from)
		event.By, event.Edition, event.Flags = by, 1+random.IntN(2), flags[random.IntN(len(flags))]
		if kind == traffic.Click {
			event.Block, event.Source, event.By = []string{"a", "b"}[random.IntN(2)], "", source.Untagged
		}
		events = append(events, event)
	}
	for range 700 + random.IntN(500) {
		add("busy", "loft", source.ByTag)
	}
	places := 1 + random.IntN(150)
	for i := range 400 {
		add(fmt.Sprint(i%250), source.UnlistedCampaign.Key(fmt.Sprintf("place-%d", random.IntN(places))), source.ByCampaign)
	}
	return events
}

func TestWhatABusyVisitorBringsIsCountedAnewNowAndThen(t *testing.T) {
	s := open(t)
	var events []store.Event
	for i := range 100_000 {
		kind := []traffic.Kind{traffic.View, traffic.Click}[i%2]
		events = append(events, s.event(now.Add(-time.Duration(i)*300*time.Millisecond), "busy", kind, "loft"))
	}
	for batch := range slices.Chunk(events[1:], 5000) {
		require.NoError(t, s.store.RecordEvents(t.Context(), batch))
	}
	s.sumUp(t)
	require.Equal(t, summed(events[1:]), s.sumsOf(t))

	// Of who is busy nothing is read but that they are.
	version := s.sumsOf(t)
	require.NoError(t, s.store.RecordEvents(t.Context(), events[:1]))
	assert.Equal(t, version, s.sumsOf(t), "the sums wait")
	s.sumUp(t)
	require.Equal(t, summed(events), s.sumsOf(t))
}

func TestABusyVisitorWhoseEventsAreDeletedKeepsNobodyBack(t *testing.T) {
	s := open(t)
	busy := func(day time.Time, events int) {
		batch := make([]store.Event, events)
		for i := range batch {
			batch[i] = s.event(day.Add(time.Duration(i)*31*time.Second), "busy", traffic.View, "loft")
		}
		require.NoError(t, s.store.RecordEvents(t.Context(), batch))
	}
	old := now.AddDate(0, 0, -40).Truncate(24 * time.Hour)
	busy(old, 600)
	before := s.sumsOf(t)
	busy(old.Add(30*time.Second), 1) // and is to be counted anew
	require.NoError(t, s.store.KeepDays(t.Context(), s.member.WorkspaceID, 30))
	_, err := s.store.Prune(t.Context(), now)
	require.NoError(t, err)
	busy(now.Truncate(24*time.Hour), 600)
	busy(now.Truncate(24*time.Hour).Add(10*time.Hour), 1)
	require.NoError(t, s.store.SumUpBusyVisitors(t.Context()))
	after := s.sumsOf(t)
	assert.Equal(t, before.Pages[0], after.Pages[0], "what they brought stays")
	views := 0
	for _, row := range after.Pages {
		views += row.Views
	}
	assert.Equal(t, 600+601, views, "the other is counted")
	waits, err := s.store.SumUpBusyVisitor(t.Context())
	require.NoError(t, err)
	assert.False(t, waits)
}

func TestADayTellsApartThePlacesMostCameFromOnceItIsOver(t *testing.T) {
	s := open(t)
	from := func(i int, place string) store.Event {
		at := now.Add(time.Duration(i)*time.Minute - 24*time.Hour)
		event := s.event(at, fmt.Sprint(place, i), traffic.View, source.UnlistedCampaign.Key(place))
		event.By = source.ByCampaign
		return event
	}
	var events []store.Event
	for i := range daily.PlacesADay + 20 {
		events = append(events, from(i, fmt.Sprintf("made-up-%03d", i)))
	}
	for i := range 50 {
		events = append(events, from(i, "potters_weekly"))
	}
	require.NoError(t, s.store.RecordEvents(t.Context(), events[:110]))
	require.NoError(t, s.store.RecordEvents(t.Context(), events[110:]))
	visits := func() map[string]int {
		by := map[string]int{}
		for _, row := range s.sumsOf(t).Pages {
			by[row.Source] += row.Visits
		}
		return by
	}
	assert.Equal(t, 70, visits()["others:"], "first come, first told apart")
	s.sumUp(t)
	assert.Equal(t, 50, visits()["campaign:potters_weekly"])
	assert.Equal(t, 21, visits()["others:"])
	due, err := s.store.DueDays(t.Context(), 10, true)
	require.NoError(t, err)
	assert.Empty(t, due, "and that is the end of it")
}

func TestHoursAreThoseOfTheWorkspacesClock(t *testing.T) {
	s := open(t)
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{
		s.event(now, "one", traffic.View, "loft"), s.event(now.Add(45*time.Minute), "two", traffic.View, "loft"),
		s.event(now.Add(46*time.Minute), "two", traffic.Click, ""),
	}))
	assert.Equal(t, []daily.HourRow{
		{HourKey: daily.HourKey{Day: "2026-06-10", Hour: 17}, Views: 1, Visits: 1},
		{HourKey: daily.HourKey{Day: "2026-06-10", Hour: 18}, Views: 1, Visits: 1, Clicks: 1},
	}, s.sumsOf(t).Hours, "noon is half past five in Kolkata")
	assert.ElementsMatch(t, []daily.HourShareRow{
		share(17, daily.BySource, "loft"), share(18, daily.BySource, "loft"), share(18, daily.ByBlock, "a"),
	}, s.sumsOf(t).HourShares)
}

func share(hour int, split daily.HourSplit, of string) daily.HourShareRow {
	return daily.HourShareRow{
		HourShareKey: daily.HourShareKey{HourKey: daily.HourKey{Day: "2026-06-10", Hour: hour}, Split: split, Of: of}, Count: 1,
	}
}

func TestInAnotherZoneDaysAreCountedAnewWhereTheirEventsAreThere(t *testing.T) {
	s := open(t)
	late := time.Date(2026, 6, 1, 20, 0, 0, 0, time.UTC) // the second of June in Kolkata
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{s.event(late, "long ago", traffic.View, "loft")}))
	require.NoError(t, s.store.KeepDays(t.Context(), s.member.WorkspaceID, 5))
	_, err := s.store.Prune(t.Context(), late.AddDate(0, 0, 8))
	require.NoError(t, err)
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{s.event(late.AddDate(0, 0, 7), "lately", traffic.View, "loft")}))
	days := func() (days []string) {
		for _, row := range s.sumsOf(t).Pages {
			days = append(days, row.Day)
		}
		return days
	}
	assert.Equal(t, []string{"2026-06-02", "2026-06-09"}, days())

	require.NoError(t, s.store.ChangeZone(t.Context(), s.member.WorkspaceID, "Europe/Lisbon"))
	s.sumUp(t)
	assert.Equal(t, []string{"2026-06-02", "2026-06-08"}, days(), "of the first there is nothing left to count")
	from, err := s.store.EventsFrom(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	assert.Equal(t, "2026-06-08", from.Format(time.DateOnly))
}

// another is a page of its own in the same database.
func (s site) another(t *testing.T, name string) site {
	t.Helper()
	made := site{store: s.store}
	var err error
	account := store.NewAccount{Email: name + "@quarrow.example", PageAddress: name, Zone: zone}
	made.member, err = s.store.CreateAccount(t.Context(), account, now)
	require.NoError(t, err)
	pages, err := s.store.Pages(t.Context(), made.member.WorkspaceID)
	require.NoError(t, err)
	made.page = pages[0]
	made.publish(t)
	return made
}
