package studio_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page/pagetest"
	"jundle/internal/costs"
	"jundle/internal/pagefile"
	"jundle/internal/store"
)

// What a request of a member may cost: the processor's time and the memory it takes.
var memberBound = costs.Bound{Milliseconds: 1000, Megabytes: 500}

// worstQueries are the queries that make an operation the most work.
var worstQueries = map[string][]string{
	"draw-source-code":       {"?format=png&width=2048&level=H", "?format=svg&level=H"},
	"draw-short-link-code":   {"?format=png&width=2048&level=H"},
	"get-readings":           {"?range=all", "?from=2020-01-01&to=2026-06-10"},
	"get-block-readings":     {"?range=all"},
	"get-source-readings":    {"?range=all"},
	"get-ribbon":             {"?over=months"},
	"search-icons":           {"?search=a", "?search=" + strings.Repeat("a", 60)},
	"read-address":           {"?address=kiln.example"},
	"read-place":             {"?text=51.5,-0.12"},
	"take-events":            {"?format=csv&range=all", "?format=ndjson&range=all"},
	"take-table":             {"?format=csv&range=all"},
	"take-out-page":          {""},
	"list-destinations":      {"?search=a"},
	"draw-sharing-picture":   {""},
	"get-destination":        {""},
	"list-short-links":       {"?search=a"},
	"take-destination-apart": {""},
}

// notMeasured go on for as long as somebody listens.
var notMeasured = []string{"follow-figures"}

func TestNoRequestOfAMemberCostsMoreThanItMay(t *testing.T) {
	if testing.Short() {
		t.Skip("it measures")
	}
	alone(t)
	b := open(t)
	b.live.End()
	who := b.owner()
	_, operations := b.contract()
	costly := pagetest.Costliest()
	saved := who.send("PUT", who.page()+"/draft", fields{"revision": who.revision(), "document": costly})
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	published := who.send("POST", "/api/pages/"+who.ids["page"]+"/publish", fields{"revision": who.revision()})
	require.Equal(t, http.StatusOK, published.status, "%v", published.body)
	costly.Header.Name = "Quarrow Clay, changed"
	who.ids["edition"], who.ids["block"] = fmt.Sprint(published.body["liveEdition"]), "text0050"

	requests, several := map[string]func(){}, map[string]func(){}
	add := func(name, method, path string, body func() any) {
		requests[name+" "+method+" "+path] = func() {
			got := who.send(method, path, body())
			assert.NotContains(t, []int{http.StatusTooManyRequests, http.StatusServiceUnavailable}, got.status, "%s: %v", name, got.body)
		}
		// Of some, one at a time is let through.
		several[name+" "+path] = func() { assert.Less(t, who.send(method, path, body()).status, 500, name) }
	}
	nothing := func() any { return nil }
	for _, o := range operations {
		if o.method != http.MethodGet || slices.Contains(notMeasured, o.OperationID) {
			continue
		}
		for _, query := range append(worstQueries[o.OperationID], "") {
			add(o.OperationID, o.method, o.at(who.ids)+query, nothing)
		}
	}
	here := "/api/pages/" + who.ids["page"]
	fresh := func() any { return fields{"revision": who.revision(), "document": costly} }
	add("save-draft", "PUT", here+"/draft", fresh)
	add("save-draft, stale", "PUT", here+"/draft", func() any { return fields{"revision": 1, "document": costly} })
	add("publish", "POST", here+"/publish", func() any { return fields{"revision": who.revision()} })
	add("publish, stale", "POST", here+"/publish", func() any { return fields{"revision": 1} })
	add("check-addresses", "POST", here+"/check", func() any { return nil })
	add("preview-page", "POST", here+"/previews", func() any { return fields{"hours": 1} })
	add("append-blocks", "POST", here+"/blocks", func() any {
		return fields{"blocks": []any{button("sale", "Seconds sale", "https://kiln.example/")}}
	})
	add("begin-takeover", "POST", here+"/takeovers", func() any { return fields{"passThrough": "https://kiln.example/film"} })
	add("read-paste", "POST", here+"/paste", func() any {
		return fields{"text": strings.Repeat("https://kiln.example/a\n", 40_000/23)}
	})
	add("read-link-file", "POST", "/api/link-files", func() any { return []byte(strings.Repeat("https://kiln.example/a,Title\n", 10_000)) })
	file, err := pagefile.Of(store.Page{Address: who.name + "-taken", Draft: costly}, nil).JSON()
	require.NoError(t, err)
	add("take-in-page", "POST", "/api/page-files", func() any { return file })
	costs.Hold(t, memberBound, requests)

	many := map[string]costs.Bound{}
	for name, request := range several {
		b.now = b.now.Add(time.Minute) // what a member may have worked out in the long run comes back
		many[name] = costs.Measure(membersAtOnce, request)
	}
	t.Logf("With %d at once:", membersAtOnce)
	costs.Check(t, memberBound, many)
}

// membersAtOnce is how many of one request a member makes at the same time. Those that cost much take turns.
const membersAtOnce = 8

// measuredWhole are those that are sent the page that costs most, in the test before.
var measuredWhole = []string{"publish", "save-draft"}

// endsMuch are the paths of operations after which an owner is not who they were.
var endsMuch = regexp.MustCompile(`^/api/(account|workspace|sign-|new-password|forgotten|confirm|taken-|passkey)`)

// costlyOwner has one of everything, on the page that costs most.
func (b *bench) costlyOwner() owner {
	b.t.Helper()
	who := b.owner()
	costly := pagetest.Costliest()
	doc := fields{}
	text, err := json.Marshal(costly)
	require.NoError(b.t, err)
	require.NoError(b.t, json.Unmarshal(text, &doc))
	doc["blocks"] = append([]any{button(who.ids["block"], "The film", "https://film.example/")}, doc["blocks"].([]any)[2:]...)
	saved := who.send("PUT", who.page()+"/draft", fields{"revision": who.revision(), "document": doc})
	require.Equal(b.t, http.StatusOK, saved.status, "%v", saved.body)
	published := who.send("POST", "/api/pages/"+who.ids["page"]+"/publish", fields{"revision": who.revision()})
	require.Equal(b.t, http.StatusOK, published.status, "%v", published.body)
	return who
}

func TestNoChangeThatAMemberMakesCostsMoreThanItMay(t *testing.T) {
	if testing.Short() {
		t.Skip("it measures")
	}
	alone(t)
	b := open(t)
	b.live.End()
	c, operations := b.contract()
	meant, atOnce, atLimits := map[string]costs.Bound{}, map[string]costs.Bound{}, map[string]costs.Bound{}
	files := largestFiles(t)
	who, owners := owner{}, 0
	ready := func(o operation, anew bool) (body any, path string) {
		if anew || who.browser == nil {
			who, owners = b.costlyOwner(), owners+1
		}
		if endsMuch.MatchString(o.path) {
			b.now = b.now.Add(triesComeBack) // few tries at a password are let through
		}
		who.prepare(o.path)
		return o.upload(t, c.body(o, who)), b.meant(o, who)
	}
	for _, o := range operations {
		if o.method == http.MethodGet || slices.Contains(measuredWhole, o.OperationID) {
			continue
		}
		body, path := ready(o, false)
		send := func(body any) func() {
			return func() { assert.Less(t, who.send(o.method, path, body).status, 500, o.OperationID) }
		}
		if worst := c.worst(o, who, path, body); worst != nil {
			atLimits[o.OperationID] = costs.Least(membersAtOnce, memberBound, send(worst))
		}
		switch file := files[o.OperationID]; {
		case o.OperationID == "cut-picture":
			original := who.send(http.MethodPost, "/api/pictures", files["upload-picture"]).body["media"]
			atLimits[o.OperationID] = costs.Least(membersAtOnce, memberBound, send(fields{"original": original, "use": "ground"}))
		case file != nil:
			atLimits[o.OperationID] = costs.Least(membersAtOnce, memberBound, send(file))
		}
		atOnce[o.OperationID] = costs.Measure(membersAtOnce, send(body))
		// What one operation ended, such as a session, another may be about: then it is tried with somebody new.
		for try := range 3 {
			body, path = ready(o, try > 0 || endsMuch.MatchString(o.path))
			var got answer
			meant[o.OperationID] = costs.Measure(1, func() { got = who.send(o.method, path, body) })
			done := got.status < 300 || slices.Contains(askNobody, o.OperationID)
			if done && !meant[o.OperationID].Exceeds(memberBound) {
				break
			}
			assert.Less(t, try, 2, "%s: %d %s %v", o.OperationID, got.status, got.body["detail"], meant[o.OperationID])
		}
		if provesPassword[o.OperationID] != nil || endsMuch.MatchString(o.path) {
			who = owner{}
		}
	}
	t.Log("As meant, alone:")
	costs.Check(t, memberBound, meant)
	t.Logf("As meant, %d at once:", membersAtOnce)
	costs.Check(t, memberBound, atOnce)
	t.Logf("With the largest body that each takes, %d at once:", membersAtOnce)
	costs.Check(t, memberBound, atLimits)
	t.Logf("%d operations, with %d owners", len(meant), owners)
}

func TestWhoAsksForVeryMuchAtOnceIsHeldBackAndNobodyElse(t *testing.T) {
	b := open(t)
	greedy, modest := b.browser(), b.browser()
	require.Equal(t, http.StatusOK, greedy.signUp("greedy").status)
	require.Equal(t, http.StatusOK, modest.signUp("modest").status)
	page, other := greedy.page(), modest.page()
	large := fields{"revision": 99, "document": pagetest.Costliest()}
	var asked sync.WaitGroup
	var mu sync.Mutex
	answered := map[int]int{}
	for range 80 {
		asked.Go(func() {
			got := greedy.send("PUT", page+"/draft", large)
			mu.Lock()
			defer mu.Unlock()
			answered[got.status]++
		})
	}
	assert.Equal(t, http.StatusOK, modest.send("GET", other, nil).status, "whatever others ask for")
	asked.Wait()
	assert.Positive(t, answered[http.StatusConflict], "%v", answered)
	assert.Positive(t, answered[http.StatusTooManyRequests], "%v", answered)
	assert.Equal(t, 80, answered[http.StatusConflict]+answered[http.StatusTooManyRequests], "%v", answered)
	assert.Equal(t, http.StatusOK, greedy.send("GET", page, nil).status, "and then they may again")
}

func TestASheetOfCodesIsDrawnAndALargerCodeThanPrintersNeedIsRefused(t *testing.T) {
	b := open(t)
	who := b.browser()
	require.Equal(t, http.StatusOK, who.signUp("quarrow-clay").status)
	added := who.send("POST", "/api/pages/"+who.pageID()+"/sources", fields{"name": "Printed card"})
	code := "/api/pages/" + who.pageID() + "/sources/" + added.body["id"].(string) + "/code?format=png&level=H&width="
	var drawn sync.WaitGroup
	for range 6 { // as many as a browser asks for at one time
		drawn.Go(func() {
			for range 10 {
				assert.Equal(t, http.StatusOK, who.send("GET", code+"2048", nil).status)
			}
		})
	}
	drawn.Wait()
	assert.Equal(t, http.StatusUnprocessableEntity, who.send("GET", code+"4000", nil).status)
}
