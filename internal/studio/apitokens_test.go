package studio_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/team"
	"jundle/internal/core/webhook"
)

// program is a browser that brings a token and no cookie.
func (b *browser) program(role team.Role, days int) *browser {
	b.t.Helper()
	made := b.send("POST", "/api/api-tokens", fields{"password": password, "name": "Shop", "role": role, "days": days})
	require.Equal(b.t, http.StatusOK, made.status, "%v", made.body)
	one := b.bench.browser()
	one.header = http.Header{"Authorization": {"Bearer " + made.body["token"].(string)}}
	return one
}

func TestAProgramDoesWhatItsTokenMayAndNoMore(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	page := ilse.pageID()
	reads, edits := ilse.program(team.Reads, 30), ilse.program(team.Edits, 30)

	assert.Equal(t, http.StatusOK, reads.send("GET", "/api/pages/"+page+"/readings", nil).status)
	refused := reads.send("PUT", "/api/pages/"+page+"/draft", draft(1))
	assert.Equal(t, http.StatusForbidden, refused.status)
	assert.Equal(t, http.StatusOK, edits.send("PUT", "/api/pages/"+page+"/draft", draft(1)).status)
	for _, of := range []struct{ method, path string }{
		{"GET", "/api/account"},
		{"GET", "/api/api-tokens"},
		{"PUT", "/api/account/password"},
		{"DELETE", "/api/account/sessions"},
		{"GET", "/api/webhooks"},
		{"GET", "/api/members"},
		{"DELETE", "/api/workspace/membership"},
		{"POST", "/api/weekly-letter/send"},
		{"PUT", "/api/weekly-letter"},
		{"GET", "/api/own-phone"},
	} {
		assert.Equal(t, http.StatusForbidden, edits.send(of.method, of.path, nil).status, of.path)
	}

	journal := ilse.send("GET", "/api/journal", nil).list
	var who []any
	for _, entry := range journal {
		who = append(who, entry["who"])
	}
	assert.Contains(t, who, ilses+", by “Shop”")
	tokens := ilse.send("GET", "/api/api-tokens", nil).list
	require.Len(t, tokens, 2)
	assert.NotEmpty(t, tokens[0]["usedAt"])
	assert.NotContains(t, tokens[0], "token", "it is shown once")

	require.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/api-tokens/"+tokens[0]["id"].(string), nil).status)
	ended := edits.send("GET", "/api/pages", nil)
	assert.Equal(t, http.StatusUnauthorized, ended.status)
	assert.Contains(t, ended.detail(), "This token does not hold")
	assert.Equal(t, http.StatusOK, reads.send("GET", "/api/pages", nil).status, "the other goes on")
	b.now = b.now.AddDate(0, 0, 31)
	assert.Equal(t, http.StatusUnauthorized, reads.send("GET", "/api/pages", nil).status, "it is over")
}

func TestATokenIsMadeWithAPasswordAndEndsWithItsOwnersMembership(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	rolf := b.join("rolf", ilse, team.Edits)
	wrong := rolf.send("POST", "/api/api-tokens", fields{"password": "clay", "name": "Shop", "role": "reads", "days": 30})
	assert.Equal(t, http.StatusUnprocessableEntity, wrong.status, "%v", wrong.body)
	program := rolf.program(team.Edits, 30)
	assert.Equal(t, http.StatusOK, program.send("GET", "/api/pages/"+ilse.ids["page"], nil).status)

	members := ilse.send("GET", "/api/members", nil).list
	for _, member := range members {
		if member["email"] == "rolf@quarrow.example" {
			changed := ilse.send("PUT", "/api/members/"+member["id"].(string), fields{"role": "reads", "whole": true, "pages": []string{}})
			require.Less(t, changed.status, 300, "%v", changed.body)
			assert.Equal(t, http.StatusForbidden, program.send("PUT", "/api/pages/"+ilse.ids["page"]+"/draft", draft(9)).status,
				"a token may no more than its owner")
			require.Less(t, ilse.send("DELETE", "/api/members/"+member["id"].(string), nil).status, 300)
		}
	}
	assert.Equal(t, http.StatusUnauthorized, program.send("GET", "/api/pages/"+ilse.ids["page"], nil).status)
}

func TestHeaderFieldsSayWhatIsLeft(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	program := ilse.program(team.Reads, 30)
	first := program.send("GET", "/api/pages", nil)
	assert.Equal(t, `"requests";q=300;w=15`, first.header.Get("RateLimit-Policy"))
	assert.Equal(t, `"requests";r=299;t=1`, first.header.Get("RateLimit"))
	last := first
	for range 299 {
		last = program.send("GET", "/api/pages", nil)
	}
	assert.Equal(t, `"requests";r=0;t=15`, last.header.Get("RateLimit"))
	refused := program.send("GET", "/api/pages", nil)
	assert.Equal(t, http.StatusTooManyRequests, refused.status)
	assert.NotEmpty(t, refused.header.Get("Retry-After"))
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/api/pages", nil).status, "its owner is not held")
	b.now = b.now.Add(15 * time.Second)
	assert.Equal(t, `"requests";r=299;t=1`, program.send("GET", "/api/pages", nil).header.Get("RateLimit"))
}

func TestTheGuideToTheAPINamesEveryOperation(t *testing.T) {
	b := open(t)
	got := b.browser().send("GET", "/api/guide", nil)
	require.Equal(t, http.StatusOK, got.status)
	assert.NotContains(t, got.header.Get("Content-Security-Policy"), "script")
	_, operations := b.contract()
	for _, one := range operations {
		assert.Equal(t, 1, strings.Count(string(got.raw), `id="`+one.OperationID+`"`), one.OperationID)
	}
	for _, kind := range webhook.Kinds {
		assert.Contains(t, string(got.raw), "<dt>"+string(kind)+"</dt>")
	}
	assert.Equal(t, http.StatusOK, b.browser().send("GET", "/api/guide.css", nil).status)
}

func TestANewPasswordEndsTokensAndSaysSo(t *testing.T) {
	b := open(t)
	for name, renew := range map[string]func(who *browser){
		"changed": func(who *browser) {
			got := who.send("PUT", "/api/account/password", fields{"password": password, "newPassword": "glaze and ash"})
			require.Less(t, got.status, 300, "%v", got.body)
		},
		"forgotten": func(who *browser) {
			who.send("POST", "/api/forgotten-password", fields{"email": "forgotten@quarrow.example"})
			got := b.browser().send("POST", "/api/new-password", fields{"token": b.token("forgotten@quarrow.example"), "password": "glaze and ash"})
			require.Less(t, got.status, 300, "%v", got.body)
		},
	} {
		who := b.browser()
		require.Equal(t, http.StatusOK, who.signUp(name).status)
		program := who.program(team.Edits, 30)
		require.Equal(t, http.StatusOK, program.send("GET", "/api/pages", nil).status)
		renew(who)
		assert.Equal(t, http.StatusUnauthorized, program.send("GET", "/api/pages", nil).status, name)
	}
}
