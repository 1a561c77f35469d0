package studio_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func words(destination string) fields {
	return fields{"name": "", "destination": destination, "on": true, "redirect": 302, "labels": []string{}, "windows": []fields{}}
}

// shorten makes a short link.
func (b *browser) shorten(address, destination string) answer {
	b.t.Helper()
	made := b.send("POST", "/api/short-links", fields{"address": address, "link": words(destination)})
	require.Equal(b.t, http.StatusCreated, made.status, made.detail())
	return made
}

func TestAShortLinkIsMadeChangedAndGivenAnotherAddress(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	made := b.shorten("", "quarrow.example/dates")
	assert.Regexp(t, `^https://pages\.example/[a-z0-9]{6}$`, made.body["shortAddress"], "one is made where none is chosen")
	made = b.shorten("Spring", "quarrow.example/dates")
	assert.Equal(t, "https://pages.example/spring", made.body["shortAddress"])
	path := "/api/short-links/" + made.body["id"].(string)

	link := words("https://quarrow.example/dates")
	link["windows"] = []fields{{"from": "2026-06-01T13:30", "to": "2026-06-02T08:00"}}
	saved := b.send("PUT", path, fields{"revision": 1, "link": link})
	require.Equal(t, http.StatusOK, saved.status, saved.detail())
	assert.Equal(t, "before", saved.body["state"], "13:30 in Lisbon is 12:30 UTC in summer, and it is noon")
	assert.Equal(t, "2026-06-01T12:30:00Z", saved.body["changesAt"])
	assert.Equal(t, []any{map[string]any{"from": "2026-06-01T13:30", "to": "2026-06-02T08:00"}},
		saved.body["link"].(map[string]any)["windows"])

	stale := b.send("PUT", path, fields{"revision": 1, "link": words("https://elsewhere.example/")})
	assert.Equal(t, http.StatusConflict, stale.status)
	assert.Equal(t, "https://quarrow.example/dates", stale.body["current"].(map[string]any)["link"].(map[string]any)["destination"])

	moved := b.send("PUT", path+"/address", fields{"address": "summer"})
	assert.Equal(t, []any{"spring"}, moved.body["pastAddresses"])
	assert.Contains(t, b.send("PUT", path+"/address", fields{"address": "quarrow-clay"}).detail(), "is taken")
	assert.Len(t, b.send("GET", "/api/short-links", nil).list, 2)
	assert.Equal(t, http.StatusOK, b.send("GET", path+"/readings?range=all", nil).status)
	assert.Equal(t, "image/png", b.send("GET", path+"/code?format=png", nil).header.Get("Content-Type"))
}

func TestAShortLinkThatCannotBeIsRefusedWithTheReason(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	for _, c := range []struct{ address, destination, says string }{
		{"dates", "javascript:alert(1)", "cannot be linked"},
		{"dates", "tel:+351210000000", "leads to a web page"},
		{"admin", "https://kiln.example/", "kept for the service itself"},
		{"ab", "https://kiln.example/", "at least 3 characters"},
		{"dates", "https://pages.example/Dates", "round in a circle"},
	} {
		refused := b.send("POST", "/api/short-links", fields{"address": c.address, "link": words(c.destination)})
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
		assert.Contains(t, refused.detail(), c.says)
	}
	link := words("https://kiln.example/")
	link["preview"] = fields{"title": "Film", "picture": fields{"media": strings.Repeat("a", 64) + ".png", "width": 10, "height": 10}}
	refused := b.send("POST", "/api/short-links", fields{"address": "dates", "link": link})
	assert.Contains(t, refused.detail(), "no longer here", "a picture of somebody else's")
}

func TestShortLinksOfOthersAreNotThere(t *testing.T) {
	bench := open(t)
	ilse, other := bench.browser(), bench.browser()
	ilse.signUp("quarrow-clay")
	other.signUp("another-studio")
	id := ilse.shorten("spring", "https://kiln.example/").body["id"].(string)
	assert.Empty(t, other.send("GET", "/api/short-links", nil).list)
	for _, call := range []struct {
		method, path string
		body         any
	}{
		{"PUT", "/api/short-links/" + id, fields{"revision": 1, "link": words("https://sale.example/")}},
		{"PUT", "/api/short-links/" + id + "/address", fields{"address": "mine-now"}},
		{"GET", "/api/short-links/" + id + "/readings", nil},
		{"GET", "/api/short-links/" + id + "/code", nil},
		{"POST", "/api/shared-figures/" + id, fields{"name": "Me", "days": 7}},
	} {
		assert.Equal(t, http.StatusNotFound, other.send(call.method, call.path, call.body).status, call.path)
	}
	// A page's ID is no short link's, and the other way round.
	assert.Equal(t, http.StatusNotFound, ilse.send("PUT", "/api/short-links/"+ilse.pageID()+"/address", fields{"address": "mixed-up"}).status)
	assert.Equal(t, http.StatusNotFound, ilse.send("PUT", "/api/pages/"+id+"/address", fields{"address": "mixed-up"}).status)
}

func TestAListIsReadFirstAndMadeWhenAskedTo(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	text := "destination,short address,name,labels\nkiln.example/a,spring,Spring,sale; letter\nkiln.example/b,quarrow-clay\nnot an " +
		"address\nkiln.example/c\n"
	says := func(list []map[string]any) (says []string) {
		for _, row := range list {
			wrong, _ := row["wrong"].(string)
			says = append(says, wrong)
		}
		return says
	}
	read := b.send("POST", "/api/link-list", fields{"text": text})
	require.Len(t, read.list, 4)
	assert.Contains(t, says(read.list)[1], "is taken")
	assert.Contains(t, says(read.list)[2], "not an address")
	assert.Empty(t, b.send("GET", "/api/short-links", nil).list, "reading makes none")

	made := b.send("POST", "/api/link-list", fields{"text": text, "keep": true})
	assert.Equal(t, []bool{true, false, false, true}, func() (good []bool) {
		for _, wrong := range says(made.list) {
			good = append(good, wrong == "")
		}
		return good
	}())
	assert.Regexp(t, `/[a-z0-9]{6}$`, made.list[3]["shortAddress"])
	assert.Len(t, b.send("GET", "/api/short-links", nil).list, 2)
	assert.Contains(t, b.send("POST", "/api/link-list", fields{"text": "kiln.example,\"open"}).detail(), "quotation mark")

	out := b.send("GET", "/api/link-list", nil)
	assert.Equal(t, "text/csv; charset=utf-8", out.header.Get("Content-Type"))
}
