package studio_test

import (
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/linkcheck"
)

func TestThePageCheckSaysWhatIsWrongAndWhereAllOfItLeads(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	saved := ilse.send("PUT", at+"/draft", draft(1,
		button("dates", "Kiln opening dates", "https://kiln.example/dates"), button("sale", "Click here", "https://your-site.example/sale")))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	check := func() (kinds []string, stops []any, waiting float64) {
		t.Helper()
		got := ilse.send("GET", at+"/check", nil)
		require.Equal(t, http.StatusOK, got.status, "%v", got.body)
		for _, each := range got.body["findings"].([]any) {
			kinds = append(kinds, each.(map[string]any)["kind"].(string))
		}
		return kinds, got.body["stops"].([]any), got.body["waiting"].(float64)
	}
	kinds, stops, waiting := check()
	assert.Equal(t, []string{"placeholder", "vague"}, kinds)
	assert.Len(t, stops, 2)
	assert.Equal(t, "https://kiln.example/dates", stops[0].(map[string]any)["opens"])
	assert.Equal(t, 2.0, waiting)

	assert.Equal(t, http.StatusNoContent, ilse.send("POST", at+"/check", nil).status)
	due, err := b.store.TakeDueLinks(t.Context(), b.now, 10)
	require.NoError(t, err)
	require.Len(t, due, 2, "they are asked before all others")
	for _, link := range due {
		result := linkcheck.Result{Address: link.Address, Method: "HEAD", Status: http.StatusGone, At: b.now, Failures: 1}
		require.NoError(t, b.store.KeepLinkCheck(t.Context(), link.ID, result, result.Next(0)))
	}
	require.NoError(t, b.store.KeepLinkCheck(t.Context(), uuid.New(), linkcheck.Result{}, b.now), "one that is gone")
	kinds, stops, waiting = check()
	assert.Equal(t, []string{"gone", "placeholder", "vague"}, kinds)
	assert.Equal(t, "There is nothing there any more (410).", stops[0].(map[string]any)["says"])
	assert.Zero(t, waiting)
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/check", nil).status)
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", at+"/check", nil).status)
}
