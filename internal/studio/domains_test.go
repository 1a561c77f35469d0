package studio_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/domain"
	"jundle/internal/store"
)

// certify gives a host a certificate for so many days.
func (b *bench) certify(id uuid.UUID, days int) {
	b.t.Helper()
	_, err := b.store.KeepDomain(b.t.Context(), id, b.now, func(one store.Domain) store.Domain {
		one.Standing = one.Certified(b.now.AddDate(0, 0, days), b.now)
		return one
	})
	require.NoError(b.t, err)
}

func proven() domain.DNSFound {
	return domain.DNSFound{Proof: domain.Yes, Points: domain.Yes, Texts: []string{}, Elsewhere: []string{}}
}

func TestAddressesFollowADomainOnceItIsInUse(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	for _, one := range ilse.send("GET", "/api/domains", nil).body["domains"].([]any) {
		ilse.send("DELETE", "/api/domains/"+one.(map[string]any)["id"].(string), nil)
	}
	added := ilse.send("POST", "/api/domains", fields{"host": "https://Links.Quarrow.example/", "frontPage": ilse.ids["page"]})
	require.Equal(t, http.StatusOK, added.status, added.body)
	assert.Equal(t, "links.quarrow.example", added.body["host"])
	assert.Equal(t, "unproven", added.body["state"])
	assert.Equal(t, "CNAME", added.body["entries"].([]any)[1].(map[string]any)["type"])
	id := added.body["id"].(string)
	check := func() map[string]any { return ilse.send("POST", "/api/domains/"+id+"/check", nil).body }
	assert.Equal(t, "unproven", check()["state"])
	b.found = proven()
	assert.Equal(t, "certifying", check()["state"])
	origin := func() any { return ilse.send("GET", "/api/me", nil).body["pageOrigin"] }
	entry := func() string {
		return ilse.send("GET", "/api/pages/"+ilse.ids["page"]+"/sources", nil).list[0]["entryAddress"].(string)
	}
	assert.Equal(t, "https://pages.example", origin())
	b.certify(uuid.MustParse(id), 90)
	assert.Equal(t, "https://links.quarrow.example", origin())
	assert.True(t, strings.HasPrefix(entry(), "https://links.quarrow.example/"), entry())
	links := ilse.send("GET", "/api/short-links", nil).list
	assert.True(t, strings.HasPrefix(links[0]["shortAddress"].(string), "https://links.quarrow.example/"))
	assert.Equal(t, true, ilse.send("GET", "/api/pages/"+ilse.ids["page"], nil).body["runsCodes"], "tracking codes run there")

	b.found.Points = domain.No
	check()
	assert.Equal(t, "lost", check()["state"])
	assert.Equal(t, "https://pages.example", origin(), "and back, once it is lost")
}

func TestADomainIsTheirsWhoProveIt(t *testing.T) {
	b := open(t)
	ilse, jo := b.owner(), b.owner()
	add := func(who owner) string {
		return who.send("POST", "/api/domains", fields{"host": "links.quarrow.example"}).body["id"].(string)
	}
	first, second := add(ilse), add(jo)
	token := func(who owner, id string) string {
		for _, one := range who.send("GET", "/api/domains", nil).body["domains"].([]any) {
			if one.(map[string]any)["id"] == id {
				return one.(map[string]any)["entries"].([]any)[0].(map[string]any)["value"].(string)
			}
		}
		return ""
	}
	assert.NotEqual(t, token(ilse, first), token(jo, second), "each has a text of their own to set")
	b.found = proven()
	b.found.Texts = []string{token(ilse, first)}
	assert.Equal(t, "certifying", ilse.send("POST", "/api/domains/"+first+"/check", nil).body["state"])

	b.found.Texts = []string{token(ilse, first), token(jo, second)}
	refused := jo.send("POST", "/api/domains/"+second+"/check", nil)
	assert.Equal(t, http.StatusOK, refused.status, refused.body)
	assert.Equal(t, true, refused.body["taken"], "while the proof of who has it stands, nobody takes it")
	assert.Equal(t, "unproven", refused.body["state"])

	b.found.Texts = []string{token(jo, second)}
	assert.Equal(t, "certifying", jo.send("POST", "/api/domains/"+second+"/check", nil).body["state"], "the domain was sold, say")
	one, err := b.store.MemberByEmail(t.Context(), ilse.name+"@quarrow.example")
	require.NoError(t, err)
	lost, err := b.store.Domain(t.Context(), one.WorkspaceID, uuid.MustParse(first))
	require.NoError(t, err)
	assert.Nil(t, lost.ProvenAt)
}

func TestWhatIsNobodysOwnDomainIsRefusedInWords(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	for host, says := range map[string]string{
		"pages.example": "the domain of the service itself", "co.uk": "the ending of many domains", "quarrow": "no domain of your own",
		ilse.name + ".quarrow.example": "among yours already",
	} {
		refused := ilse.send("POST", "/api/domains", fields{"host": host})
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, host)
		assert.Contains(t, refused.body["detail"], says, host)
	}
	for i := range store.DefaultQuotas.Domains - 1 {
		require.Equal(t, http.StatusOK, ilse.send("POST", "/api/domains", fields{"host": "a" + string(rune('a'+i)) + ".example"}).status)
	}
	full := ilse.send("POST", "/api/domains", fields{"host": "more.example"})
	assert.Contains(t, full.body["detail"], "5 domains of your own, and that is as many as there can be")
	stranger := b.owner()
	notTheirs := ilse.send("POST", "/api/domains", fields{"host": "more.example", "frontPage": stranger.ids["page"]})
	assert.Equal(t, http.StatusNotFound, notTheirs.status, "nor does a page of others stand there")
}

func TestPressingLookIsBounded(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	statuses := map[int]int{}
	for range 80 {
		statuses[ilse.send("POST", "/api/domains/"+ilse.ids["domain"]+"/check", nil).status]++
	}
	assert.Positive(t, statuses[http.StatusTooManyRequests], statuses)
	b.now = b.now.Add(time.Minute)
	assert.Equal(t, http.StatusOK, ilse.send("POST", "/api/domains/"+ilse.ids["domain"]+"/check", nil).status)
}

func TestNothingLeadsInACircleByOnesOwnDomain(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	require.Equal(t, http.StatusOK,
		ilse.send("PUT", "/api/domains/"+ilse.ids["domain"], fields{"frontPage": ilse.ids["page"], "main": true}).status)
	address := ilse.send("GET", "/api/pages/"+ilse.ids["page"], nil).body["address"].(string)
	origin := "https://" + ilse.name + ".quarrow.example"
	refused := ilse.send("POST", "/api/short-links", fields{"address": "round", "link": fields{
		"destination": origin + "/round", "name": "", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}})
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.body["detail"], "circle")
	for _, path := range []string{"/", "/" + address} {
		refused = ilse.send("POST", "/api/pages/"+ilse.ids["page"]+"/takeovers", fields{"passThrough": origin + path})
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, path)
		assert.Contains(t, refused.body["detail"], "circle", path)
	}
	elsewhere := ilse.send("POST", "/api/pages/"+ilse.ids["page"]+"/takeovers", fields{"passThrough": origin + "/another"})
	assert.Equal(t, http.StatusCreated, elsewhere.status)
}
