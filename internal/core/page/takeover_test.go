package page_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
)

// ofButtons is a page with buttons of those keys.
func ofButtons(keys ...string) page.Document {
	doc := page.New()
	for _, key := range keys {
		doc.Blocks = append(doc.Blocks, timed(key, page.Showing{}))
	}
	return doc
}

func keysOf(placed []page.Placed) (keys []string) {
	for _, block := range placed {
		keys = append(keys, block.Key)
	}
	return keys
}

func TestABlockStandsAloneForAWhileAndForItsSources(t *testing.T) {
	doc := ofButtons("dates", "sale", "glaze")
	doc.Blocks[1].When = fromTo(-time.Hour, 4*time.Hour)
	doc.Takeovers = []page.Takeover{
		{ID: "a", Solo: "sale", From: noon, Until: noon.Add(2 * time.Hour), To: &page.SourceRule{Rule: "but", Sources: []string{"card"}}},
		{ID: "b", Solo: "glaze", From: noon.Add(time.Hour), Until: noon.Add(90 * time.Minute)},
		{ID: "c", Solo: "sale", From: noon.Add(5 * time.Hour)},
		{ID: "d", Solo: "gone", From: noon},
	}
	all := []string{"dates", "sale", "glaze"}
	for _, c := range []struct {
		at     time.Duration
		source string
		want   []string
		why    string
	}{
		{-time.Minute, "", all, "it has not begun"},
		{0, "", []string{"sale"}, "it begins"},
		{0, "card", all, "not for those from the card"},
		{time.Hour, "", []string{"glaze"}, "what was set last wins"},
		{time.Hour, "card", []string{"glaze"}, "for all"},
		{90 * time.Minute, "", []string{"sale"}, "the one before is on again"},
		{2 * time.Hour, "", all, "what was there is back"},
		{5 * time.Hour, "", []string{"dates", "glaze"}, "a block that does not show itself cannot stand alone"},
	} {
		to := audience.Audience{At: noon.Add(c.at), Source: c.source}
		assert.Equal(t, c.want, keysOf(doc.Visible(to)), "%s %s: %s", c.at, c.source, c.why)
	}
	to := audience.Audience{At: noon}
	placed, found := doc.Targets(to).Find("sale", "")
	assert.True(t, found)
	assert.Equal(t, 1, placed.Place)
	placed, found = doc.Targets(to).Find("dates", "")
	assert.True(t, found)
	assert.False(t, placed.Off, "a tab that was opened before still leads")
}

func TestThePagesAddressLeadsStraightToAnotherForAWhile(t *testing.T) {
	doc := ofButtons("dates")
	doc.Takeovers = []page.Takeover{
		{ID: "a", PassThrough: &page.PassThrough{Address: "https://kiln.example/film"}, From: noon, Until: noon.Add(time.Hour)},
		{
			ID: "b", PassThrough: &page.PassThrough{Address: "https://kiln.example/card"}, From: noon.Add(-time.Hour),
			To: &page.SourceRule{Rule: "only", Sources: []string{"card"}},
		},
	}
	for _, c := range []struct {
		at           time.Duration
		source, want string
	}{
		{-time.Second, "", ""},
		{-time.Second, "card", "https://kiln.example/card"},
		{0, "", "https://kiln.example/film"},
		{0, "card", "https://kiln.example/card"},
		{time.Hour, "", ""},
		{time.Hour, "card", "https://kiln.example/card"},
	} {
		got := ""
		if straight := doc.PassThrough(audience.Audience{At: noon.Add(c.at), Source: c.source}); straight != nil {
			got = straight.Address
		}
		assert.Equal(t, c.want, got, "%s from %q", c.at, c.source)
	}
	var led []string
	doc.Links(func(link page.Link) { led = append(led, *link.Address) })
	assert.Contains(t, led, "https://kiln.example/film", "it is a destination like any other")
}

func TestATakeoverIsPutInOrderOrRefusedInWords(t *testing.T) {
	doc := ofButtons("dates")
	doc.Blocks = append(doc.Blocks, page.Block{Key: "head", Kind: "heading", Shown: true, Heading: &page.Heading{Text: "Pots"}})
	now := noon.Add(20 * time.Second)
	tidied, err := page.Takeover{Solo: "dates", From: noon.Add(-time.Hour), Until: noon.Add(time.Hour + time.Second)}.Tidy(doc, now)
	require.NoError(t, err)
	assert.Equal(t, page.Takeover{Solo: "dates", From: noon, Until: noon.Add(time.Hour)}, tidied, "it begins now, at full minutes")
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	assert.Equal(t, "“Seconds sale” stands alone from 1 Jun 2026 13:00 until 1 Jun 2026 14:00.", tidied.String(doc, lisbon))
	assert.Equal(t, "“Seconds sale” no longer stands alone.", tidied.Ended(doc))
	straight, err := page.Takeover{
		PassThrough: &page.PassThrough{Address: "kiln.example/film", DestinationID: "anything"},
		To:          &page.SourceRule{Rule: "only", Sources: []string{"card"}},
	}.Tidy(doc, now)
	require.NoError(t, err)
	assert.Equal(t, &page.PassThrough{Address: "https://kiln.example/film"}, straight.PassThrough)
	assert.Equal(t, "The page's address leads straight to https://kiln.example/film from 1 Jun 2026 12:00 to visitors from 1 source only.",
		straight.String(doc, time.UTC))
	assert.Equal(t, "The page's address no longer leads straight to https://kiln.example/film.", straight.Ended(doc))

	for _, c := range []struct {
		takeover  page.Takeover
		where, is string
	}{
		{page.Takeover{}, "", "Choose a block"},
		{page.Takeover{Solo: "dates", PassThrough: &page.PassThrough{Address: "https://kiln.example"}}, "", "Choose a block"},
		{page.Takeover{Solo: "gone"}, "solo", "leads somewhere"},
		{page.Takeover{Solo: "head"}, "solo", "leads somewhere"},
		{page.Takeover{Solo: "dates", Until: noon}, "until", "over before it begins"},
		{page.Takeover{Solo: "dates", From: noon.AddDate(2, 0, 0)}, "from", "within a year"},
		{page.Takeover{Solo: "dates", Until: noon.AddDate(2, 0, 0)}, "until", "last a year"},
		{page.Takeover{PassThrough: &page.PassThrough{Address: "javascript:alert(1)"}}, "passThrough/address", "https"},
		{page.Takeover{PassThrough: &page.PassThrough{Address: "mailto:ilse@quarrow.example"}}, "passThrough/address", "web page only"},
		{page.Takeover{Solo: "dates", To: &page.SourceRule{Rule: "some", Sources: []string{"card"}}}, "to/rule", "no rule"},
	} {
		_, err := c.takeover.Tidy(doc, now)
		var wrong *invalid.Error
		require.ErrorAs(t, err, &wrong, c.is)
		assert.Equal(t, c.where, wrong.Problems[0].Where)
		assert.Contains(t, wrong.Problems[0].Message, c.is)
	}
}

func TestWhenATakeoverWasOnGoesByTheEditionsThatHadIt(t *testing.T) {
	hour := func(n int) time.Time { return noon.Add(time.Duration(n) * time.Hour) }
	solo := page.Takeover{ID: "a", Solo: "sale", From: hour(0), Until: hour(5)}
	later := page.Takeover{ID: "b", Solo: "glaze", From: hour(20)}
	editions := []page.LiveTakeovers{
		{From: hour(0).Add(20 * time.Second), Until: hour(1), Takeovers: []page.Takeover{solo}},
		{From: hour(1), Until: hour(3), Takeovers: []page.Takeover{solo, later}}, // something else was published
		{From: hour(6), Until: hour(30), Takeovers: []page.Takeover{later}},
		{From: hour(31), Takeovers: []page.Takeover{{ID: "c", Solo: "sale", From: hour(40)}}},
	}
	ended, pressed := solo, later
	ended.Until, pressed.Until = hour(3), hour(30)
	assert.Equal(t, []page.Takeover{ended, pressed, {ID: "c", Solo: "sale", From: hour(40)}}, page.Took(editions, hour(0), hour(100)))
	assert.Equal(t, []page.Takeover{pressed}, page.Took(editions, hour(10), hour(35)))
	assert.Empty(t, page.Took(editions, hour(-5), hour(0)))
	assert.Empty(t, page.Took(editions[1:2], hour(0), hour(2))[1:], "what was called off before it began")
}

func TestTakeoversAreNotSavedWithTheWorkingCopy(t *testing.T) {
	doc := ofButtons("dates")
	doc.Takeovers = []page.Takeover{{ID: "a", Solo: "dates", From: noon}}
	tidied, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Empty(t, tidied.Takeovers)
	assert.True(t, page.SameAs(doc, ofButtons("dates")))
	assert.False(t, page.SameAs(doc, ofButtons("sale")))
}

// anyPage draws a page with windows, rules, times of its own and takeovers.
func anyPage(t *rapid.T) page.Document {
	doc := page.New()
	hour := func(label string) time.Duration {
		return time.Duration(rapid.IntRange(-60, 60).Draw(t, label)) * time.Hour
	}
	span := func(label string) (from, to time.Duration) {
		from = hour(label)
		return from, from + time.Duration(rapid.IntRange(1, 60).Draw(t, label+" for"))*time.Hour
	}
	rule := func(label string) *page.SourceRule {
		return rapid.SampledFrom([]*page.SourceRule{
			nil, nil, {Rule: "only", Sources: []string{"card"}}, {Rule: "but", Sources: []string{"card"}},
		}).Draw(t, label)
	}
	keys := []string{"aaaa", "bbbb", "cccc"}
	for _, key := range keys {
		showing := page.Showing{To: rule("to")}
		if rapid.Bool().Draw(t, "timed") {
			showing.When = fromTo(span("block"))
		}
		block := timed(key, showing)
		block.Shown = rapid.Float64().Draw(t, "shown") < 0.8
		doc.Blocks = append(doc.Blocks, block)
	}
	if rapid.Float64().Draw(t, "page timed") < 0.3 {
		doc.When = fromTo(span("page"))
	}
	for i := range rapid.IntRange(0, 3).Draw(t, "takeovers") {
		from, to := span("takeover")
		takeover := page.Takeover{ID: fmt.Sprint(i), From: noon.Add(from), To: rule("takeover to")}
		if rapid.Bool().Draw(t, "ends") {
			takeover.Until = noon.Add(to)
		}
		if rapid.Float64().Draw(t, "straight") < 0.3 {
			takeover.PassThrough = &page.PassThrough{Address: "https://kiln.example/film"}
		} else {
			takeover.Solo = rapid.SampledFrom(append(keys, "gone")).Draw(t, "solo")
		}
		doc.Takeovers = append(doc.Takeovers, takeover)
	}
	return doc
}

func anyAudience(t *rapid.T) audience.Audience {
	return audience.Audience{
		At:     noon.Add(time.Duration(rapid.IntRange(-130*60, 130*60).Draw(t, "minutes")) * time.Minute),
		Source: rapid.SampledFrom([]string{"", "card", "loft"}).Draw(t, "source"),
	}
}

func TestReachGoesByWhatThePageShows(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc, to := anyPage(t), anyAudience(t)
		want := []string{}
		switch {
		case doc.PassThrough(to) != nil:
			want = append(want, page.PassThroughKey)
		case doc.IsOpen(to.At):
			want = append(want, keysOf(doc.Visible(to))...)
		}
		require.Equal(t, want, doc.Timetable().Keys(to))
		if doc.Timetable().IsConstant() {
			require.Equal(t, want, doc.Timetable().Keys(audience.Audience{}))
		}
	})
}

func TestNothingChangesBeforeItIsForeseenWhateverTakesThePlaceOfThePage(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc, now := anyPage(t), anyAudience(t)
		within := func(label string, until time.Time) audience.Audience {
			later := time.Duration(rapid.Int64Range(0, int64(until.Sub(now.At))-1).Draw(t, label))
			return audience.Audience{At: now.At.Add(later), Source: now.Source}
		}
		later := within("shown", doc.Next(now.At))
		require.Equal(t, doc.Visible(now), doc.Visible(later))
		require.Equal(t, doc.IsOpen(now.At), doc.IsOpen(later.At))
		require.Equal(t, doc.PassThrough(now), doc.PassThrough(later))
		require.Equal(t, doc.Targets(now), doc.Targets(within("pressable", doc.NextTargets(now.At))))
		require.Equal(t, doc.Timetable().Keys(now), doc.Timetable().Keys(within("reached", doc.Timetable().Next(now.At))))
	})
}

func TestOnceASoloIsOverThePageIsWhatItWas(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc := anyPage(t)
		before := doc
		before.Takeovers = slices.Clone(doc.Takeovers)
		solo := page.Takeover{
			ID: "solo", Solo: rapid.SampledFrom([]string{"aaaa", "bbbb", "cccc"}).Draw(t, "alone"), From: noon, Until: noon.Add(24 * time.Hour),
		}
		doc.Takeovers = append(doc.Takeovers, solo)
		to := anyAudience(t)
		if solo.Holds(to) {
			visible := keysOf(doc.Visible(to))
			if slices.Contains(keysOf(before.Visible(audience.Audience{At: to.At, Source: to.Source})), solo.Solo) {
				require.Equal(t, []string{solo.Solo}, visible)
			}
			return
		}
		require.Equal(t, before.Visible(to), doc.Visible(to))
		require.Equal(t, before.Timetable().Keys(to), doc.Timetable().Keys(to))
	})
}
