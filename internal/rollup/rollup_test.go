package rollup_test

import (
	"cmp"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/agents"
	"jundle/internal/core/campaign"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/rollup"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

// zone is one whose days are not UTC's, and not by whole hours.
const zone = "Asia/Kolkata"

type site struct {
	store  *store.Store
	member store.Member
	page   store.Page
}

// open makes a page with two editions: the first shows a, the second a and b.
func open(t *testing.T) site {
	t.Helper()
	s := site{store: storetest.New(t)}
	var err error
	s.member, err = s.store.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay",
		Zone: zone,
	}, now)
	require.NoError(t, err)
	pages, err := s.store.Pages(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	s.page = pages[0]
	s.publish(t)
	return s
}

// publish makes the two editions.
func (s *site) publish(t *testing.T) {
	t.Helper()
	var err error
	doc := page.New()
	for _, key := range []string{"a", "b"} {
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: key, Kind: "button", Shown: true,
			Button: &page.Button{Title: key, Address: "https://kiln.example/"},
		})
		s.page, err = s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, doc)
		require.NoError(t, err)
		s.page, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, store.Publishing{Revision: s.page.Revision}, now)
		require.NoError(t, err)
	}
}

func (s site) read(t require.TestingT, text string, ctx *testing.T) readings.Reading {
	place, err := time.LoadLocation(zone)
	require.NoError(t, err)
	span, err := readings.ParseSpan(text, now, now, place)
	require.NoError(t, err)
	if text == "7d" {
		span = readings.WithToday(6, now, place)
	}
	reading, err := rollup.Read(ctx.Context(), s.store, s.member.WorkspaceID, s.page.ID, span)
	require.NoError(t, err)
	return reading
}

func (s site) event(at time.Time, visitor string, kind traffic.Kind, from string) store.Event {
	event := store.Event{
		ID: uuid.New(), At: at, EndpointID: s.page.ID, Edition: 2, Kind: kind, Attribution: source.Attribution{
			Source: from,
			By:     source.ByTag,
		}, UserAgent: "Mobile",
	}
	copy(event.Visitor[:], visitor)
	if kind == traffic.Click {
		event.Block, event.Place, event.By = "a", 1, source.Untagged
		event.Source = ""
	}
	return event
}

// slow is the plain count of a stream of events, written from the rules alone:
// it looks at every event again for every question.
type slow struct {
	events []store.Event
	zone   *time.Location
}

func (s slow) same(a, b store.Event) bool {
	return a.Visitor == b.Visitor && a.Kind == b.Kind && a.Block == b.Block && a.Item == b.Item
}

// counts says that nothing flags the event and nothing like it followed in 30 s.
func (s slow) counts(i int) bool {
	if s.events[i].Flags != 0 {
		return false
	}
	for j := i + 1; j < len(s.events); j++ {
		if s.events[j].Flags == 0 && s.same(s.events[i], s.events[j]) {
			return s.events[j].At.Sub(s.events[i].At) > 30*time.Second
		}
	}
	return true
}

// from is the source of an event: a click without a tag has that of the last
// view before it in an unbroken half hour.
func (s slow) from(i int) string {
	if s.events[i].Kind == traffic.View || s.events[i].By == source.ByTag {
		return s.events[i].Source
	}
	until := s.events[i].At
	for j := i - 1; j >= 0; j-- {
		before := s.events[j]
		if before.Visitor != s.events[i].Visitor || before.Flags != 0 {
			continue
		}
		if until.Sub(before.At) > 30*time.Minute {
			break
		}
		if before.Kind == traffic.View {
			return before.Source
		}
		until = before.At
	}
	return s.events[i].Source
}

// starts says whether a counted event begins a visit.
func (s slow) starts(i int) bool {
	for j := i - 1; j >= 0; j-- {
		if s.counts(j) && s.events[j].Visitor == s.events[i].Visitor && s.from(j) == s.from(i) {
			return s.events[i].At.Sub(s.events[j].At) > 30*time.Minute
		}
	}
	return true
}

type counted struct {
	views, clicks, visits map[string]int // by day and source
	left                  map[string]int
}

func (s slow) count() counted {
	c := counted{map[string]int{}, map[string]int{}, map[string]int{}, map[string]int{}}
	slices.SortFunc(s.events, func(a, b store.Event) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID.String(), b.ID.String()))
	})
	for i, event := range s.events {
		key := event.At.In(s.zone).Format(time.DateOnly) + " " + s.from(i)
		switch {
		case !s.counts(i):
			reason := event.Flags.Reason()
			if reason == "" {
				reason = "repeat"
			}
			c.left[reason]++
			continue
		case event.Kind == traffic.View:
			c.views[key]++
		default:
			c.clicks[key]++
		}
		if s.starts(i) {
			c.visits[key]++
		}
	}
	return c
}

func total(counts map[string]int) (n int) {
	for _, each := range counts {
		n += each
	}
	return n
}

// Any stream of events, in any order, in any batches, delivered twice in part and
// summed up in between, ends in the figures of the plain slow count.
func TestHoweverEventsArriveTheFiguresAreThoseOfThePlainCount(t *testing.T) {
	s := open(t)
	place, err := time.LoadLocation(zone)
	require.NoError(t, err)
	round := 0
	rapid.Check(t, func(rt *rapid.T) {
		// Each round has a week of its own.
		round++
		week := time.Date(2020, 1, 6, 0, 0, 0, 0, time.UTC).AddDate(0, 0, 14*round)
		var events []store.Event
		for range rapid.IntRange(1, 30).Draw(rt, "events") {
			at := week.AddDate(0, 0, rapid.IntRange(0, 1).Draw(rt, "day")).Add(18 * time.Hour).
				Add(time.Duration(rapid.SampledFrom([]int{0, 10, 25, 40, 600, 1790, 1810, 3000, 9000}).Draw(rt, "second")) * time.Second).
				Add(time.Duration(rapid.IntRange(0, 20).Draw(rt, "more")) * time.Second)
			visitor := fmt.Sprintf("%d-%d-%d", round, at.Day(), rapid.IntRange(0, 1).Draw(rt, "visitor"))
			event := s.event(at, visitor, rapid.SampledFrom([]traffic.Kind{traffic.View, traffic.Click}).Draw(rt, "kind"),
				rapid.SampledFrom([]string{"loft", "campaign:x", ""}).Draw(rt, "from"))
			event.Flags = rapid.SampledFrom([]traffic.Flags{0, 0, 0, traffic.Own, traffic.Crawler}).Draw(rt, "flags")
			if event.Kind == traffic.Click && rapid.Bool().Draw(rt, "tagged") {
				event.Attribution = source.Attribution{Source: "loft", By: source.ByTag}
			}
			events = append(events, event)
		}
		deliver := append(slices.Clone(events), events[:rapid.IntRange(0, len(events)).Draw(rt, "again")]...)
		deliver = rapid.Permutation(deliver).Draw(rt, "order")
		for len(deliver) > 0 {
			n := rapid.IntRange(1, len(deliver)).Draw(rt, "batch")
			require.NoError(rt, s.store.RecordEvents(t.Context(), deliver[:n]))
			deliver = deliver[n:]
			if rapid.Bool().Draw(rt, "sum up") {
				_, err := rollup.All(t.Context(), s.store, nil)
				require.NoError(rt, err)
			}
		}
		want := slow{events, place}.count()
		got := s.read(rt, week.Format(time.DateOnly)+".."+week.AddDate(0, 0, 3).Format(time.DateOnly), t)
		require.Equal(rt, [3]int{total(want.views), total(want.clicks), total(want.visits)},
			[3]int{got.Total.Views, got.Total.Clicks, got.Total.Visits})
		for _, day := range got.Days {
			for key, visits := range day.VisitsBySource {
				key = map[string]string{readings.Untagged: "", readings.Unlisted: "campaign:x", "loft": "loft"}[key]
				require.Equal(rt, want.visits[day.Date+" "+key], visits, day.Date+" "+key)
			}
		}
		for _, out := range got.LeftOut {
			require.Equal(rt, want.left[out.Reason], out.Views+out.Clicks, out.Reason)
		}
	})
}

func TestAnUnlistedSourceIsAdoptedTogetherWithItsPastVisits(t *testing.T) {
	s := open(t)
	from := func(visitor, key string, at time.Time) store.Event {
		event := s.event(at, visitor, traffic.View, key)
		event.By = source.ByCampaign
		return event
	}
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{
		from("one", "campaign:guild", now),
		from("two", "campaign:guild", now.AddDate(0, 0, -3)), from("three", "campaign:other", now),
	}))
	_, err := rollup.All(t.Context(), s.store, nil)
	require.NoError(t, err)
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{from("four", "campaign:guild", now)}))

	place, err := source.Place{Kind: source.Letter}.Adopting("campaign:guild").Clean()
	require.NoError(t, err)
	adopted, err := s.store.AddSource(t.Context(), s.member.WorkspaceID, s.page.ID,
		store.NewSource{Name: "Potters' guild", Tag: "guild", Place: place, Adopts: "campaign:guild"}, now)
	require.NoError(t, err)
	before := s.read(t, "7d", t)
	assert.Equal(t, 2, before.Recounting, "its days are counted anew, which changes nothing")
	before.Recounting = 0
	assert.Equal(t, 3, before.BySource[adopted.ID.String()].Visits)
	assert.Equal(t, 1, before.BySource[readings.Unlisted].Visits)
	require.Len(t, before.Unlisted, 1)
	assert.Equal(t, "campaign:other", before.Unlisted[0].Key)
	_, err = rollup.All(t.Context(), s.store, nil)
	require.NoError(t, err)
	assert.Equal(t, before, s.read(t, "7d", t))

	sources, err := s.store.Sources(t.Context(), s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	require.NotNil(t, sources[0].SeenAt)
	assert.True(t, sources[0].SeenAt.Equal(now))
	live, err := s.store.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	later := source.NewAttributor(live.Sources, nil).Attribute(source.Evidence{Campaign: campaignOf("guild")}, now)
	assert.Equal(t, adopted.ID.String(), later.Source, "later visits like those go to it")
}

func TestARecountDecidesAnewAndGivesTheSameFiguresTwice(t *testing.T) {
	s := open(t)
	list, err := agents.Load()
	require.NoError(t, err)
	crawler := s.event(now, "one", traffic.View, "")
	crawler.UserAgent, crawler.By = list.Sample(traffic.AgentCrawler), source.Untagged // the list did not know it then
	own := s.event(now, "two", traffic.View, "")
	own.Flags, own.UserAgent = traffic.Own|traffic.Crawler, "Mobile" // the list took it for a crawler then
	tagged := s.event(now, "three", traffic.View, "campaign:old")
	tagged.Tag = "card"
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{crawler, own, tagged}))
	card, err := s.store.AddSource(t.Context(), s.member.WorkspaceID, s.page.ID,
		store.NewSource{Name: "Card", Tag: "card", Place: source.Place{Kind: source.Print}}, now)
	require.NoError(t, err)

	recount := func() (rollup.Recounted, readings.Reading, int) {
		last := 0
		did, err := rollup.Recount(t.Context(), s.store, list, nil, nil, func(done, of int) { last = 100 * done / of })
		require.NoError(t, err)
		return did, s.read(t, "7d", t), last
	}
	did, first, last := recount()
	assert.Equal(t, rollup.Recounted{Days: 1, Changed: 3}, did)
	assert.Equal(t, 100, last, "progress ends at the end")
	assert.Equal(t, 1, first.BySource[card.ID.String()].Visits)
	assert.Equal(t, 1, first.Total.Visits)
	left := map[string]int{}
	for _, out := range first.LeftOut {
		left[out.Reason] = out.Views
	}
	assert.Equal(t, map[string]int{"crawler": 1, "flood": 0, "own": 1, "preview": 0, "prefetch": 0, "repeat": 0}, left)
	did, second, _ := recount()
	assert.Equal(t, rollup.Recounted{Days: 1}, did, "nothing is left to change")
	assert.Equal(t, first, second)
}

func TestRawEventsAreDeletedInTimeAndTheirFiguresStay(t *testing.T) {
	s := open(t)
	old := now.AddDate(0, 0, -40)
	record := func(events ...store.Event) { require.NoError(t, s.store.RecordEvents(t.Context(), events)) }
	record(s.event(old, "one", traffic.View, "loft"), s.event(old.Add(time.Minute), "one", traffic.Click, ""),
		s.event(now, "two", traffic.View, "loft"))
	before := s.read(t, "90d", t)
	require.NoError(t, s.store.KeepDays(t.Context(), s.member.WorkspaceID, 30))

	deleted, err := s.store.Prune(t.Context(), now)
	require.NoError(t, err)
	assert.EqualValues(t, 2, deleted)
	assert.Equal(t, before, s.read(t, "90d", t))

	record(s.event(old, "late", traffic.View, "loft"))
	_, err = rollup.All(t.Context(), s.store, nil)
	require.NoError(t, err)
	assert.Equal(t, before, s.read(t, "90d", t), "nothing makes sums of what is left of a day")
	first, err := s.store.FirstDay(t.Context(), s.member.WorkspaceID, s.page.ID, now)
	require.NoError(t, err)
	assert.Equal(t, "2026-05-01T00:00:00+05:30", first.In(time.FixedZone("", 19800)).Format(time.RFC3339),
		"and the range of all days reaches back to them")
}

func TestEventsOfAnErasedPageStayAway(t *testing.T) {
	s := open(t)
	stray := s.event(now, "one", traffic.View, "loft")
	stray.EndpointID = uuid.New()
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{stray, s.event(now, "two", traffic.View, "loft")}))
	assert.Equal(t, 1, s.read(t, "7d", t).Total.Visits)
}

func campaignOf(name string) campaign.Tags { return campaign.Tags{Source: name} }
