package traffic_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

const phone = "Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 Mobile"

func event(seconds int, visitor byte, kind traffic.Kind, block, from string) traffic.Event {
	return traffic.Event{
		ID: fmt.Sprintf("%06d", seconds), At: noon.Add(time.Duration(seconds) * time.Second), Kind: kind,
		Block: block, Source: from, Visitor: traffic.VisitorKey{visitor}, Edition: 1,
	}
}

func TestEachReasonNotToCountIsFlagged(t *testing.T) {
	cases := []struct {
		name    string
		signals traffic.Signals
		reason  string
	}{
		{"a person", traffic.Signals{Method: "GET", UserAgent: phone}, ""},
		{"no user agent", traffic.Signals{Method: "GET", UserAgent: " "}, "crawler"},
		{"a listed crawler", traffic.Signals{Method: "GET", UserAgent: "x", Agent: traffic.AgentCrawler}, "crawler"},
		{"a card for a post", traffic.Signals{Method: "GET", UserAgent: "x", Agent: traffic.AgentPreview}, "preview"},
		{"a prefetch", traffic.Signals{Method: "GET", UserAgent: phone, Purpose: []string{"prefetch;prerender"}}, "prefetch"},
		{"an older prefetch", traffic.Signals{Method: "GET", UserAgent: phone, Purpose: []string{"", "Preview"}}, "prefetch"},
		{"only the head", traffic.Signals{Method: "HEAD", UserAgent: phone}, "prefetch"},
		{"a member", traffic.Signals{Method: "GET", UserAgent: phone, Own: true}, "own"},
		{"a crawler that prefetches is left out once", traffic.Signals{Method: "HEAD"}, "crawler"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.reason, traffic.Flag(c.signals).Reason()) })
	}
}

// Source: COUNTER Code of Practice, double-click filtering (worked cases from
// memory):
// within 30 seconds only the last counts, pair by pair, so that three
// presses each within 30 s of the one before count once even when the first and
// the last are further apart; different targets do not touch each other.
func TestTheLatestOfADoublePressIsKept(t *testing.T) {
	cases := []struct {
		name    string
		at      []int
		blocks  string
		visitor string
		counted []bool
	}{
		{"29 s apart", []int{0, 29}, "aa", "11", []bool{false, true}},
		{"30 s apart", []int{0, 30}, "aa", "11", []bool{false, true}},
		{"31 s apart", []int{0, 31}, "aa", "11", []bool{true, true}},
		{"three in a row", []int{0, 20, 40}, "aaa", "111", []bool{false, false, true}},
		{"a pause in between", []int{0, 20, 60}, "aaa", "111", []bool{false, true, true}},
		{"different targets", []int{0, 10, 20}, "aba", "111", []bool{false, true, true}},
		{"different visitors", []int{0, 10}, "aa", "12", []bool{true, true}},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			var events []traffic.Event
			for i, at := range c.at {
				events = append(events, event(at, c.visitor[i], traffic.Click, string(c.blocks[i]), ""))
			}
			traffic.MarkRepeats(events)
			var counted []bool
			for _, event := range events {
				counted = append(counted, event.Counted())
			}
			assert.Equal(t, c.counted, counted)
		})
	}
}

func TestAViewIsNoRepeatOfAClickNorOfSomethingNotCounted(t *testing.T) {
	own := event(5, 1, traffic.View, "", "")
	own.Flags = traffic.Own
	events := []traffic.Event{event(0, 1, traffic.View, "", ""), own, event(6, 1, traffic.Click, "a", "")}
	traffic.MarkRepeats(events)
	assert.True(t, events[0].Counted())
	assert.Equal(t, traffic.Own, events[1].Flags)
}

func TestAVisitEndsAfterHalfAnHourOfNothing(t *testing.T) {
	visits := traffic.Visits([]traffic.Event{
		event(0, 1, traffic.View, "", "loft"), event(60, 1, traffic.Click, "a", "loft"), event(60+1800, 1, traffic.Click, "a", "loft"),
		event(60+3601, 1, traffic.View, "", "loft"),
	})
	assert.Len(t, visits, 2)
	assert.Equal(t, map[string]int{"a": 2}, visits[0].Clicks)
	assert.Equal(t, 1, visits[1].Views)
}

func TestADifferentSourceStartsAVisitOfItsOwn(t *testing.T) {
	visits := traffic.Visits([]traffic.Event{
		event(0, 1, traffic.View, "", "loft"), event(10, 1, traffic.View, "", "card"), event(20, 1, traffic.Click, "a", "loft"), event(30, 2,
			traffic.View, "", "loft"),
	})
	assert.Len(t, visits, 3)
	assert.Equal(t, "loft", visits[0].Source)
	assert.Equal(t, 1, visits[0].Clicks["a"], "the click goes to the visit from its own source")
	assert.Empty(t, visits[1].Clicks)
}

func TestVisitorKeysTellPeopleApartAndNotDays(t *testing.T) {
	salt := traffic.NewSalt([]byte("salt"))
	key := salt.VisitorKey("192.0.2.1", "agent", "pages.example")
	assert.Equal(t, key, salt.VisitorKey("192.0.2.1", "agent", "pages.example"))
	for _, other := range []traffic.VisitorKey{
		traffic.NewSalt([]byte("next day")).VisitorKey("192.0.2.1", "agent", "pages.example"),
		salt.VisitorKey("192.0.2.2", "agent", "pages.example"),
		salt.VisitorKey("192.0.2.1a", "gent", "pages.example"),
	} {
		assert.NotEqual(t, key, other)
	}
}

func TestEveryCountedEventIsInExactlyOneVisit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var events []traffic.Event
		for i := range rapid.IntRange(0, 60).Draw(t, "events") {
			e := event(rapid.IntRange(0, 9000).Draw(t, "at"), byte(rapid.IntRange(1, 3).Draw(t, "visitor")),
				rapid.SampledFrom([]traffic.Kind{traffic.View, traffic.Click}).Draw(t, "kind"), "", rapid.SampledFrom([]string{"", "loft"}).Draw(t,
					"from"))
			e.ID = fmt.Sprint(i)
			if e.Kind == traffic.Click {
				e.Block = rapid.SampledFrom([]string{"a", "b"}).Draw(t, "block")
			}
			events = append(events, e)
		}
		traffic.InOrder(events)
		traffic.MarkRepeats(events)
		counted, inVisits := 0, 0
		for _, e := range events {
			if e.Counted() {
				counted++
			}
		}
		for _, visit := range traffic.Visits(events) {
			inVisits += visit.Views
			for _, clicks := range visit.Clicks {
				inVisits += clicks
			}
		}
		if counted != inVisits {
			t.Fatalf("%d counted, %d in visits", counted, inVisits)
		}
	})
}

func ExampleVisits() {
	events := []traffic.Event{
		event(0, 1, traffic.View, "", "card"),
		event(12, 1, traffic.Click, "dates", "card"),
		event(13, 1, traffic.Click, "dates", "card"), // pressed twice
		event(4000, 1, traffic.View, "", "card"),     // back after an hour
	}
	traffic.MarkRepeats(events)
	for _, visit := range traffic.Visits(events) {
		fmt.Println(visit.Source, visit.Views, visit.Clicks["dates"])
	}
	// Output:
	// card 1 1
	// card 1 0
}

// Source: COUNTER Code of Practice, double-click filtering: the latest of a double press is kept, and so is what it
// brought.
func TestAPressThatIsKeptKeepsItsOwnEvidence(t *testing.T) {
	press := func(id string, after time.Duration, from string, by source.By) traffic.Event {
		return traffic.Event{
			ID: id, At: noon.Add(after), Kind: traffic.Click, Block: "led", Source: from, Evidence: by, Visitor: traffic.VisitorKey{1},
		}
	}
	events := []traffic.Event{
		press("a", 0, "", source.Untagged), press("b", 20*time.Second, "network:Photoloft", source.ByReferrer),
		press("c", 2*time.Minute, "", source.Untagged),
	}
	traffic.MarkRepeats(events)
	traffic.JoinVisits(events)
	assert.Equal(t, []traffic.Flags{traffic.Repeat, 0, 0}, []traffic.Flags{events[0].Flags, events[1].Flags, events[2].Flags})
	assert.Equal(t, []string{"", "network:Photoloft", ""}, []string{events[0].Source, events[1].Source, events[2].Source})
}
