package demo_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/app/pages"
	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/traffic"
	"jundle/internal/demo"
	"jundle/internal/files/filestest"
	"jundle/internal/rollup"
	"jundle/internal/settings"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func TestReadingsFindExactlyWhatTheSimulatorMade(t *testing.T) {
	s := storetest.New(t)
	list, err := agents.Load()
	require.NoError(t, err)
	loaded, fresh, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
	require.NoError(t, err)
	require.True(t, fresh)
	made, err := demo.Simulation{
		Store: s, Agents: list, Loaded: loaded, Address: demo.ClayPage, Begun: now.AddDate(0, 0, -90), Days: 90, Seed: 7,
	}.Run(t.Context())
	require.NoError(t, err)

	workspace, pageID := loaded.Member.WorkspaceID, loaded.Pages[demo.ClayPage].ID
	span, err := readings.ParseSpan("all", now, now.AddDate(0, 0, -91), time.UTC)
	require.NoError(t, err)
	got, err := rollup.Read(t.Context(), s, workspace, pageID, span)
	require.NoError(t, err)
	recounted, err := rollup.Recount(t.Context(), s, list, nil, nil, func(int, int) {})
	require.NoError(t, err)
	assert.GreaterOrEqual(t, recounted.Days, 90)
	assert.Zero(t, recounted.Changed, "the rules are the same")
	again, err := rollup.Read(t.Context(), s, workspace, pageID, span)
	require.NoError(t, err)
	assert.Equal(t, got, again)

	people, err := s.SignUpsBySource(t.Context(), workspace, pageID, span.From(), span.To())
	require.NoError(t, err)
	stayed, truly := 0, 0
	for _, row := range readings.StayedBySource(got, people) {
		stayed += row.Rate.Taken
	}
	for _, count := range made.SignedUp {
		truly += count
	}
	assert.Equal(t, truly, stayed)
	assert.Greater(t, stayed, 50)
	assert.Greater(t, made.Visits, 4000)
	assert.Equal(t, made.Visits, got.Total.Visits)
	assert.Equal(t, made.Clicks, got.Total.Clicks)
	clicks := map[string]int{}
	for _, block := range got.Blocks {
		if block.Total.Clicks > 0 {
			clicks[block.Block] = block.Total.Clicks
		}
	}
	assert.Equal(t, made.ClicksByBlock, clicks)
	left := map[string]int{}
	for _, out := range got.LeftOut {
		left[out.Reason] = out.Views + out.Clicks
	}
	assert.Equal(t, map[string]int{
		"crawler": made.Crawlers, "preview": made.Previews, "prefetch": 0, "own": made.Own, "flood": 0,
		"repeat": made.Repeats,
	}, left)

	sources, err := s.Sources(t.Context(), workspace, pageID)
	require.NoError(t, err)
	for _, source := range sources {
		assert.Equal(t, made.VisitsBySource[source.Name], got.BySource[source.ID.String()].Visits, source.Name)
		assert.NotNil(t, source.SeenAt, source.Name)
	}
	assert.Equal(t, made.VisitsBySource[""], got.BySource[readings.Untagged].Visits)
	byCountry := map[string]int{}
	for _, country := range got.Countries {
		byCountry[country.Value] = country.Visits
	}
	assert.Equal(t, made.VisitsByCountry, byCountry)
	for _, payment := range got.Payment {
		if payment.Value == daily.Paid {
			assert.Equal(t, made.Paid, payment.Visits)
		}
	}
	assert.Positive(t, made.Paid)
	require.Len(t, got.Unlisted, 2)
	for _, place := range got.Unlisted {
		assert.Contains(t, []string{"campaign:potters_guild", "host:claynews.example"}, place.Key)
		assert.Positive(t, place.Figures.Visits)
		assert.Equal(t, made.VisitsBySource[place.Key], place.Figures.Visits, place.Key)
	}
	covered := 0
	for _, evidence := range got.Coverage {
		assert.Positive(t, evidence.Visits, evidence.By)
		covered += evidence.Visits
	}
	assert.Equal(t, made.Visits, covered)
	assert.Equal(t, []int{made.Views, made.Visits, made.Visitors}, []int{got.Total.Views, got.Total.Visits, got.Total.Visitors})
	assert.Greater(t, made.Views, made.Visits, "pages are opened again")
	assert.Greater(t, made.Visits, made.Visitors, "and people come back")
}

func TestAnotherOrderIsAdvisedForTheWorkshopsWhateverTheDay(t *testing.T) {
	list, err := agents.Load()
	require.NoError(t, err)
	for _, day := range []int{0, 1, 3, 5} {
		now := now.AddDate(0, 0, day)
		s := storetest.New(t)
		loaded, _, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
		require.NoError(t, err)
		_, err = demo.Simulation{
			Store: s, Agents: list, Loaded: loaded, Address: demo.WorkshopsPage, Begun: now.AddDate(0, 0, -90), Days: 90, Seed: 20_260_601,
		}.Run(t.Context())
		require.NoError(t, err)
		_, err = rollup.All(t.Context(), s, nil)
		require.NoError(t, err)
		use := pages.Pages{Store: s, Now: func() time.Time { return now }}
		advice, err := use.Advice(t.Context(), loaded.Member.WorkspaceID, loaded.Pages[demo.WorkshopsPage].ID)
		require.NoError(t, err)
		assert.True(t, advice.Offered, "%s: %.2f, %.2f to %.2f", now.Weekday(), advice.Gain, advice.Low, advice.High)
		assert.Contains(t, advice.Order[:2], "handbuil", "the first two places are seen by nearly as many")
	}
}

func TestClicksOnShortLinksAreFoundExactlyAsTheyWereMade(t *testing.T) {
	s := storetest.New(t)
	list, err := agents.Load()
	require.NoError(t, err)
	loaded, _, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
	require.NoError(t, err)
	made, err := demo.Simulation{
		Store: s, Agents: list, Loaded: loaded, Begun: now.AddDate(0, 0, -90), Days: 90,
		Seed: 7,
	}.RunLinks(t.Context())
	require.NoError(t, err)
	rows, err := s.ShortLinks(t.Context(), loaded.Member.WorkspaceID)
	require.NoError(t, err)
	var ids []uuid.UUID
	for _, row := range rows {
		ids = append(ids, row.ID)
	}
	span, err := readings.ParseSpan("all", now, now.AddDate(0, 0, -91), time.UTC)
	require.NoError(t, err)
	read, err := rollup.ReadAll(t.Context(), s, loaded.Member.WorkspaceID, ids, span)
	require.NoError(t, err)
	recounted, err := rollup.Recount(t.Context(), s, list, nil, nil, func(int, int) {})
	require.NoError(t, err)
	assert.Zero(t, recounted.Changed)
	require.Len(t, made, len(rows))
	for _, row := range rows {
		want, got := made[row.Address()], read[row.ID]
		assert.Positive(t, want.Clicks, row.Address())
		assert.Equal(t, want.Clicks, got.Total.Clicks, row.Address())
		byOutcome, byPlace := map[string]int{}, map[string]int{"": got.BySource[readings.Untagged].Clicks}
		for _, block := range got.Blocks {
			byOutcome[block.Block] = block.Total.Clicks
		}
		for _, place := range got.Unlisted {
			byPlace[place.Key] = place.Figures.Clicks
		}
		assert.Equal(t, want.ClicksByBlock, byOutcome, row.Address())
		for key, clicks := range want.VisitsBySource {
			assert.Equal(t, clicks, byPlace[key], row.Address()+" "+key)
		}
	}
}

func TestTheScenarioIsLoadedOnce(t *testing.T) {
	s := storetest.New(t)
	_, fresh, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
	require.NoError(t, err)
	assert.True(t, fresh)
	loaded, fresh, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
	require.NoError(t, err)
	assert.False(t, fresh)
	assert.Len(t, loaded.Pages, 2)
}

// A festival, a school or an office: everybody behind one router. The demo's busiest
// hour, twenty times over, comes from one address.
func TestTwentyTimesTheBusiestHourFromOneAddressIsNoFlood(t *testing.T) {
	s := storetest.New(t)
	list, err := agents.Load()
	require.NoError(t, err)
	loaded, _, err := demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, 90)
	require.NoError(t, err)
	_, err = demo.Simulation{
		Store: s, Agents: list, Loaded: loaded, Address: demo.ClayPage, Begun: now.AddDate(0, 0, -90), Days: 90,
		Seed: 7,
	}.Run(t.Context())
	require.NoError(t, err)
	events, err := s.Events(t.Context(), loaded.Member.WorkspaceID, loaded.Pages[demo.ClayPage].ID, now.AddDate(0, 0, -91),
		now.AddDate(0, 0, 1))
	require.NoError(t, err)
	hours := map[time.Time][]time.Time{}
	for _, event := range events {
		if event.Flags == 0 {
			hours[event.At.Truncate(time.Hour)] = append(hours[event.At.Truncate(time.Hour)], event.At)
		}
	}
	var busiest []time.Time
	for _, hour := range hours {
		if len(hour) > len(busiest) {
			busiest = hour
		}
	}
	var twenty []time.Time
	random := rand.New(rand.NewPCG(20, 20))
	for _, at := range busiest {
		for range 20 { // people, who come when they come within ten minutes of each other
			twenty = append(twenty, at.Add(time.Duration(random.Int64N(int64(10*time.Minute)))))
		}
	}
	slices.SortFunc(twenty, time.Time.Compare)
	set, err := env.ParseAs[settings.Settings]()
	require.NoError(t, err)
	budget := traffic.FloodBudget{PerHour: set.FloodBudget}
	var whole time.Time
	for i, at := range twenty {
		var within bool
		whole, within = budget.Take(whole, at)
		require.True(t, within, "event %d of %d", i, len(twenty))
	}
	t.Logf("the busiest hour has %d events; %d from one address are within the budget of %d", len(busiest), len(twenty), set.FloodBudget)
}
