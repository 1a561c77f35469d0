package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatTakesThePlaceOfAPageIsListedUntilItIsOver(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	saved := ilse.send("PUT", at+"/draft", draft(1, button("sale", "Seconds sale", "https://kiln.example/sale")))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": 2}).status)

	began := ilse.send("POST", at+"/takeovers", fields{"solo": "sale", "until": b.now.Add(2 * time.Hour)})
	require.Equal(t, http.StatusCreated, began.status, "%v", began.body)
	assert.Equal(t, 2.0, began.body["liveEdition"])
	assert.Equal(t, 2.0, began.body["revision"])
	assert.Empty(t, began.body["changes"], "nothing waits because of it")
	listed := func(of answer) []any { return of.body["takeovers"].([]any) }
	solo := listed(began)[0].(map[string]any)
	assert.Equal(t, true, solo["on"])
	assert.Equal(t, true, solo["shows"])

	start := b.now
	b.now = start.Add(time.Minute)
	took := ilse.send("GET", at+"/readings?range=7d", nil).body["took"].([]any)
	require.Len(t, took, 1)
	assert.Equal(t, "sale", took[0].(map[string]any)["solo"])

	later := ilse.send("POST", at+"/takeovers", fields{"passThrough": "kiln.example/film", "from": b.now.Add(72 * time.Hour)})
	require.Equal(t, http.StatusCreated, later.status, "%v", later.body)
	straight := listed(later)[1].(map[string]any)
	assert.Equal(t, false, straight["on"])
	seen := ilse.send("GET", at+"/seen?at="+b.now.Add(73*time.Hour).Format(time.RFC3339), nil)
	assert.Equal(t, "https://kiln.example/film", seen.body["passThrough"])
	assert.Equal(t, http.StatusNotFound, rolf.send("DELETE", at+"/takeovers/"+straight["id"].(string), nil).status)
	b.now = start.Add(2 * time.Hour)
	assert.Len(t, listed(ilse.send("GET", at, nil)), 1, "the solo is over by itself")
	assert.Empty(t, listed(ilse.send("DELETE", at+"/takeovers/"+straight["id"].(string), nil)), "and the other is called off")
	assert.Equal(t, http.StatusNotFound, ilse.send("DELETE", at+"/takeovers/"+straight["id"].(string), nil).status)

	took = ilse.send("GET", at+"/readings?range=7d", nil).body["took"].([]any)
	require.Len(t, took, 1, "what was called off before it began was never on")
	assert.Equal(t, b.now.Format(time.RFC3339), took[0].(map[string]any)["until"])

	refused := ilse.send("POST", at+"/takeovers", fields{"passThrough": "https://pages.example/Quarrow-Clay?utm_source=x"})
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "in a circle")
	refused = ilse.send("POST", at+"/takeovers", fields{"solo": "gone"})
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "leads somewhere")
	for n := range 11 {
		refused = ilse.send("POST", at+"/takeovers", fields{"solo": "sale", "from": b.now.Add(time.Duration(n+1) * time.Hour)})
	}
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "There can be 10 of these on a page")
}
