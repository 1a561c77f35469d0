package studio_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/core/trial"
	"jundle/internal/store"
)

// newTrial tries another title of a button for four weeks.
func newTrial(block string) fields {
	return fields{"kind": "title", "block": block, "variants": []fields{{"title": "See the fire"}}, "days": 28, "worth": 0.02}
}

// tried has visitors of the live page press the button, by the variant that they are shown.
func (b *browser) tried(which string, edition, visits int, rates ...float64) {
	b.t.Helper()
	var events []store.Event
	counts, page := make([]float64, len(rates)), uuid.MustParse(b.pageID())
	for i := range visits {
		visitor := traffic.VisitorKey(uuid.New())
		variant := trial.Share(which, visitor[:], len(rates))
		at := b.now.Add(time.Duration(i) * time.Second)
		view := store.Event{
			ID: uuid.New(), At: at, EndpointID: page, Edition: edition, Kind: traffic.View, Visitor: visitor,
			UserAgent: "Mozilla/5.0",
		}
		events = append(events, view)
		if counts[variant] += rates[variant]; counts[variant] >= 1 {
			counts[variant]--
			view.ID, view.At, view.Kind, view.Block = uuid.New(), at.Add(time.Second), traffic.Click, "film"
			events = append(events, view)
		}
	}
	require.NoError(b.t, b.store.RecordEvents(b.t.Context(), events))
}

func (b *browser) published(title string) {
	b.t.Helper()
	saved := b.send("PUT", b.page()+"/draft", draft(b.revision(), button("film", title, "https://film.example/"),
		button("sale", "Sale", "https://kiln.example/sale"), button("seat", "A seat", "https://kiln.example/seat")))
	require.Equal(b.t, http.StatusOK, saved.status, saved.detail())
	require.Equal(b.t, http.StatusOK, b.send("POST", b.page()+"/publish", fields{"revision": b.revision()}).status)
}

func (b *browser) revision() int { return int(b.send("GET", b.page(), nil).body["revision"].(float64)) }

func (b *browser) liveEdition() int {
	return int(b.send("GET", b.page(), nil).body["liveEdition"].(float64))
}

func TestATrialRunsToItsEndAndItsWinnerIsPutInPlace(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	refused := ilse.send("POST", ilse.page()+"/trials", newTrial("film"))
	assert.Contains(t, refused.detail(), "Publish the page first")
	ilse.published("The film")
	at := ilse.page() + "/trials"
	plan := ilse.send("POST", ilse.page()+"/trial-plans", newTrial("film"))
	assert.InDelta(t, 1, plan.body["findable"], 0, "without visits nothing would be found")
	begun := ilse.send("POST", at, newTrial("film"))
	require.Equal(t, http.StatusCreated, begun.status, begun.detail())
	which := begun.list[0]["id"].(string)
	assert.Equal(t, "The film", begun.list[0]["title"], "for members who only read, too, and get no working copy")
	edition := ilse.liveEdition()
	assert.Equal(t, 2, edition, "it is live at once")
	assert.Contains(t, ilse.send("POST", at, newTrial("film")).detail(), "One trial runs on this page already")

	ilse.tried(which, edition, 400, 0.10, 0.14)
	result := func() map[string]any { return ilse.send("GET", at, nil).list[0]["result"].(map[string]any) }
	assert.Equal(t, "notYet", result()["verdict"])
	for range 8 {
		ilse.now = ilse.now.Add(24 * time.Hour)
		ilse.tried(which, edition, 1500, 0.10, 0.15)
	}
	assert.Equal(t, "early", result()["verdict"], "clear, and before two whole weeks")
	for range 6 {
		ilse.now = ilse.now.Add(24 * time.Hour)
		ilse.tried(which, edition, 100, 0.10, 0.15)
	}
	assert.Equal(t, "better", result()["verdict"])
	assert.EqualValues(t, 1, result()["best"])
	recent := ilse.send("GET", at, nil).list[0]["arms"].([]any)[1].(map[string]any)["lastWeek"].(map[string]any)
	assert.Less(t, recent["low"], recent["high"], "the last seven days stand beside the whole")
	arms := ilse.send("GET", at, nil).list[0]["arms"].([]any)
	sum := 0.0
	for _, arm := range arms {
		sum += arm.(map[string]any)["rate"].(map[string]any)["of"].(float64)
	}
	assert.InDelta(t, 13_000, sum, 0, "every visit is of one variant")

	chosen := ilse.send("POST", at+"/"+which+"/choice", fields{"variant": 1})
	require.Equal(t, http.StatusOK, chosen.status, chosen.detail())
	assert.Equal(t, "chosen", chosen.list[0]["ending"])
	page := ilse.send("GET", ilse.page(), nil).body
	first := page["document"].(map[string]any)["blocks"].([]any)[0].(map[string]any)
	assert.Equal(t, "See the fire", first["button"].(map[string]any)["title"])
	live, err := ilse.store.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	assert.Equal(t, "See the fire", live.Document.Blocks[0].Button.Title)
	assert.Nil(t, live.Document.Trial)
	assert.Equal(t, http.StatusNotFound, ilse.send("POST", at+"/"+which+"/choice", fields{"variant": 1}).status, "once")
}

func TestAVariantPutInPlaceCanBeTakenBackForAMinute(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	at := ilse.page() + "/trials"
	which := ilse.send("POST", at, newTrial("film")).list[0]["id"].(string)
	before := ilse.send("GET", ilse.page(), nil).body["document"]
	put := func() {
		t.Helper()
		chosen := ilse.send("POST", at+"/"+which+"/choice", fields{"variant": 1})
		require.Equal(t, http.StatusOK, chosen.status, chosen.detail())
	}
	put()
	undone := ilse.send("DELETE", at+"/"+which+"/choice", nil)
	require.Equal(t, http.StatusOK, undone.status, undone.detail())
	assert.Equal(t, true, undone.list[0]["runs"], "the trial goes on")
	page := ilse.send("GET", ilse.page(), nil).body
	assert.Equal(t, before, page["document"])
	assert.Empty(t, page["changes"], "nothing waits")
	live, err := ilse.store.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	assert.Equal(t, "The film", live.Document.Blocks[0].Button.Title)
	require.NotNil(t, live.Document.Trial)
	assert.Equal(t, which, live.Document.Trial.ID)
	assert.Equal(t, http.StatusNotFound, ilse.send("DELETE", at+"/"+which+"/choice", nil).status, "there is nothing to undo any more")

	put()
	ilse.now = ilse.now.Add(2 * time.Minute)
	assert.Equal(t, http.StatusNotFound, ilse.send("DELETE", at+"/"+which+"/choice", nil).status, "too late")

	ilse.published("The film, again")
	which = ilse.send("POST", at, newTrial("film")).list[0]["id"].(string)
	put()
	ilse.published("Changed since")
	refused := ilse.send("DELETE", at+"/"+which+"/choice", nil)
	assert.Contains(t, refused.detail(), "The page was changed since")
	assert.Equal(t, "chosen", ilse.send("GET", at, nil).list[0]["ending"])
}

func TestATrialEndsWhenWhatIsTriedIsChangedAndGoesOnOtherwise(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	at := ilse.page() + "/trials"
	require.Equal(t, http.StatusCreated, ilse.send("POST", at, newTrial("film")).status)
	doc := ilse.send("GET", ilse.page(), nil).body["document"].(map[string]any)
	doc["header"].(map[string]any)["name"] = "Quarrow Clay and Fire"
	require.Equal(t, http.StatusOK, ilse.send("PUT", ilse.page()+"/draft", fields{"revision": ilse.revision(), "document": doc}).status)
	require.Equal(t, http.StatusOK, ilse.send("POST", ilse.page()+"/publish", fields{"revision": ilse.revision()}).status)
	assert.Equal(t, true, ilse.send("GET", at, nil).list[0]["runs"], "another change leaves it alone")
	ilse.published("Forty hours")
	over := ilse.send("GET", at, nil).list[0]
	assert.Equal(t, false, over["runs"])
	assert.Equal(t, "changed", over["ending"])
}

func TestATrialThatRanOutMakesRoomForAnother(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	at := ilse.page() + "/trials"
	require.Equal(t, http.StatusCreated, ilse.send("POST", at, newTrial("film")).status)
	ilse.now = ilse.now.AddDate(0, 0, 28)
	assert.Equal(t, false, ilse.send("GET", at, nil).list[0]["runs"])
	order := fields{"kind": "order", "variants": []fields{{"order": []string{"sale", "film"}}}, "days": 14, "worth": 0.02}
	begun := ilse.send("POST", at, order)
	require.Equal(t, http.StatusCreated, begun.status, begun.detail())
	assert.Len(t, begun.list, 2)
	place := fields{"kind": "place", "block": "seat", "variants": []fields{{"place": 1}, {"place": 3}}, "days": 14, "worth": 0.02}
	assert.Contains(t, fmt.Sprint(ilse.send("POST", ilse.page()+"/trial-plans", place).body), "the same as another, or as the page is")
}
