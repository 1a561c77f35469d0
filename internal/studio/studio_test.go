package studio_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/json"
	"hash/crc32"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/domains"
	"jundle/internal/core/domain"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/exports"
	"jundle/internal/files/filestest"
	"jundle/internal/livefigures"
	"jundle/internal/outbound"
	"jundle/internal/passwords"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
	"jundle/internal/studio"
)

// bench is a studio with its clock and its database.
type bench struct {
	t      *testing.T
	store  *store.Store
	studio *studio.Server
	server *httptest.Server
	live   *livefigures.Hub
	now    time.Time

	mailbox mailbox
	tokens  map[string]string // that letters carried, by whom they went to
	found   domain.DNSFound   // what a look into the DNS shows
}

func open(t *testing.T) *bench {
	t.Helper()
	return openWith(t, store.Options{})
}

func openWith(t *testing.T, options store.Options) *bench {
	t.Helper()
	b := &bench{t: t, store: storetest.With(t, options), live: livefigures.NewHub(), now: time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)}
	b.tokens = make(map[string]string)
	b.found = domain.DNSFound{Proof: domain.No, Points: domain.No, Texts: []string{}, Elsewhere: []string{}}
	clock := func() time.Time { return b.now }
	kept := filestest.New(t, b.store, clock)
	writing, stop := context.WithCancel(context.Background())
	var written sync.WaitGroup
	t.Cleanup(func() { stop(); written.Wait() })
	var exporter *exports.Exporter
	exporter = exports.New(b.store, kept, clock, func(_ context.Context, export store.Export) error {
		written.Go(func() { _ = exporter.Write(writing, export) })
		return nil
	})
	handler, err := studio.New(studio.Options{
		Store: b.store, Live: b.live, Files: kept, Exporter: exporter,
		Outbound: outbound.New(outbound.Options{}), Origin: "http://studio.example",
		PublicOrigin: "https://pages.example", OwnKey: []byte("key"), LetterKey: []byte("letter key"),
		Passwords: passwords.Cost{Memory: 64, Passes: 1}, HasMail: true,
		TrustedProxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")},
		Application: fstest.MapFS{
			"index.html":  {Data: []byte(`<script nonce="__CSP_NONCE__" src="/assets/a.js"></script>`)},
			"assets/a.js": {Data: []byte("1")},
		},
		Domains: &domains.Domains{
			Target: "pages.jundle.example",
			Look:   func(context.Context, string, string) domain.DNSFound { return b.found },
			Addresses: func(context.Context) ([]netip.Addr, error) {
				return []netip.Addr{netip.MustParseAddr("192.0.2.7")}, nil
			},
		},
		OwnOrigin: func(host string) string { return "https://" + host }, ServiceHosts: []string{"pages.example", "studio.example"},
		Now: clock,
	})
	require.NoError(t, err)
	b.studio, b.server = handler, httptest.NewServer(handler)
	t.Cleanup(b.server.Close)
	t.Cleanup(b.live.End)
	return b
}

// browser is one creator's browser, with its cookies.
type browser struct {
	*bench
	client *http.Client
	header http.Header // of every request
}

func (b *bench) browser() *browser {
	jar, err := cookiejar.New(nil)
	require.NoError(b.t, err)
	return &browser{bench: b, client: &http.Client{Jar: jar}}
}

// answer is what the studio said.
type answer struct {
	status int
	body   map[string]any
	list   []map[string]any
	header http.Header
	raw    []byte
}

func (a answer) detail() string {
	detail, _ := a.body["detail"].(string)
	return detail
}

func (b *browser) send(method, path string, body any, change ...func(*http.Request)) answer {
	b.t.Helper()
	var reader io.Reader
	kind := "application/json"
	switch body := body.(type) {
	case nil:
	case []byte:
		reader, kind = bytes.NewReader(body), "application/octet-stream"
	default:
		var encoded bytes.Buffer
		written := json.NewEncoder(&encoded)
		written.SetEscapeHTML(false) // as browsers do
		require.NoError(b.t, written.Encode(body))
		reader = &encoded
	}
	request, err := http.NewRequestWithContext(b.t.Context(), method, b.server.URL+path, reader)
	require.NoError(b.t, err)
	request.Header.Set("Content-Type", kind)
	for name, values := range b.header {
		request.Header[name] = values
	}
	for _, each := range change {
		each(request)
	}
	response, err := b.client.Do(request)
	require.NoError(b.t, err)
	defer response.Body.Close()
	got := answer{status: response.StatusCode, header: response.Header}
	text, err := io.ReadAll(response.Body)
	require.NoError(b.t, err)
	got.raw = text
	// It is one or the other, or a page, which is looked at by its status alone.
	_ = json.Unmarshal(text, &got.body)
	_ = json.Unmarshal(text, &got.list)
	return got
}

// heldBody hands out a body's first byte, and the rest when it may.
type heldBody struct {
	data           []byte
	begun, proceed chan struct{}
	at             int
}

func (h *heldBody) Read(into []byte) (int, error) {
	switch {
	case h.at >= len(h.data):
		return 0, io.EOF
	case h.at == 0:
		h.at = copy(into, h.data[:1])
		return 1, nil
	case h.at == 1:
		close(h.begun)
		<-h.proceed
	}
	n := copy(into, h.data[h.at:])
	h.at += n
	return n, nil
}

// copyJar is what somebody has who copied a browser's cookies.
func copyJar(t *testing.T, from *browser, origin string) http.CookieJar {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	address, err := url.Parse(origin)
	require.NoError(t, err)
	jar.SetCookies(address, from.client.Jar.Cookies(address))
	return jar
}

type fields map[string]any

const password = "clay and water"

// signUp opens an account, as the application does: with a letter, and the link in it. It answers
// who is signed in.
func (b *browser) signUp(address string) answer {
	b.t.Helper()
	email := address + "@quarrow.example"
	up := b.send("POST", "/api/sign-up", fields{"email": email, "pageAddress": address, "zone": "Europe/Lisbon"})
	require.Equal(b.t, http.StatusAccepted, up.status, "%v", up.body)
	opened := b.send("POST", "/api/accounts", fields{"token": b.token(email), "password": password, "pageAddress": address})
	opened.body, _ = opened.body["me"].(map[string]any)
	return opened
}

// page is the path of the only page of whoever is signed in, pageID its ID.
func (b *browser) page() string { return "/api/pages/" + b.pageID() }

func (b *browser) pageID() string {
	b.t.Helper()
	me, err := b.store.MemberByEmail(b.t.Context(), b.send("GET", "/api/me", nil).body["email"].(string))
	require.NoError(b.t, err)
	pages, err := b.store.Pages(b.t.Context(), me.WorkspaceID)
	require.NoError(b.t, err)
	return pages[0].ID.String()
}

func button(key, title, address string) fields {
	return fields{"key": key, "kind": "button", "shown": true, "button": fields{"title": title, "address": address}}
}

func draft(revision int, blocks ...any) fields {
	if blocks == nil {
		blocks = []any{}
	}
	doc := page.New()
	doc.Header.Name = "Quarrow Clay"
	var written fields
	encoded, _ := json.Marshal(doc)
	_ = json.Unmarshal(encoded, &written)
	written["blocks"] = blocks
	return fields{"revision": revision, "document": written}
}

func TestACreatorSignsUpInAndOut(t *testing.T) {
	b := open(t).browser()
	up := b.signUp("quarrow-clay")
	require.Equal(t, http.StatusOK, up.status, "%v", up.body)
	assert.Equal(t, "Europe/Lisbon", up.body["zone"])
	cookie := up.header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Lax")
	assert.Equal(t, http.StatusOK, b.send("GET", "/api/me", nil).status)

	assert.Equal(t, http.StatusNoContent, b.send("POST", "/api/sign-out", nil).status)
	out := b.send("GET", "/api/me", nil)
	assert.Equal(t, http.StatusUnauthorized, out.status)
	assert.Contains(t, out.detail(), "nothing that was saved is lost")

	in := b.send("POST", "/api/sign-in", fields{"email": " Quarrow-Clay@quarrow.example ", "password": "clay and water"})
	assert.Equal(t, http.StatusOK, in.status)
}

func TestNoMessageTellsWhetherAnAddressIsRegistered(t *testing.T) {
	b := open(t)
	require.Equal(t, http.StatusOK, b.browser().signUp("quarrow-clay").status)
	stranger := b.browser()
	wrong := stranger.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "a guess or two"})
	nobody := stranger.send("POST", "/api/sign-in", fields{"email": "nobody@quarrow.example", "password": "a guess or two"})
	assert.Equal(t, http.StatusUnauthorized, wrong.status)
	assert.Equal(t, wrong.status, nobody.status)
	assert.Equal(t, wrong.detail(), nobody.detail())

	signUp := func(email, address string) answer {
		return stranger.send("POST", "/api/sign-up", fields{"email": email, "pageAddress": address, "zone": "UTC"})
	}
	registered, free := signUp("quarrow-clay@quarrow.example", "some-pots"), signUp("somebody@quarrow.example", "other-pots")
	assert.Equal(t, http.StatusAccepted, registered.status)
	assert.Equal(t, free.status, registered.status)
	assert.Equal(t, free.body, registered.body)
	kept := stranger.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"})
	assert.Equal(t, http.StatusOK, kept.status, "the account that was there is as it was")
}

func TestASignUpThatCannotBeSaysWhichFieldAndWhy(t *testing.T) {
	b := open(t)
	require.Equal(t, http.StatusOK, b.browser().signUp("quarrow-clay").status)
	good := fields{"email": "rolf@quarrow.example", "pageAddress": "rolf-pots", "zone": "UTC"}
	for field, cases := range map[string]map[string]string{
		"email":       {"rolf": "not an e-mail address", "a@b": "not an e-mail address", "Rolf <rolf@quarrow.example>": "not an e-mail address"},
		"pageAddress": {"quarrow-clay": "is taken", "QUARROW-CLAY": "is taken", "admin": "kept for the service", "a--b": "single hyphens"},
	} {
		for value, says := range cases {
			sent := fields{}
			for name, fine := range good {
				sent[name] = fine
			}
			sent[field] = value
			got := b.browser().send("POST", "/api/sign-up", sent)
			assert.Equal(t, http.StatusUnprocessableEntity, got.status, "%s %q", field, value)
			assert.Contains(t, got.detail(), says)
			assert.Equal(t, field, got.body["errors"].([]any)[0].(map[string]any)["location"])
		}
	}
	assert.Equal(t, http.StatusAccepted, b.browser().send("POST", "/api/sign-up", good).status, "nothing of the refused ones stays")
}

func TestAttemptsToSignInAreLimitedAndComeBack(t *testing.T) {
	b := open(t)
	guess := func() answer {
		return b.browser().send("POST", "/api/sign-in", fields{"email": "ilse@quarrow.example", "password": "a guess or two"})
	}
	var last answer
	for range 9 {
		last = guess()
	}
	assert.Equal(t, http.StatusTooManyRequests, last.status)
	assert.Contains(t, last.detail(), "Wait 2 minutes")
	assert.Equal(t, "120", last.header.Get("Retry-After"))
	b.now = b.now.Add(2 * time.Minute)
	assert.Equal(t, http.StatusUnauthorized, guess().status)
	assert.Equal(t, http.StatusTooManyRequests, guess().status)
}

func TestAnotherSiteCannotWriteWithAMembersCookie(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	foreign := b.send("PUT", page+"/draft", draft(1), func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", "cross-site") })
	assert.Equal(t, http.StatusForbidden, foreign.status)
	assert.Contains(t, foreign.detail(), "nothing was changed")
	older := b.send("POST", "/api/sign-out", nil, func(r *http.Request) { r.Header.Set("Origin", "https://evil.example") })
	assert.Equal(t, http.StatusForbidden, older.status)
	assert.Equal(t, http.StatusOK, b.send("GET", "/api/me", nil).status)
}

func TestADraftIsSavedDrawnAndPublishedInWords(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	saved := b.send("PUT", page+"/draft", draft(1, button("aaaa", " Dates ", "kiln.example")))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	assert.EqualValues(t, 2, saved.body["revision"])
	assert.Contains(t, saved.body["strip"].(map[string]any)["blocks"].(map[string]any)["aaaa"], `<span class="title">Dates</span>`)

	live := b.send("POST", page+"/publish", fields{"revision": 2})
	require.Equal(t, http.StatusOK, live.status)
	assert.EqualValues(t, 1, live.body["liveEdition"])
	assert.Empty(t, live.body["changes"])
	renamed := b.send("PUT", page+"/draft", draft(2, button("aaaa", "Kiln days", "kiln.example")))
	assert.Equal(t, "“Dates” is now called “Kiln days”.", renamed.body["changes"].([]any)[0].(map[string]any)["sentence"])
}

func TestAStaleWriteGets409WithThePageAsItStands(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	require.Equal(t, http.StatusOK, b.send("PUT", page+"/draft", draft(1, button("aaaa", "First", "kiln.example"))).status)
	for what, stale := range map[string]answer{
		"save":    b.send("PUT", page+"/draft", draft(1, button("bbbb", "Second", "kiln.example"))),
		"publish": b.send("POST", page+"/publish", fields{"revision": 1}),
	} {
		assert.Equal(t, http.StatusConflict, stale.status, what)
		assert.Contains(t, stale.detail(), "changed elsewhere")
		current := stale.body["current"].(map[string]any)
		assert.EqualValues(t, 2, current["revision"])
		assert.Contains(t, current["strip"].(map[string]any)["blocks"], "aaaa")
	}
}

func TestADocumentThatCannotBeIsRefusedWhole(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	missing := button("aaaa", "Dates", "kiln.example")
	missing["button"].(fields)["picture"] = fields{"media": strings.Repeat("a", 64) + ".png", "width": 10, "height": 10}
	for says, block := range map[string]fields{
		"https, http, mailto, tel or sms": button("aaaa", "Bad", "javascript:alert(1)"),
		"at most 120 characters":          button("aaaa", strings.Repeat("x", 121), "kiln.example"),
		"no longer here":                  missing,
	} {
		got := b.send("PUT", page+"/draft", draft(1, block))
		assert.Equal(t, http.StatusUnprocessableEntity, got.status, says)
		assert.Contains(t, got.detail(), says)
	}
	huge := b.send("PUT", page+"/draft", draft(1, button("aaaa", strings.Repeat("x", 5<<20), "kiln.example")))
	assert.Equal(t, http.StatusRequestEntityTooLarge, huge.status)
	assert.EqualValues(t, 1, b.send("GET", page, nil).body["revision"], "nothing was changed")
}

func TestNothingOfAnotherWorkspaceIsThere(t *testing.T) {
	b := open(t)
	owner, stranger := b.browser(), b.browser()
	owner.signUp("quarrow-clay")
	stranger.signUp("elsewhere")
	page := owner.page()
	require.Equal(t, http.StatusCreated, owner.send("POST", page+"/sources", fields{"name": "Card"}).status)
	source := page + "/sources/018f2b1a-0000-7000-8000-000000000000"
	for _, who := range []struct {
		name   string
		as     *browser
		status int
	}{{"a stranger", stranger, http.StatusNotFound}, {"nobody", b.browser(), http.StatusUnauthorized}} {
		for what, got := range map[string]answer{
			"get":      who.as.send("GET", page, nil),
			"save":     who.as.send("PUT", page+"/draft", draft(1)),
			"publish":  who.as.send("POST", page+"/publish", fields{"revision": 1}),
			"address":  who.as.send("PUT", page+"/address", fields{"address": "stolen"}),
			"sources":  who.as.send("GET", page+"/sources", nil),
			"add":      who.as.send("POST", page+"/sources", fields{"name": "Mine"}),
			"change":   who.as.send("PATCH", source, fields{"name": "Mine"}),
			"readings": who.as.send("GET", page+"/readings", nil),
			"paste":    who.as.send("POST", page+"/paste", fields{"text": "kiln.example"}),
		} {
			assert.Equal(t, who.status, got.status, "%s %s", who.name, what)
		}
	}
}

func TestAPictureThatCannotBeUsedIsRefusedWithTheReason(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	// The head of a PNG of 10,000 by 10,000 pixels; no more is ever read of it.
	head := []byte("IHDR\x00\x00\x27\x10\x00\x00\x27\x10\x08\x00\x00\x00\x00")
	bomb := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0d"), head...)
	bomb = binary.BigEndian.AppendUint32(bomb, crc32.ChecksumIEEE(head))
	for name, c := range map[string]struct {
		body   []byte
		status int
		says   string
	}{
		"a letter":               {[]byte("Dear Ilse"), http.StatusUnprocessableEntity, "not a picture"},
		"100 megapixels":         {bomb, http.StatusUnprocessableEntity, "100 megapixels and the limit is 8"},
		"10 MB":                  {make([]byte, 10<<20), http.StatusRequestEntityTooLarge, "larger than 8 MB"},
		"more than is ever read": {make([]byte, 20<<20), http.StatusRequestEntityTooLarge, ""},
	} {
		got := b.send("POST", "/api/pictures", c.body)
		assert.Equal(t, c.status, got.status, name)
		assert.Contains(t, got.detail(), c.says, name)
	}
}

func TestSourcesAreAddedChangedAndRetired(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	require.Equal(t, http.StatusCreated, b.send("POST", page+"/sources", fields{"name": " Printed  card "}).status)
	member, err := b.store.MemberByEmail(t.Context(), "quarrow-clay@quarrow.example")
	require.NoError(t, err)
	list := func() []store.Source {
		pages, err := b.store.Pages(t.Context(), member.WorkspaceID)
		require.NoError(t, err)
		sources, err := b.store.Sources(t.Context(), member.WorkspaceID, pages[0].ID)
		require.NoError(t, err)
		return sources
	}
	card := list()[0]
	assert.Equal(t, "Printed card", card.Name)
	assert.Equal(t, "printed-card", card.Tag())

	path := page + "/sources/" + card.ID.String()
	assert.Equal(t, http.StatusOK, b.send("PATCH", path, fields{"tag": "CARD", "retired": true}).status)
	assert.Equal(t, "card", list()[0].Tag())
	for _, key := range []string{"others:", "several:Fleetpic", "nowhere"} {
		assert.Equal(t, http.StatusUnprocessableEntity, b.send("POST", page+"/sources", fields{"name": "Many", "adopts": key}).status, key)
	}
	for says, change := range map[string]fields{"letters a to z": {"tag": "a/b"}, "1 to 60": {"name": " "}} {
		got := b.send("PATCH", path, change)
		assert.Equal(t, http.StatusUnprocessableEntity, got.status)
		assert.Contains(t, got.detail(), says)
	}
	inUse := b.send("POST", page+"/sources", fields{"name": "Studio letter"})
	assert.Equal(t, http.StatusCreated, inUse.status)
	taken := b.send("POST", page+"/sources", fields{"name": "Other", "tag": "studio-letter"})
	assert.Contains(t, taken.detail(), "belongs to another source")
	require.Equal(t, http.StatusCreated, b.send("POST", page+"/sources", fields{"name": "New card", "tag": "card"}).status,
		"nobody ever came by the tag of the retired one")
	require.Equal(t, http.StatusOK, b.send("PATCH", path, fields{"retired": false}).status)
	assert.Equal(t, "printed-card", list()[0].Tag(), "which gets another when it is taken back")
	second := b.send("POST", page+"/sources", fields{"name": "Printed card"})
	assert.Equal(t, http.StatusCreated, second.status, "a name may stand twice; its tag is made another one")
	assert.Equal(t, "printed-card-2", list()[3].Tag())
}

func TestAReadingOfAnEmptyPageIsEmptyAndABadRangeSaysSo(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	got := b.send("GET", page+"/readings?range=2026-05-26..2026-06-01", nil)
	require.Equal(t, http.StatusOK, got.status)
	assert.Len(t, got.body["days"], 7)
	assert.EqualValues(t, 30, got.body["missing"])
	assert.Equal(t, "2026-06-01", got.body["to"])
	bad := b.send("GET", page+"/readings?range=fortnight", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, bad.status)
	assert.Contains(t, bad.detail(), "is not a range")
}

func TestAReadingIsSentAgainOnlyOnceItHasChanged(t *testing.T) {
	site := open(t)
	b := site.browser()
	b.signUp("quarrow-clay")
	page := b.page()
	source := b.send("POST", page+"/sources", fields{"name": "Printed card"}).body["id"].(string)
	var tag string
	read := func() int {
		got := b.send("GET", page+"/readings", nil, func(r *http.Request) { r.Header.Set("If-None-Match", tag) })
		if got.status == http.StatusNotModified {
			assert.Empty(t, got.raw)
			return got.status
		}
		assert.NotEqual(t, tag, got.header.Get("ETag"))
		tag = got.header.Get("ETag")
		return got.status
	}
	assert.Equal(t, http.StatusOK, read())
	assert.Equal(t, http.StatusNotModified, read())
	for what, change := range map[string]func(){
		"a visit": func() {
			require.NoError(t, site.store.RecordEvents(t.Context(), []store.Event{{
				ID: uuid.New(), At: site.now, EndpointID: uuid.MustParse(b.pageID()), Edition: 1, Kind: traffic.View, UserAgent: "Mobile",
			}}))
		},
		"the name of a source": func() { b.send("PATCH", page+"/sources/"+source, fields{"name": "Another card"}) },
		"the page": func() {
			require.Equal(t, http.StatusOK, b.send("PUT", page+"/draft", draft(1, button("aaaa", "Dates", "kiln.example"))).status)
		},
	} {
		change()
		assert.Equal(t, http.StatusOK, read(), what)
		assert.Equal(t, http.StatusNotModified, read(), what)
	}
}

func TestATitleIsNotFetchedFromInside(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	got := b.send("POST", "/api/describe", fields{"address": b.server.URL})
	assert.Equal(t, http.StatusOK, got.status)
	assert.Empty(t, got.body["title"])
}

func TestAPastedAddressBecomesABlockAndSaysWhereItIsAlready(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	page := b.page()
	require.Equal(t, http.StatusOK, b.send("PUT", page+"/draft", draft(1,
		button("aaaa", "Dates", "https://www.kiln.example/dates?utm_source=card"))).status)
	read := func(text string) []map[string]any {
		answer := b.send("POST", page+"/paste", fields{"text": text})
		require.Equal(t, http.StatusOK, answer.status)
		return answer.list
	}
	pasted := read(" www.kiln.example/dates ")
	block := pasted[0]["block"].(map[string]any)
	assert.Equal(t, "kiln.example", block["button"].(map[string]any)["title"])
	assert.Regexp(t, `^[a-z2-7]{8}$`, block["key"])
	assert.Equal(t, []any{"aaaa"}, pasted[0]["already"])
	several := read(
		"Write to me\nilse@kiln.example\nmailto:ilse@kiln.example?subject=Seat\nhttps://kiln.example/recipes.pdf\njavascript:alert(1)",
	)
	var kinds []any
	for _, line := range several {
		kind := line["message"]
		if block, ok := line["block"].(map[string]any); ok {
			kind = block["kind"]
		}
		kinds = append(kinds, kind)
	}
	require.Len(t, kinds, 4)
	assert.Equal(t, []any{"contact", "button", "file"}, kinds[:3], "a mailbox with more to it than a contact says stays a link")
	assert.Equal(t, true, several[0]["titled"])
	assert.Contains(t, kinds[3], "https, http, mailto, tel or sms")
	assert.EqualValues(t, 2, b.send("GET", page, nil).body["revision"], "reading a paste changes nothing")
}

func TestTheApplicationIsServedUnderAStrictPolicy(t *testing.T) {
	b := open(t).browser()
	read := func(path string) (string, http.Header) {
		response, err := b.client.Get(b.server.URL + path)
		require.NoError(t, err)
		defer response.Body.Close()
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return string(text), response.Header
	}
	first, header := read("/pages/anything/arrange")
	second, _ := read("/")
	policy := header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "script-src 'self';")
	assert.NotContains(t, policy, "unsafe-eval")
	assert.NotEqual(t, first, second, "each answer has a nonce of its own")
	nonce := strings.Split(strings.SplitN(first, `nonce="`, 2)[1], `"`)[0]
	assert.Contains(t, policy, "'nonce-"+nonce+"'")
	assert.Equal(t, http.StatusNotFound, b.send("GET", "/api/nothing", nil).status)
	contract, _ := read("/api/openapi.json")
	assert.Contains(t, contract, `"openapi":"3.1.0"`)
}
