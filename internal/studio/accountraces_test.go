package studio_test

import (
	"net/http"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// atOnce does something eight times at once, and counts how often it went well.
func atOnce(do func() bool) int {
	var well atomic.Int64
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() {
			if do() {
				well.Add(1)
			}
		})
	}
	all.Wait()
	return int(well.Load())
}

func TestWhatOpensSomethingOpensItOnceHoweverManyTryAtOnce(t *testing.T) {
	b := open(t)
	require.Equal(t, http.StatusAccepted, b.browser().send("POST", "/api/sign-up", fields{
		"email": ilses, "pageAddress": "quarrow-clay", "zone": "UTC",
	}).status)
	token := b.token(ilses)
	assert.Equal(t, 1, atOnce(func() bool {
		sent := fields{"token": token, "password": password, "pageAddress": "quarrow-clay"}
		return b.browser().send("POST", "/api/accounts", sent).status == http.StatusOK
	}), "an account")

	ilse := b.browser()
	require.Equal(t, http.StatusOK, ilse.signIn(ilses, password, "").status)
	secret := ilse.send("POST", "/api/account/second-factor/secret", nil).body["secret"].(string)
	on := ilse.send("PUT", "/api/account/second-factor", fields{"password": password, "secret": secret, "code": codeOf(t, secret, b.now)})
	require.Equal(t, http.StatusOK, on.status)
	b.now = b.now.Add(time.Minute)
	code := codeOf(t, secret, b.now)
	assert.Equal(t, 1, atOnce(func() bool { return b.browser().signIn(ilses, password, code).status == http.StatusOK }), "a code")
	b.now = b.now.Add(2 * time.Hour)
	recovery := on.body["codes"].([]any)[0].(string)
	assert.Equal(t, 1, atOnce(func() bool { return b.browser().signIn(ilses, password, recovery).status == http.StatusOK }), "a recovery code")

	require.Equal(t, http.StatusAccepted, b.browser().send("POST", "/api/forgotten-password", fields{"email": ilses}).status)
	reset := b.token(ilses)
	assert.Equal(t, 1, atOnce(func() bool {
		return b.browser().send("POST", "/api/new-password", fields{"token": reset, "password": "ash and celadon"}).status == http.StatusNoContent
	}), "a new password")
}

func TestTwoWhoRunAWorkspaceCannotLeaveItAtOnce(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	_, err := b.store.Pool().Exec(t.Context(), "delete from users where email like '%-helper@quarrow.example'")
	require.NoError(t, err)
	rolf := b.join("rolf", ilse, "runs")
	var all sync.WaitGroup
	var left atomic.Int64
	for _, one := range []*browser{ilse.browser, rolf} {
		all.Go(func() {
			if one.send("DELETE", "/api/workspace/membership", nil).status == http.StatusNoContent {
				left.Add(1)
			}
		})
	}
	all.Wait()
	assert.EqualValues(t, 1, left.Load())
}
