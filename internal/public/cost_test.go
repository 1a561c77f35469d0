package public_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/payment"
	"jundle/internal/core/shortlink"
	"jundle/internal/costs"
)

// What a request without an account may cost: the processor's time and the memory it takes, whatever page the
// limits allow.
var publicBound = costs.Bound{Milliseconds: 100, Megabytes: 50}

// visitorsAtOnce is how many ask for the same at once: as many as a browser has connections, of a few browsers.
const visitorsAtOnce = 20

// askedFor are requests that anybody can make, by what they are called, and the routes that they came to.
type askedFor struct {
	*till
	all    map[string]func()
	routes *gin.Engine
	came   map[string]bool
}

func askingOf(s *till) *askedFor {
	a := &askedFor{till: s, all: map[string]func(){}, routes: gin.New(), came: map[string]bool{}}
	for _, route := range s.server.Routes() {
		a.routes.Handle(route.Method, route.Path, func(c *gin.Context) { a.came[route.Method+" "+route.Path] = true })
	}
	return a
}

// add adds a request, which is made as by whoever comes first after a change of the page.
func (a *askedFor) add(name string, make func() *http.Request) {
	request := make()
	a.routes.ServeHTTP(httptest.NewRecorder(), make())
	a.all[request.Method+" "+request.URL.String()+" "+name] = func() {
		a.server.Forget(a.page.ID)
		request := make()
		request.Header.Set("User-Agent", phone)
		answer := a.serve(request)
		assert.Less(a.t, answer.Code, 500, "%s %s", request.URL, answer.Body)
	}
}

func (a *askedFor) get(paths ...string) {
	for _, path := range paths {
		a.add("", func() *http.Request { return httptest.NewRequest(http.MethodGet, path, nil) })
	}
}

// post sends forms, as whoever fills them in does, and one that is as long as may be sent.
func (a *askedFor) post(path string, forms ...url.Values) {
	long := url.Values{"passcode": {strings.Repeat("x", 100)}, "word": {strings.Repeat("<é&", 1300)}, "name": {strings.Repeat("x", 100)}}
	for i, form := range append(forms, long) {
		a.add(fmt.Sprint(i), func() *http.Request {
			request := httptest.NewRequest(http.MethodPost, path, strings.NewReader(form.Encode()))
			request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
			return request
		})
	}
}

// hold holds all to the bound, one after the other and many at once.
func (a *askedFor) hold() {
	a.t.Helper()
	costs.Hold(a.t, publicBound, a.all)
	costs.HoldAtOnce(a.t, visitorsAtOnce, publicBound, a.all)
	clear(a.all)
}

// costliestWithForms is the page that costs most, with every kind of form on it.
func costliestWithForms(t *testing.T) page.Document {
	t.Helper()
	doc, err := page.Tidy(pagetest.Costliest())
	require.NoError(t, err)
	doc.Blocks = append(doc.Blocks[3:], signUp("You may write."), page.Block{Key: "tip1", Kind: "payment", Shown: true, Payment: &page.Payment{
		Title: "A tip", Currency: "EUR", Amounts: []int64{300, 500}, Own: true, Word: true,
	}}, talk(func(b *page.Booking) { b.Minutes, b.Ahead = 15, 365 }))
	return doc
}

func TestNoRequestOfAVisitorCostsMoreThanItMay(t *testing.T) {
	if testing.Short() {
		t.Skip("it measures")
	}
	s := withTill(t)
	s.source("Card", "card")
	s.publishDocument(costliestWithForms(t))
	_, err := s.store.ShareFigures(t.Context(), s.member.WorkspaceID, s.page.ID, "The gallery", "shared", now.AddDate(0, 0, 30), now)
	require.NoError(t, err)
	require.NoError(t, s.store.PreviewPage(t.Context(), s.member.WorkspaceID, s.page.ID, "secret", now.Add(time.Hour), now))
	s.shorten("film", shortlink.Link{Destination: "https://film.example/", On: true, Redirect: 302})
	file := strings.Repeat("9", 64)
	s.keep(file+".bin", strings.Repeat("x", 1<<20))

	press := fmt.Sprintf("/quarrow-clay/-/%d/", s.page.LiveEdition)
	asked := s.send(press+"talk01", "192.0.2.7", wish(tuesday))
	require.Equal(t, http.StatusSeeOther, asked.Code, asked.Body)
	booked := strings.TrimPrefix(asked.Header().Get("Location"), "https://pages.example")
	require.Equal(t, http.StatusSeeOther, s.send(press+"letter01", "192.0.2.7", left("rolf@kiln.example")).Code)
	signedUp := mailing.SignUpPath + mailing.SignUpToken([]byte("letter key"), s.signUps()[0].ID)
	paying, paid := s.beginAt(press + "tip1")

	a := askingOf(s)
	a.get("/", "/quarrow-clay", "/quarrow-clay/", "/quarrow-clay/card", "/quarrow-clay/card/", "/quarrow-clay?lang=de",
		"/quarrow-clay/card?lang=fr", "/quarrow-clay/unknown", "/quarrow-clay?find=glazes", "/quarrow-clay?find=zzz&lang=pl",
		"/quarrow-clay/card?find="+strings.Repeat("a+", 100),
		"/nobody", "/film", "/film/", "/robots.txt", "/sitemap.xml", "/favicon.ico", "/fonts/none.woff2", "/media/"+file+".bin",
		"/files/"+file+".bin/glazes.pdf", "/-/own/"+strings.Repeat("A", 200))
	a.get(press+"text0050.1", press+"text0050.1/", press+"text0050.1/card", press+"text0050.1/card/", press+"letter01",
		press+"letter01?lang=it",
		press+"tip1", press+"talk01", press+"talk01?after=2027-05-01", press+"talk01/card?lang=de")
	a.get(fmt.Sprintf("/-/sharing/quarrow-clay/%d.png", s.page.LiveEdition), "/-/figures/shared", "/-/figures/shared?range=90d",
		"/-/preview/secret", "/-/preview/secret?lang=de&at=2026-12-24T00:00:00Z", paid, booked, booked+"/calendar", signedUp,
		"/-/paid/"+strings.Repeat("A", 200), "/-/booking/"+strings.Repeat("A", 200), "/-/sign-up/"+strings.Repeat("A", 200))
	for _, path := range []string{"/", "/quarrow-clay", "/quarrow-clay/", "/quarrow-clay/card", "/quarrow-clay/card/"} {
		a.post(path)
	}
	for _, tag := range []string{"", "/", "/card", "/card/"} {
		a.post(press+"letter01"+tag, left("rolf@kiln.example"))
		a.post(press+"tip1"+tag, url.Values{"amount": {"500"}})
		a.post(press+"talk01"+tag, wish(tuesday))
	}
	a.post(booked, url.Values{"do": {"none"}})
	a.post(signedUp, url.Values{"do": {"none"}})
	a.add("", func() *http.Request { return s.notice(tillSecret, time.Now(), payment.Paid, paying, 500) })
	for _, route := range s.server.Routes() {
		if route.Method != http.MethodHead {
			assert.True(t, a.came[route.Method+" "+route.Path], "%s %s is not measured", route.Method, route.Path)
		}
	}
	a.hold()

	// The same behind a passcode, which is what a digest of a passcode costs.
	doc := costliestWithForms(t)
	doc.Gate = &page.Gate{Kind: "passcode", PasscodeID: s.passcode("raku")}
	s.publishDocument(doc)
	a.get("/quarrow-clay", "/quarrow-clay/card?lang=de", fmt.Sprintf("/quarrow-clay/-/%d/text0050.1", s.page.LiveEdition))
	a.post("/quarrow-clay", url.Values{"passcode": {"raku"}}, url.Values{"passcode": {"wrong"}})
	a.hold()
}

func TestDrawingEveryTagInEveryLanguageLeavesAProcessorToOthers(t *testing.T) {
	s := open(t)
	doc, err := page.Tidy(pagetest.Costliest())
	require.NoError(t, err)
	tags := []string{""}
	for i := range 8 {
		tags = append(tags, s.source(fmt.Sprint("Source ", i), fmt.Sprint("source-", i)).Tags[0].Tag)
	}
	s.publishDocument(doc)
	var visitors sync.WaitGroup
	for _, tag := range tags {
		for _, lang := range []string{"en", "de", "fr"} {
			visitors.Go(func() {
				path := strings.TrimSuffix("/quarrow-clay/"+tag, "/") + "?lang=" + lang
				answer := s.get(path)
				assert.Equal(t, http.StatusOK, answer.Code, path)
				want := "/text0050.1?"
				if tag != "" {
					want = "/text0050.1/" + tag + "?"
				}
				assert.Contains(t, answer.Body.String(), want+"lang="+lang, path)
				assert.Equal(t, tag != "", strings.Contains(answer.Body.String(), "/"+firstOf(tag, "source-")), path)
			})
		}
	}
	visitors.Wait()
}
