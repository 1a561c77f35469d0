package public_test

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/eventlog"
	"jundle/internal/files"
	"jundle/internal/files/filestest"
	"jundle/internal/ingest"
	"jundle/internal/ownmark"
	"jundle/internal/public"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

const phone = "Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Mobile/15E148"

// site is a public listener with one account on it.
type site struct {
	t        *testing.T
	store    *store.Store
	files    *files.Files
	recorder *ingest.Recorder
	server   *public.Server
	member   store.Member
	page     store.Page
	now      time.Time
	log      *eventlog.Log
	agents   *agents.List
	// publishing is how the next editions are published.
	publishing store.Publishing
}

func open(t *testing.T) *site {
	t.Helper()
	s := &site{t: t, store: storetest.New(t), now: now}
	s.files = filestest.New(t, s.store, func() time.Time { return now })
	list, err := agents.Load()
	require.NoError(t, err)
	log := eventlog.Open(t.Context(), eventlog.Options{Dir: t.TempDir(), MaxBytes: 1 << 20})
	t.Cleanup(log.Close)
	s.log, s.agents = log, list
	s.serveWith(ingest.Options{})
	s.member, err = s.store.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay",
		Zone: "UTC",
	}, now)
	require.NoError(t, err)
	pages, err := s.store.Pages(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	s.page = pages[0]
	return s
}

// flood lets the listener count so much from one address in an hour.
func (s *site) flood(perHour int) {
	s.t.Helper()
	require.NoError(s.t, s.recorder.Close(s.t.Context()))
	s.serveWith(ingest.Options{FloodBudget: perHour})
}

// serveWith makes the listener with a recorder of those options.
func (s *site) serveWith(options ingest.Options) {
	t := s.t
	t.Helper()
	options.Store, options.Agents, options.Log, options.SpoolDir = s.store, s.agents, s.log, t.TempDir()
	recorder, err := ingest.NewRecorder(t.Context(), options)
	require.NoError(t, err)
	s.recorder = recorder
	t.Cleanup(func() {
		if s.recorder == recorder { // nothing ended it before
			_ = recorder.Close(context.Background())
		}
	})
	s.server, err = public.New(public.Options{
		Store: s.store, Files: s.files, Recorder: s.recorder, Origin: "https://pages.example", StudioOrigin: "https://studio.example",
		OwnOrigin: func(host string) string { return "https://" + host },
		OwnKey:    []byte("key"), LetterKey: []byte("letter key"), Now: func() time.Time { return s.now },
		TrustedProxies: []netip.Prefix{netip.MustParsePrefix("10.0.0.0/8")}, TrackingCodes: true,
		Reroute: func(address string) string {
			return strings.Replace(address, "https://rerouted.example/", "http://127.0.0.1/", 1)
		},
	})
	require.NoError(t, err)
}

func document(blocks []page.Block) page.Document {
	doc := page.New()
	doc.Header.Name, doc.Blocks = "Quarrow Clay", blocks
	return doc
}

func (s *site) publish(blocks ...page.Block) {
	s.t.Helper()
	s.publishDocument(document(blocks))
}

func (s *site) publishDocument(doc page.Document) {
	s.t.Helper()
	saved, err := s.store.SaveDraft(s.t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, doc)
	require.NoError(s.t, err)
	s.publishing.Revision = saved.Revision
	s.page, err = s.store.Publish(s.t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, s.publishing, s.now)
	require.NoError(s.t, err)
	s.server.Forget(s.page.ID)
}

func (s *site) source(name, tag string) store.Source {
	s.t.Helper()
	added, err := s.store.AddSource(s.t.Context(), s.member.WorkspaceID, s.page.ID,
		store.NewSource{Name: name, Tag: tag, Place: source.Place{Kind: source.Profile}}, now)
	require.NoError(s.t, err)
	s.server.Forget(s.page.ID)
	return added
}

func (s *site) get(path string, change ...func(*http.Request)) *httptest.ResponseRecorder {
	request := httptest.NewRequest(http.MethodGet, path, nil)
	request.Header.Set("User-Agent", phone)
	for _, each := range change {
		each(request)
	}
	return s.serve(request)
}

// serve hands a request to the listener as it would come in.
func (s *site) serve(request *http.Request) *httptest.ResponseRecorder {
	s.t.Helper()
	answer := httptest.NewRecorder()
	s.ServeHTTP(answer, request)
	return answer
}

// ServeHTTP answers under the host that all share, where a request says no other on purpose.
func (s *site) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Host == "example.com" || strings.HasPrefix(r.Host, "127.0.0.1:") { // those of httptest and of a listener
		r.Host = "pages.example"
	}
	s.server.ServeHTTP(w, r)
}

// events ends the recording and returns what was recorded.
func (s *site) events() []traffic.Event {
	s.t.Helper()
	require.NoError(s.t, s.recorder.Close(s.t.Context()))
	s.recorder = nil
	events, err := s.store.Events(s.t.Context(), s.member.WorkspaceID, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(s.t, err)
	return events
}

func button(key, address string) page.Block {
	return page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: "To " + address, Address: address}}
}

func TestAPressLeadsToTheDestinationAndIsRecordedWithAllThatIsKnown(t *testing.T) {
	s := open(t)
	card := s.source("Card", "card")
	s.publish(button("aaaa", "https://kiln.example/"), button("bbbb", "https://sale.example/?x=1#now"))

	view := s.get("/quarrow-clay/card")
	require.Equal(t, http.StatusOK, view.Code)
	require.Contains(t, view.Body.String(), `href="/quarrow-clay/-/1/bbbb/card"`)
	press := s.get("/quarrow-clay/-/1/bbbb/card")
	assert.Equal(t, http.StatusFound, press.Code)
	assert.Equal(t, "https://sale.example/?x=1#now", press.Header().Get("Location"))
	assert.Equal(t, "no-store", press.Header().Get("Cache-Control"))

	events := s.events()
	require.Len(t, events, 2)
	assert.Equal(t, traffic.View, events[0].Kind)
	click := events[1]
	assert.Equal(t, traffic.Click, click.Kind)
	assert.Equal(t, "bbbb", click.Block)
	assert.Equal(t, 2, click.Place)
	assert.Equal(t, 1, click.Edition)
	assert.Equal(t, card.ID.String(), click.Source)
	assert.True(t, click.At.Equal(now))
	assert.True(t, click.Counted())
	assert.Equal(t, events[0].Visitor, click.Visitor)
}

func TestAPageIsServedWithoutScriptCookieOrOtherHosts(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	answer := s.get("/quarrow-clay", func(r *http.Request) { r.Header.Set("Accept-Encoding", "gzip") })
	assert.Empty(t, answer.Header().Get("Set-Cookie"))
	assert.Equal(t, "gzip", answer.Header().Get("Content-Encoding"))
	assert.LessOrEqual(t, answer.Body.Len(), 14_000)
	assert.Contains(t, answer.Header().Get("Content-Security-Policy"), "default-src 'none'")
	again := s.get("/quarrow-clay", func(r *http.Request) { r.Header.Set("If-None-Match", answer.Header().Get("ETag")) })
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Len(t, s.events(), 2, "a page asked for again was looked at again")
}

func TestWhatLeadsNowhereSaysSo(t *testing.T) {
	s := open(t)
	unpublished := s.get("/quarrow-clay")
	assert.Equal(t, http.StatusNotFound, unpublished.Code, "an unpublished page is not there")
	hidden := button("hhhh", "https://secret.example/")
	hidden.Shown = false
	s.publish(button("aaaa", "https://kiln.example/"), hidden)
	for _, path := range []string{
		"/nobody", "/", "/quarrow-clay/-/1/zzzz", "/quarrow-clay/-/9/aaaa", "/quarrow-clay/-/x/aaaa", "/quarrow-clay/-/1/hhhh",
		"/quarrow-clay/a/b/c", "/media/none.png", "/quarrow-clay/-/-1/aaaa",
	} {
		answer := s.get(path)
		assert.Equal(t, http.StatusNotFound, answer.Code, path)
		assert.NotContains(t, answer.Body.String(), "secret")
	}
	assert.Empty(t, s.events())
}

func TestATabOpenedBeforePublishingLeadsToWhereTheBlockLeadsNow(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://old.example/"), button("gone", "https://gone.example/"))
	s.publish(button("cccc", "https://first.example/"), button("aaaa", "https://new.example/"))
	assert.Equal(t, "https://new.example/", s.get("/quarrow-clay/-/1/aaaa").Header().Get("Location"))
	assert.Equal(t, "https://gone.example/", s.get("/quarrow-clay/-/1/gone").Header().Get("Location"))
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/1/cccc").Code, "it was not on that edition")
	events := s.events()
	require.Len(t, events, 2)
	for _, event := range events {
		assert.Equal(t, 1, event.Edition)
	}
}

func TestEveryKindOfEvidenceIsFoundAndCarriedOnToWhatIsPressed(t *testing.T) {
	s := open(t)
	loft := s.source("Photoloft", "loft")
	place := source.Place{
		Kind: source.Profile, Medium: "social", Profiles: []string{"https://photoloft.example/quarrow"},
		Names: []string{"pictures"},
	}
	require.NoError(t, s.store.ChangeSource(t.Context(), s.member.WorkspaceID, s.page.ID, loft.ID, store.SourceChange{Place: &place}, now))
	s.publish(button("aaaa", "https://kiln.example/"))
	cases := []struct {
		path    string
		change  func(*http.Request)
		by      source.By
		visited string
	}{
		{"/quarrow-clay/loft", func(*http.Request) {}, source.ByTag, loft.ID.String()},
		{"/quarrow-clay?utm_source=Pictures", func(*http.Request) {}, source.ByCampaign, loft.ID.String()},
		{
			"/quarrow-clay", func(r *http.Request) { r.Header.Set("Referer", "https://out.photoloft.example/?x") }, source.ByReferrer,
			loft.ID.String(),
		},
		{"/quarrow-clay", func(r *http.Request) { r.Header.Set("User-Agent", phone+" Photoloft/3.1") }, source.ByApp, loft.ID.String()},
		{"/quarrow-clay", func(r *http.Request) { r.Header.Set("Referer", "https://pages.example/other") }, source.Onward, ""},
		{"/quarrow-clay?utm_source=guild", func(*http.Request) {}, source.ByCampaign, "campaign:guild"},
	}
	for i, c := range cases {
		answer := s.get(c.path, func(r *http.Request) {
			r.RemoteAddr = fmt.Sprintf("203.0.113.%d:1", i)
			c.change(r)
		})
		carriesOn := strings.Contains(answer.Body.String(), `href="/quarrow-clay/-/1/aaaa/loft"`)
		assert.Equal(t, c.visited == loft.ID.String(), carriesOn, c.path)
	}
	got := map[string]int{}
	for _, event := range s.events() {
		got[string(event.Evidence)+" "+event.Source]++
	}
	want := map[string]int{}
	for _, c := range cases {
		want[string(c.by)+" "+c.visited]++
	}
	assert.Equal(t, want, got)
}

func TestClicksGoingOutCarryTheTagsOfWhereTheyCameFrom(t *testing.T) {
	s := open(t)
	loft := s.source("Photoloft", "loft")
	place := source.Place{Kind: source.Profile, Medium: "social"}
	require.NoError(t, s.store.ChangeSource(t.Context(), s.member.WorkspaceID, s.page.ID, loft.ID, store.SourceChange{Place: &place}, now))
	doc := document([]page.Block{
		button("aaaa", "https://kiln.example/a?b=1#c"),
		{Key: "call", Kind: "contact", Shown: true, Contact: &page.Contact{Title: "Write", Way: "mail", Mailbox: "ilse@quarrow.example"}},
	})
	doc.Tagging = page.Tagging{On: true, Campaign: "spring_firing"}
	s.publishDocument(doc)
	for path, leads := range map[string]string{
		"aaaa/loft": "https://kiln.example/a?b=1&utm_source=loft&utm_medium=social&utm_campaign=spring_firing&utm_content=aaaa#c",
		"aaaa":      "https://kiln.example/a?b=1&utm_source=untagged&utm_campaign=spring_firing&utm_content=aaaa#c",
		"call/loft": "mailto:ilse@quarrow.example",
	} {
		assert.Equal(t, leads, s.get("/quarrow-clay/-/1/"+path).Header().Get("Location"), path)
	}
}

func TestAPastAddressMovesForGoodAndKeepsTheTag(t *testing.T) {
	s := open(t)
	s.source("Card", "card")
	s.publish(button("aaaa", "https://kiln.example/"))
	_, err := s.store.ChangeAddress(t.Context(), s.member.WorkspaceID, s.page.ID, "quarrow", now)
	require.NoError(t, err)
	s.server.Forget(s.page.ID)
	for from, to := range map[string]string{
		"/quarrow-clay": "/quarrow", "/quarrow-clay/card": "/quarrow/card", "/QUARROW": "/quarrow", "/quarrow-clay/unknown": "/quarrow",
	} {
		answer := s.get(from)
		assert.Equal(t, http.StatusPermanentRedirect, answer.Code, from)
		assert.Equal(
			t,
			"no-store",
			answer.Header().Get("Cache-Control"),
			"kept by a browser, it would lead in a circle once the address is changed back",
		)
		assert.Equal(t, to, answer.Header().Get("Location"), from)
	}
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/aaaa/card").Code, "links on pages already open keep working")
	assert.Len(t, s.events(), 1, "the visit is counted where it arrives")
}

func TestAMembersOwnVisitsAreKeptAndNotCounted(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	mark := ownmark.Make([]byte("key"), s.member.WorkspaceID, now.Add(time.Minute))
	through := s.get("/-/own/" + mark + "?page=quarrow-clay")
	require.Equal(t, http.StatusSeeOther, through.Code)
	assert.Equal(t, "/quarrow-clay", through.Header().Get("Location"))
	cookies := through.Result().Cookies()
	require.Len(t, cookies, 1)
	assert.True(t, cookies[0].HttpOnly && cookies[0].Secure)

	s.get("/quarrow-clay", func(r *http.Request) { r.AddCookie(cookies[0]) })
	s.get("/quarrow-clay/-/1/aaaa", func(r *http.Request) { r.AddCookie(cookies[0]) })
	other := *cookies[0]
	other.Value = ownmark.Make([]byte("key"), s.page.ID, now.Add(time.Hour)) // another workspace's
	s.get("/quarrow-clay", func(r *http.Request) { r.AddCookie(&other) })
	events := s.events()
	require.Len(t, events, 3)
	assert.Equal(t, []traffic.Flags{traffic.Own, traffic.Own, 0}, []traffic.Flags{events[0].Flags, events[1].Flags, events[2].Flags})

	assert.Equal(t, http.StatusForbidden, s.get("/-/own/forged").Code)
	for path, back := range map[string]string{
		"/pages/1/arrange": "https://studio.example/pages/1/arrange", "//evil.example": "https://studio.example//evil.example",
		"@evil.example": "", "https://evil.example": "",
	} {
		assert.Equal(t, back, s.get("/-/own/"+mark+"?studio="+path).Header().Get("Location"), "the way back is the studio's alone")
	}
	told := s.get("/-/own/" + mark + "?page=//evil.example")
	assert.Equal(t, http.StatusOK, told.Code, "it leads to pages and nowhere else")
	assert.Empty(t, told.Header().Get("Location"))
	assert.Contains(t, told.Body.String(), "This phone is not counted")
	assert.NotEmpty(t, told.Result().Cookies())
}

func TestCrawlersAndPrefetchesAreFlagged(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	s.get("/quarrow-clay", func(r *http.Request) { r.Header.Del("User-Agent") })
	s.get("/quarrow-clay", func(r *http.Request) { r.Header.Set("Sec-Purpose", "prefetch;prerender") })
	s.get("/quarrow-clay", func(r *http.Request) { r.Method = http.MethodHead })
	reasons := map[string]int{}
	for _, event := range s.events() {
		reasons[event.Flags.Reason()]++
	}
	assert.Equal(t, map[string]int{"crawler": 1, "prefetch": 2}, reasons)
}

func TestOnlyATrustedProxyMaySayWhoTheVisitorIs(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	from := func(peer, forwarded string) func(*http.Request) {
		return func(r *http.Request) {
			r.RemoteAddr = peer + ":1234"
			r.Header.Set("X-Forwarded-For", forwarded)
		}
	}
	s.get("/quarrow-clay", from("203.0.113.9", "198.51.100.1")) // a visitor who pretends
	s.get("/quarrow-clay/x1", from("203.0.113.9", "198.51.100.2"))
	s.get("/quarrow-clay/x2", from("10.1.2.3", "198.51.100.1"))
	s.get("/quarrow-clay/x3", from("10.1.2.3", "198.51.100.2"))
	// The last that is no proxy counts: what stands before it is the visitor's word.
	s.get("/quarrow-clay/x4", from("10.1.2.3", "192.0.2.99, 198.51.100.2, 10.9.9.9"))
	s.get("/quarrow-clay/x5", from("10.1.2.3", "192.0.2.98,198.51.100.2"))
	visitors := map[traffic.VisitorKey]int{}
	for _, event := range s.events() {
		visitors[event.Visitor]++
	}
	assert.Len(t, visitors, 3, "one pretender, and two people behind the proxy")
}

func TestMadeUpDestinationsAreReroutedWhereTheDemoAsksForIt(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://rerouted.example/x"))
	assert.Equal(t, "http://127.0.0.1/x", s.get("/quarrow-clay/-/1/aaaa").Header().Get("Location"))
}
