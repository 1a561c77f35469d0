package page_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func timed(key string, showing page.Showing) page.Block {
	return page.Block{
		Key: key, Kind: "button", Shown: true, Showing: showing,
		Button: &page.Button{Title: "Seconds sale", Address: "https://kiln.example/" + key},
	}
}

func fromTo(from, to time.Duration) *window.Times {
	return &window.Times{Zone: "UTC", Spans: []window.Span{{From: noon.Add(from), To: noon.Add(to)}}}
}

func TestABlockIsShownWhenItIsOnInAWindowAndForItsSources(t *testing.T) {
	only := &page.SourceRule{Rule: "only", Sources: []string{"card"}}
	but := &page.SourceRule{Rule: "but", Sources: []string{"card"}}
	for _, c := range []struct {
		what    string
		showing page.Showing
		to      audience.Audience
		want    bool
	}{
		{"always, to all", page.Showing{}, audience.Audience{At: noon}, true},
		{"in its window", page.Showing{When: fromTo(-time.Hour, time.Hour)}, audience.Audience{At: noon}, true},
		{"at its beginning", page.Showing{When: fromTo(0, time.Hour)}, audience.Audience{At: noon}, true},
		{"at its end", page.Showing{When: fromTo(-time.Hour, 0)}, audience.Audience{At: noon}, false},
		{"only from the card", page.Showing{To: only}, audience.Audience{At: noon, Source: "card"}, true},
		{"only from the card, and from elsewhere", page.Showing{To: only}, audience.Audience{At: noon, Source: "loft"}, false},
		{"only from the card, and from nowhere", page.Showing{To: only}, audience.Audience{At: noon}, false},
		{"to all but the card", page.Showing{To: but}, audience.Audience{At: noon, Source: "card"}, false},
		{"to all but the card, and from nowhere", page.Showing{To: but}, audience.Audience{At: noon}, true},
		{"both have to be so", page.Showing{When: fromTo(time.Hour, 2*time.Hour), To: only}, audience.Audience{At: noon, Source: "card"}, false},
	} {
		block := timed("sale", c.showing)
		assert.Equal(t, c.want, block.ShownTo(c.to), c.what)
		block.Shown = false
		assert.False(t, block.ShownTo(c.to), "%s, and hidden", c.what)
	}
}

func TestWhatChangesAboutShowingIsSaid(t *testing.T) {
	before, after := page.New(), page.New()
	before.Blocks = []page.Block{timed("sale", page.Showing{})}
	said := func(showing page.Showing) (sentences []string) {
		after.Blocks = []page.Block{timed("sale", showing)}
		for _, change := range page.Changes(&before, after) {
			sentences = append(sentences, change.Sentence)
		}
		return sentences
	}
	assert.Empty(t, said(page.Showing{}))
	assert.Equal(t, []string{
		"“Seconds sale” shows 1 Jun 2026 12:00 to 1 Jun 2026 13:00.", "“Seconds sale” is shown to visitors from 2 sources only.",
	}, said(page.Showing{When: fromTo(0, time.Hour), To: &page.SourceRule{Rule: "only", Sources: []string{"card", "loft"}}}))
	before.Blocks = after.Blocks
	assert.Equal(t, []string{
		"“Seconds sale” shows at all times again.", "“Seconds sale” is shown to all again.",
	}, said(page.Showing{}))
	assert.Len(t, said(page.Showing{When: fromTo(0, time.Hour), To: &page.SourceRule{Rule: "only", Sources: []string{"card", "pin"}}}), 1,
		"other sources, though as many")
}

func TestShowingIsPutInOrder(t *testing.T) {
	doc := page.New()
	doc.Blocks = []page.Block{timed("sale", page.Showing{
		When: &window.Times{Zone: "Europe/Lisbon", Spans: []window.Span{{}}}, To: &page.SourceRule{Rule: "only"},
	})}
	tidied, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, page.Showing{}, tidied.Blocks[0].Showing, "what says nothing is dropped")

	doc.Blocks[0].Showing = page.Showing{When: fromTo(time.Hour, 0), To: &page.SourceRule{Rule: "some", Sources: []string{"card"}}}
	_, err = page.Tidy(doc)
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	require.Len(t, wrong.Problems, 2)
	assert.Equal(t, "blocks/0/when/spans/0/to", wrong.Problems[0].Where)
	assert.Equal(t, "blocks/0/to/rule", wrong.Problems[1].Where)
}

func TestAPageHasSoManyTimesInAll(t *testing.T) {
	doc := page.New()
	weekly := window.Weekly{Days: []window.Weekday{"FR"}, From: "10:00", To: "18:00"}
	for i := range 15 {
		doc.Blocks = append(doc.Blocks, timed(string(rune('a'+i))+"aaa", page.Showing{
			When: &window.Times{Zone: "UTC", Weekly: slices.Repeat([]window.Weekly{weekly}, window.MaxWeekly)},
		}))
	}
	_, err := page.Tidy(doc)
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	assert.Contains(t, wrong.Problems[0].Message, "at most 100 windows and weekly times in all; this one would have 105")
	doc.Blocks = doc.Blocks[:14]
	_, err = page.Tidy(doc)
	assert.NoError(t, err)
}

func TestNothingOnAPageChangesBeforeItIsForeseen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc := page.New()
		hours := rapid.IntRange(-80, 80)
		for i := range rapid.IntRange(0, 4).Draw(t, "blocks") {
			from := time.Duration(hours.Draw(t, "from")) * time.Hour
			to := from + time.Duration(rapid.IntRange(1, 60).Draw(t, "for"))*time.Hour
			doc.Blocks = append(doc.Blocks, timed(string(rune('a'+i))+"aaa", page.Showing{When: fromTo(from, to)}))
		}
		to := audience.Audience{At: noon}
		drawn := func(label string, until time.Time) audience.Audience {
			return audience.Audience{At: noon.Add(time.Duration(rapid.Int64Range(0, int64(until.Sub(noon))-1).Draw(t, label)))}
		}
		require.Equal(t, doc.Visible(to), doc.Visible(drawn("visible", doc.Next(noon))))
		require.Equal(t, doc.Targets(to), doc.Targets(drawn("pressable", doc.NextTargets(noon))))
	})
}
