package studio_test

import (
	"net/http"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func withKey(key string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set("Idempotency-Key", key) }
}

func newLink(name string) fields {
	return fields{"link": fields{
		"destination": "https://kiln.example/" + name, "name": name, "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}}
}

func TestAPressThatIsRepeatedIsDoneOnce(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	var pressed sync.WaitGroup
	var mu sync.Mutex
	made := map[string]bool{}
	for range 10 {
		pressed.Go(func() {
			got := ilse.send("POST", "/api/short-links", newLink("dates"), withKey("press-1"))
			require.Less(t, got.status, 300, "%v", got.body)
			mu.Lock()
			defer mu.Unlock()
			made[got.body["id"].(string)] = true
		})
	}
	pressed.Wait()
	assert.Len(t, made, 1, "all get the answer of the first")
	assert.Len(t, ilse.send("GET", "/api/short-links", nil).list, 1)

	assert.Less(t, ilse.send("POST", "/api/short-links", newLink("sale"), withKey("press-2")).status, 300)
	assert.Len(t, ilse.send("GET", "/api/short-links", nil).list, 2, "another key is another press")
	other := ilse.send("POST", "/api/short-links", newLink("film"), withKey("press-1"))
	assert.Equal(t, http.StatusUnprocessableEntity, other.status)
	assert.Contains(t, other.detail(), "belongs to another request")
	assert.Less(t, rolf.send("POST", "/api/short-links", newLink("dates"), withKey("press-1")).status, 300, "nobody else's key is known")
	assert.Len(t, rolf.send("GET", "/api/short-links", nil).list, 1)

	page := ilse.pageID()
	for range 2 {
		got := ilse.send("POST", "/api/pages/"+page+"/sources", fields{"name": "Printed card"}, withKey("press-3"))
		assert.Less(t, got.status, 300, "%v", got.body)
	}
	assert.Len(t, ilse.send("GET", "/api/pages/"+page+"/sources", nil).list, 1)
}

func TestARefusalIsRepeatedAndASecretIsNot(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	for range 2 {
		refused := ilse.send("POST", "/api/short-links", newLink("a b"), withKey("wrong"))
		assert.Contains(t, []int{http.StatusUnprocessableEntity, http.StatusOK, http.StatusCreated}, refused.status)
	}
	first := ilse.send("POST", "/api/webhooks", newWebhook(), withKey("hook"))
	require.Less(t, first.status, 300, "%v", first.body)
	again := ilse.send("POST", "/api/webhooks", newWebhook(), withKey("hook"))
	assert.Equal(t, http.StatusConflict, again.status)
	assert.Contains(t, again.detail(), "done once")
	assert.Len(t, ilse.send("GET", "/api/webhooks", nil).list, 1)
}
