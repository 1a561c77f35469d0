package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/pages"
	"jundle/internal/store"
)

func TestChangesGoLiveByThemselvesAndQuickOnesAreOneEdition(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(1, button("sale", "Sale", "kiln.example/sale"))).status)
	assert.Equal(t, http.StatusNotFound, rolf.send("PUT", at+"/as-edited", fields{"on": true}).status)
	on := ilse.send("PUT", at+"/as-edited", fields{"on": true})
	require.Equal(t, http.StatusOK, on.status, "%v", on.body)
	assert.Equal(t, 1.0, on.body["liveEdition"], "it begins with what waits")
	assert.Empty(t, on.body["changes"])

	for n, title := range []string{"Seconds", "Seconds sale", "Seconds sale, half price"} {
		saved := ilse.send("PUT", at+"/draft", draft(2+n, button("sale", title, "kiln.example/sale")))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
		assert.Equal(t, true, saved.body["asEdited"])
	}
	began := time.Now()
	require.Eventually(
		t,
		func() bool { return len(ilse.send("GET", at, nil).body["changes"].([]any)) == 0 },
		10*time.Second,
		20*time.Millisecond,
	)
	assert.Less(t, time.Since(began), 4*time.Second)
	editions := ilse.send("GET", at+"/editions", nil).list
	require.Len(t, editions, 2, "three quick changes are one edition")
	assert.Equal(t, "quarrow-clay@quarrow.example", editions[0]["by"])

	off := ilse.send("PUT", at+"/as-edited", fields{"on": false})
	assert.Equal(t, false, off.body["asEdited"])
	waits := ilse.send("PUT", at+"/draft", draft(5, button("sale", "Sale", "kiln.example/sale")))
	assert.NotEmpty(t, waits.body["changes"])
	require.NoError(t, pages.Pages{Store: b.store, Now: func() time.Time { return b.now }}.GoLiveDue(t.Context()))
	assert.NotEmpty(t, ilse.send("GET", at, nil).body["changes"], "what is published by hand waits")
}

func TestWhatAProcessDidNotComeToGoesLiveAllTheSameWithinTheLimit(t *testing.T) {
	quotas := store.DefaultQuotas
	quotas.AsEditedPerDay = 2
	b := openWith(t, store.Options{Quotas: quotas})
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	member, err := b.store.MemberByEmail(t.Context(), "quarrow-clay@quarrow.example")
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/as-edited", fields{"on": true}).status)
	due := pages.Pages{Store: b.store, Now: func() time.Time { return b.now }}
	save := func(title string) {
		t.Helper()
		list, err := b.store.Pages(t.Context(), member.WorkspaceID)
		require.NoError(t, err)
		document := list[0].Draft
		document.Header.Name = title
		_, err = b.store.SaveDraft(t.Context(), member.WorkspaceID, list[0].ID, list[0].Revision, document)
		require.NoError(t, err)
		require.NoError(t, due.GoLiveDue(t.Context()))
	}
	live := func() any { return ilse.send("GET", at, nil).body["liveEdition"] }
	save("Quarrow")
	assert.Equal(t, 2.0, live())
	save("Quarrow Clay")
	assert.Equal(t, 2.0, live(), "the first was one of the two of this day")
	published := ilse.send("POST", at+"/publish", fields{"revision": 3})
	assert.Equal(t, http.StatusOK, published.status, "by hand it goes on: %v", published.body)
	b.now = b.now.Add(25 * time.Hour)
	save("Quarrow Clay, and fire")
	assert.Equal(t, 4.0, live())
}
