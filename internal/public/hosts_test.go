package public_test

import (
	"crypto/tls"
	"encoding/xml"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/domain"
	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/traffic"
	"jundle/internal/ownmark"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

const ownHost = "links.quarrow.example"

// under has a request come under a host of a workspace's own, by TLS.
func under(host string) func(*http.Request) {
	return func(r *http.Request) { r.Host, r.TLS = host, &tls.ConnectionState{} }
}

// ownDomain gives the workspace a host in use, with its page to stand there.
func (s *site) ownDomain(host string) store.Domain {
	s.t.Helper()
	return s.ownDomainOf(s.member, &s.page, host)
}

func (s *site) ownDomainOf(member store.Member, front *store.Page, host string) store.Domain {
	s.t.Helper()
	one := store.Domain{WorkspaceID: member.WorkspaceID, Host: host, Token: host, CreatedAt: s.now}
	one.WantedAt = s.now
	if front != nil {
		one.FrontPage = &front.ID
	}
	one, err := s.store.AddDomain(s.t.Context(), one)
	require.NoError(s.t, err)
	one.Standing = one.After(domain.DNSFound{Proof: domain.Yes, Points: domain.Yes}, s.now).Certified(s.now.AddDate(0, 0, 90), s.now)
	s.keepDomain(one)
	return one
}

// keepDomain keeps what is known of a host, and has the listener hear of it.
func (s *site) keepDomain(one store.Domain) {
	s.t.Helper()
	_, err := s.store.KeepDomain(s.t.Context(), one.ID, s.now, func(store.Domain) store.Domain { return one })
	require.NoError(s.t, err)
	s.server.HostsChanged(one.WorkspaceID)
}

func TestAPageStandsUnderAHostOfItsOwn(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	before := s.get("/quarrow-clay").Body.String()
	assert.Contains(t, before, `<link rel="canonical" href="https://pages.example/quarrow-clay">`)
	s.ownDomain(ownHost)

	for _, path := range []string{"/", "/quarrow-clay", "/Quarrow-Clay/"} {
		got := s.get(path, under(ownHost))
		if path == "/Quarrow-Clay/" {
			assert.Equal(t, "/quarrow-clay", got.Header().Get("Location"))
			continue
		}
		assert.Equal(t, http.StatusOK, got.Code, path)
		assert.Contains(t, got.Body.String(), `<link rel="canonical" href="https://links.quarrow.example/">`, path)
		assert.Contains(t, got.Body.String(), `content="https://links.quarrow.example/-/sharing/quarrow-clay/`, path)
		assert.Equal(t, "max-age=604800", got.Header().Get("Strict-Transport-Security"))
	}
	press := s.get("/quarrow-clay/-/1/dates", under(ownHost))
	assert.Equal(t, "https://kiln.example/dates", press.Header().Get("Location"))
	events := s.events()
	assert.Len(t, events, 4, "three views and a press, whatever the host")
}

func TestOldAddressesLeadOnAndAskForNothingToBeKept(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.source("Photoloft", "loft")
	s.server.Forget(s.page.ID)
	s.ownDomain(ownHost)
	for path, leads := range map[string]string{
		"/quarrow-clay":                        "https://links.quarrow.example/quarrow-clay",
		"/quarrow-clay/loft?utm_source=letter": "https://links.quarrow.example/quarrow-clay/loft?utm_source=letter",
		"/Quarrow-Clay":                        "https://links.quarrow.example/quarrow-clay",
	} {
		got := s.get(path)
		assert.Equal(t, http.StatusPermanentRedirect, got.Code, path)
		assert.Equal(t, leads, got.Header().Get("Location"))
		assert.Equal(t, "no-store", got.Header().Get("Cache-Control"), "the host may be lost tomorrow")
	}
	press := s.get("/quarrow-clay/-/1/dates")
	assert.Equal(t, "https://kiln.example/dates", press.Header().Get("Location"), "a tab that was open before is pressed on as before")
	assert.Len(t, s.events(), 1, "which counts; a visit counts where it arrives")
}

func TestInTheLeastDoubtOldAddressesStandForThemselves(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	one := s.ownDomain(ownHost)
	one.Standing = one.After(domain.DNSFound{Proof: domain.Yes, Points: domain.Unknown}, s.now)
	s.keepDomain(one)
	assert.Equal(t, http.StatusOK, s.get("/quarrow-clay").Code)
	assert.Equal(t, http.StatusOK, s.get("/", under(ownHost)).Code, "whoever comes there is served")
	one.Standing = one.After(domain.DNSFound{Proof: domain.Yes, Points: domain.Yes}, s.now)
	s.keepDomain(one)
	assert.Equal(t, http.StatusPermanentRedirect, s.get("/quarrow-clay").Code)
	s.now = s.now.AddDate(0, 0, 91)
	assert.Equal(t, http.StatusOK, s.get("/quarrow-clay").Code, "nor to a host whose certificate ran out")
}

func TestUnderAHostNothingOfOthersIsThere(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	other, err := s.store.CreateAccount(t.Context(), store.NewAccount{Email: "jo@other.example", PageAddress: "other-page", Zone: "UTC"}, now)
	require.NoError(t, err)
	s.ownDomainOf(other, nil, "other.example")
	for _, path := range []string{"/quarrow-clay", "/quarrow-clay/-/1/dates", "/", "/-/figures/none", "/-/preview/none", "/-/sign-up/none"} {
		assert.Equal(t, http.StatusNotFound, s.get(path, under("other.example")).Code, path)
	}
	assert.Equal(t, http.StatusMisdirectedRequest, s.get("/quarrow-clay", under("whatever.example")).Code, "nobody here has that host")
	assert.Equal(t, http.StatusNotFound, s.get("/").Code, "where nothing stands at the host itself")
}

func TestWhoComesToAHostWithoutTLSComesAgainWithIt(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.ownDomain(ownHost)
	plain := func(r *http.Request) { r.Host = ownHost }
	got := s.get("/quarrow-clay?a=b", plain)
	assert.Equal(t, http.StatusPermanentRedirect, got.Code)
	assert.Equal(t, "https://links.quarrow.example/quarrow-clay?a=b", got.Header().Get("Location"))
	byProxy := func(r *http.Request) { r.RemoteAddr = "10.1.2.3:4000"; r.Header.Set("X-Forwarded-Proto", "https") }
	assert.Equal(t, http.StatusOK, s.get("/", plain, byProxy).Code, "a trusted proxy has done it")
	stranger := func(r *http.Request) { r.Header.Set("X-Forwarded-Proto", "https") }
	assert.Equal(t, http.StatusPermanentRedirect, s.get("/", plain, stranger).Code)
}

func TestShortLinksFollowAndSecondHostsLeadToTheFirst(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	_, err := s.store.AddShortLink(t.Context(), s.member.WorkspaceID, store.NewShortLink{
		Address: "fair", Link: shortlink.Link{Destination: "https://fair.example/", Redirect: http.StatusFound, On: true},
	}, s.now)
	require.NoError(t, err)
	s.ownDomain(ownHost)
	s.ownDomain("www.quarrow.example")
	for _, host := range []string{ownHost, "www.quarrow.example", "pages.example"} {
		assert.Equal(t, "https://fair.example/", s.get("/fair", under(host)).Header().Get("Location"), host)
	}
	assert.Equal(t, "https://links.quarrow.example/quarrow-clay", s.get("/", under("www.quarrow.example")).Header().Get("Location"))
}

func TestAMembersBrowserIsMarkedWhereThePageStands(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.ownDomain(ownHost)
	own := &http.Cookie{Name: ownmark.Cookie, Value: ownmark.Make([]byte("key"), s.member.WorkspaceID, s.now.Add(time.Hour))}
	led := s.get("/quarrow-clay", func(r *http.Request) { r.AddCookie(own) })
	assert.Equal(t, http.StatusSeeOther, led.Code)
	leads, err := url.Parse(led.Header().Get("Location"))
	require.NoError(t, err)
	assert.Equal(t, ownHost, leads.Host)
	marked := s.get(leads.RequestURI(), under(ownHost))
	assert.Equal(t, "/quarrow-clay", marked.Header().Get("Location"))
	require.Len(t, marked.Result().Cookies(), 1)
	cookie := marked.Result().Cookies()[0]
	assert.True(t, cookie.Secure)
	assert.Empty(t, cookie.Domain, "for this host alone")
	s.get("/quarrow-clay", under(ownHost), func(r *http.Request) { r.AddCookie(cookie) })
	events := s.events()
	require.Len(t, events, 1)
	assert.NotZero(t, events[0].Flags&traffic.Own, "and what they look at is not counted")
}

func TestComingFromOnesOwnHostSaysNothingFromThenOn(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	from := func(r *http.Request) { r.Header.Set("Referer", "https://"+ownHost+"/") }
	s.get("/quarrow-clay", from)
	s.now = s.now.Add(10 * time.Minute)
	one := s.ownDomain(ownHost)
	s.get("/quarrow-clay", from, under(ownHost))
	require.NoError(t, s.store.RemoveDomain(t.Context(), s.member.WorkspaceID, one.ID, s.now.Add(time.Minute)))
	s.server.HostsChanged(s.member.WorkspaceID)
	s.get("/quarrow-clay", from)
	s.now = s.now.Add(10 * time.Minute)
	s.get("/quarrow-clay", from)
	var sources []string
	for _, event := range s.events() {
		sources = append(sources, event.Source)
	}
	assert.Equal(t, []string{"host:quarrow.example", "", "", "host:quarrow.example"}, sources)
	did, err := rollup.Recount(t.Context(), s.store, s.agents, nil, []string{"pages.example", "studio.example"}, func(int, int) {})
	require.NoError(t, err)
	assert.Zero(t, did.Changed, "and to count it all anew changes nothing")
}

func TestTrackingCodesRunOnAHostOfItsOwn(t *testing.T) {
	s := open(t)
	s.server.TrackingCodes = false
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.Codes = []page.TrackingCode{{
		Key: "stats1", Name: "Kiln statistics", On: true, Code: `<script src="https://stats.example/count.js"></script>`,
		Hosts: []string{"stats.example"}, Where: "head",
	}}
	s.publishDocument(doc)
	assert.NotContains(t, s.get("/quarrow-clay").Body.String(), "stats.example", "not on the host that all share")
	one := s.ownDomain(ownHost)
	assert.Contains(t, s.get("/quarrow-clay", under(ownHost)).Body.String(), "stats.example")
	one.Doubts = 1
	s.keepDomain(one)
	assert.NotContains(t, s.get("/quarrow-clay").Body.String(), "stats.example", "what was drawn for one host is not shown on another")
}

func TestASitemapNamesWhatMayBeFound(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.Translations = []page.Translation{{Language: "de"}}
	s.publishDocument(doc)
	_, err := s.store.CreatePage(t.Context(), s.member.WorkspaceID, "never-published", page.New(), s.now)
	require.NoError(t, err)
	hidden, err := s.store.CreatePage(t.Context(), s.member.WorkspaceID, "not-to-be-found", page.New(), s.now)
	require.NoError(t, err)
	unlisted := document(nil)
	unlisted.Sharing.Unlisted = true
	saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, hidden.ID, hidden.Revision, unlisted)
	require.NoError(t, err)
	_, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, hidden.ID, store.Publishing{Revision: saved.Revision}, s.now)
	require.NoError(t, err)
	s.ownDomain(ownHost)

	assert.Equal(t, http.StatusNotFound, s.get("/sitemap.xml").Code, "the host that all share hands nobody out")
	assert.NotContains(t, s.get("/robots.txt").Body.String(), "Sitemap")
	assert.Contains(t, s.get("/robots.txt", under(ownHost)).Body.String(), "Sitemap: https://links.quarrow.example/sitemap.xml\n")
	got := s.get("/sitemap.xml", under(ownHost))
	require.Equal(t, http.StatusOK, got.Code)
	// Source: sitemaps.org, protocol 0.9; alternates as the search engines' common practice has them.
	var set struct {
		XMLName xml.Name `xml:"http://www.sitemaps.org/schemas/sitemap/0.9 urlset"`
		URLs    []struct {
			Location string `xml:"loc"`
			Changed  string `xml:"lastmod"`
			Links    []struct {
				Rel      string `xml:"rel,attr"`
				Language string `xml:"hreflang,attr"`
				Href     string `xml:"href,attr"`
			} `xml:"http://www.w3.org/1999/xhtml link"`
		} `xml:"url"`
	}
	require.NoError(t, xml.Unmarshal(got.Body.Bytes(), &set))
	require.Len(t, set.URLs, 2, "one for each language of the one page: %s", got.Body)
	assert.Equal(t, "https://links.quarrow.example/", set.URLs[0].Location)
	assert.Equal(t, "https://links.quarrow.example/?lang=de", set.URLs[1].Location)
	assert.Equal(t, set.URLs[0].Links, set.URLs[1].Links, "each names all")
	_, err = time.Parse(time.RFC3339, set.URLs[0].Changed)
	assert.NoError(t, err)
}

func TestMadeUpHostsCostTheDatabaseNothing(t *testing.T) {
	s := open(t)
	s.ownDomain(ownHost)
	s.store.Close() // whatever asks it fails
	for _, host := range []string{"", ":", "[::1]:80", strings.Repeat("a", 300), "LINKS.quarrow.example.:443", "\x00"} {
		r := httptest.NewRequest(http.MethodGet, "/robots.txt", nil)
		r.Host, r.TLS = host, &tls.ConnectionState{}
		w := httptest.NewRecorder()
		s.server.ServeHTTP(w, r)
		want := http.StatusMisdirectedRequest
		if strings.HasPrefix(host, "LINKS") {
			want = http.StatusOK
		}
		assert.Equal(t, want, w.Code, host)
		assert.Equal(t, want == http.StatusOK, strings.Contains(w.Body.String(), "Sitemap"), host)
	}
}

func TestUnderAHostThatNobodyHereHasNothingIsAnswered(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	for _, host := range []string{"evil.example", "pages.example.evil.example", "192.0.2.1", "localhost:8090", "[::1]:80", ""} {
		for _, path := range []string{"/quarrow-clay", "/", "/robots.txt", "/media/x.png", "/-/own/x"} {
			answer := s.get(path, func(r *http.Request) { r.Host = host })
			assert.Equal(t, http.StatusMisdirectedRequest, answer.Code, "%s under %q", path, host)
			assert.NotContains(t, answer.Body.String(), "Quarrow")
		}
	}
	for _, host := range []string{"pages.example", "PAGES.example:8090", "pages.example."} {
		assert.Equal(t, http.StatusOK, s.get("/quarrow-clay", func(r *http.Request) { r.Host = host }).Code, host)
	}
	one := s.ownDomain(ownHost)
	assert.Equal(t, http.StatusOK, s.get("/", under(ownHost)).Code)
	require.NoError(t, s.store.RemoveDomain(t.Context(), s.member.WorkspaceID, one.ID, s.now))
	s.server.HostsChanged(s.member.WorkspaceID)
	assert.Equal(t, http.StatusMisdirectedRequest, s.get("/", under(ownHost)).Code, "a host that was removed")
	assert.False(t, s.server.HasCertificate(ownHost), "no handshake is answered for it either")
}

func TestUnderAHostOfItsOwnAWorkspaceHasNothingOfOthers(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	other, err := s.store.CreateAccount(t.Context(), store.NewAccount{Email: "rolf@kiln.example", PageAddress: "rolfs-kiln", Zone: "UTC"}, now)
	require.NoError(t, err)
	theirs, err := s.files.KeepUpload(t.Context(), other.WorkspaceID, strings.NewReader("recipes"), ".bin")
	require.NoError(t, err)
	ours, err := s.files.KeepUpload(t.Context(), s.member.WorkspaceID, strings.NewReader("dates"), ".bin")
	require.NoError(t, err)
	s.ownDomain(ownHost)
	assert.Equal(t, http.StatusOK, s.get("/files/"+ours.Name+"/dates.pdf", under(ownHost)).Code)
	assert.Equal(t, http.StatusNotFound, s.get("/files/"+theirs.Name+"/recipes.pdf", under(ownHost)).Code)
	assert.Equal(t, http.StatusOK, s.get("/files/"+theirs.Name+"/recipes.pdf").Code, "under the host that all share they are")

	s.ownDomainOf(other, nil, "links.kiln.example")
	assert.Equal(t, http.StatusNotFound, s.get("/-/sharing/quarrow-clay/1.png", under("links.kiln.example")).Code)
	assert.Equal(t, http.StatusOK, s.get("/-/sharing/quarrow-clay/1.png", under(ownHost)).Code)
}

func TestAFileIsSavedUnderTheNameItsCreatorGaveItAndNoOther(t *testing.T) {
	s := open(t)
	kept, err := s.files.KeepUpload(t.Context(), s.member.WorkspaceID, strings.NewReader("recipes"), ".bin")
	require.NoError(t, err)
	s.publish(page.Block{Key: "file01", Kind: "file", Shown: true, File: &page.File{Title: "Recipes", Media: kept.Name, Name: "glaze recipes.pdf"}})
	led := s.get("/quarrow-clay/-/1/file01")
	require.Equal(t, http.StatusFound, led.Code)
	answer := s.get(led.Header().Get("Location"))
	assert.Equal(t, http.StatusOK, answer.Code)
	assert.Contains(t, answer.Header().Get("Content-Disposition"), "glaze recipes.pdf")

	key := led.Header().Get("Location")[strings.Index(led.Header().Get("Location"), "?"):]
	for _, path := range []string{"/files/" + kept.Name + "/unlock-your-account.exe", "/files/" + kept.Name + "/unlock-your-account.exe" + key} {
		forged := s.get(path)
		assert.Equal(t, http.StatusOK, forged.Code)
		assert.NotContains(t, forged.Header().Get("Content-Disposition"), "exe", path)
	}
}

func TestAnAddressWithTwoSlashesLeadsNowhere(t *testing.T) {
	s := open(t)
	s.publish(signUp(""))
	s.ownDomain(ownHost)
	for _, method := range []string{http.MethodGet, http.MethodPost} {
		for _, path := range []string{"//evil.example", "//evil.example/", "//evil.example/-/1/letter01", "///evil.example"} {
			request := httptest.NewRequest(method, "https://"+ownHost+"/x", strings.NewReader("passcode=x&address=rolf@kiln.example"))
			request.URL.Path, request.RequestURI = path, path
			request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
			answer := s.serve(request)
			assert.Equal(t, http.StatusNotFound, answer.Code, "%s %s", method, path)
			assert.Empty(t, answer.Header().Get("Location"), "%s %s", method, path)
		}
	}
}
