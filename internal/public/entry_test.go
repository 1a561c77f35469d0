package public_test

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/core/booking"
	"jundle/internal/core/contact"
	"jundle/internal/core/geo"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// walker goes to every address that a page writes for its visitor, and sends every form.
type walker struct {
	*site
	lang, accepts string
	seen          map[string]bool
	waiting       []step
	// titles are the headings of all it saw.
	titles []string
}

// step is something that the walker is to ask for.
type step struct {
	method  string
	address *url.URL
	form    url.Values
}

// from walks from an address until there is nothing new.
func (w *walker) from(address *url.URL) {
	w.t.Helper()
	w.later(http.MethodGet, address, nil)
	for len(w.waiting) > 0 {
		next := w.waiting[0]
		w.waiting = w.waiting[1:]
		w.open(next.method, next.address, next.form)
	}
}

func (w *walker) later(method string, address *url.URL, form url.Values) {
	w.waiting = append(w.waiting, step{method, address, form})
}

// isOther tells whether an address is one of a file or of another site, or chooses another language on purpose.
func isOther(address *url.URL, link map[string]string) bool {
	for _, prefix := range []string{"/media/", "/fonts/", "/-/sharing/", "/files/"} {
		if strings.HasPrefix(address.Path, prefix) {
			return true
		}
	}
	return link["hreflang"] != "" || address.Host != ownHost
}

// open goes to an address, checks that it kept what it came with, and goes on from there.
func (w *walker) open(method string, address *url.URL, form url.Values) {
	w.t.Helper()
	asks := method + address.String() + form.Encode()
	if w.seen[asks] {
		return
	}
	w.seen[asks] = true
	require.Less(w.t, len(w.seen), 200, "it goes in circles")
	query := address.Query()
	if !strings.HasPrefix(address.Path, "/-/") {
		assert.Equal(w.t, "card", address.Path[strings.LastIndex(address.Path, "/")+1:], "the source of %s", address)
		assert.Equal(w.t, w.lang, query.Get("lang"), "the language of %s", address)
	}
	request := httptest.NewRequest(method, address.RequestURI(), strings.NewReader(form.Encode()))
	under(ownHost)(request)
	request.Header.Set("User-Agent", "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
	request.Header.Set("Accept-Language", w.accepts)
	if form != nil {
		request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	answer := w.serve(request)
	if to := answer.Header().Get("Location"); to != "" {
		next, err := address.Parse(to)
		require.NoError(w.t, err)
		if next.Host != "kiln.example" && next.Host != "checkout.pay.example" {
			assert.Equal(w.t, ownHost, next.Host, "the host of %s", next)
			w.later(http.MethodGet, next, nil)
		}
		return
	}
	if strings.HasPrefix(answer.Header().Get("Content-Type"), "text/html") {
		w.read(address, answer)
	}
}

func (w *walker) read(address *url.URL, answer *httptest.ResponseRecorder) {
	w.t.Helper()
	tree, err := html.Parse(answer.Body)
	require.NoError(w.t, err)
	for node := range tree.Descendants() {
		if node.Type != html.ElementNode {
			continue
		}
		held := map[string]string{}
		for _, each := range node.Attr {
			held[each.Key] = each.Val
		}
		switch node.Data {
		case "html":
			assert.Equal(w.t, w.lang, held["lang"], "what is read at %s", address)
		case "h1":
			w.titles = append(w.titles, node.FirstChild.Data)
		case "a":
			if next, err := address.Parse(held["href"]); err == nil && !isOther(next, held) {
				w.later(http.MethodGet, next, nil)
			}
		case "form":
			w.send(address, node, held)
		}
	}
}

// filled is what the walker writes into fields.
var filled = map[string]string{"address": "rolf@kiln.example", "name": "Rolf", "word": "A bowl", "own": "7"}

// send sends a form with what stands in it: once with nothing more, and once filled in.
func (w *walker) send(address *url.URL, form *html.Node, held map[string]string) {
	next, err := address.Parse(held["action"])
	require.NoError(w.t, err)
	empty, full := url.Values{}, url.Values{}
	var choices []string
	for node := range form.Descendants() {
		field := map[string]string{}
		for _, each := range node.Attr {
			field[each.Key] = each.Val
		}
		switch name := field["name"]; {
		case name == "" || name == "website":
		case node.Data == "button":
			choices = append(choices, field["value"])
		case field["type"] == "hidden":
			empty.Set(name, field["value"])
			full.Set(name, field["value"])
		case full.Get(name) == "":
			full.Set(name, firstOf(filled[name], field["value"], "1"))
		}
	}
	for _, choice := range choices {
		full.Set("do", choice)
	}
	if held["method"] != "post" {
		next.RawQuery = full.Encode()
		w.later(http.MethodGet, next, nil)
		return
	}
	for _, each := range []url.Values{empty, full} {
		w.later(http.MethodPost, next, each)
	}
}

func firstOf(texts ...string) string {
	for _, text := range texts {
		if text != "" {
			return text
		}
	}
	return ""
}

// everyForm is a page with all that answers a visitor with a page of ours.
func everyForm() page.Document {
	notice := &page.Gate{Kind: "notice", Text: "Hot."}
	behind := talk()
	behind.Key, behind.Gate = "talk02", notice
	call := button("call01", "tel:+351210000000")
	call.Button.Title = "Call"
	dates := button("dates01", "https://kiln.example/dates")
	dates.Gate = notice
	doc := document([]page.Block{
		signUp("You may write."), talk(), behind, call, dates,
		{Key: "tip1", Kind: "payment", Shown: true, Payment: &page.Payment{Title: "A tip", Currency: "EUR", Amounts: []int64{300, 500}, Own: true}},
		{Key: "place1", Kind: "place", Shown: true, Place: &page.Venue{Name: "The kiln", Point: &geo.Point{Lat: 38.7, Lon: -9.1}}},
		{Key: "reach1", Kind: "contact", Shown: true, Contact: &page.Contact{Title: "Save", Way: "card", Card: &contact.Card{Name: "Ilse"}}},
	})
	doc.Translations = []page.Translation{{Language: "de", Texts: map[string]string{"header/line": "Im Holzfeuer"}}}
	return doc
}

func TestEveryAddressOfAFormOrNoticeCarriesSourceLanguageAndHost(t *testing.T) {
	for name, c := range map[string]struct{ lang, accepts string }{
		"another language than the page's":        {"de", "en"},
		"the page's own, in a browser of another": {"en", "de"},
	} {
		t.Run(name, func(t *testing.T) {
			s := withTill(t)
			card := s.source("Card", "card")
			s.publishDocument(everyForm())
			s.ownDomain(ownHost)
			s.server.HostsChanged(s.member.WorkspaceID)
			w := &walker{site: s.site, lang: c.lang, accepts: c.accepts, seen: map[string]bool{}}
			start := &url.URL{Scheme: "https", Host: ownHost, Path: "/quarrow-clay/card", RawQuery: "lang=" + c.lang}
			w.from(start)
			require.NotEmpty(t, s.bookings(store.WaitingBookings), "the form for times was sent")
			require.NotEmpty(t, s.signUps())

			told := s.lastTold()
			for _, leads := range []string{"return_url", "cancel_url"} {
				back, err := url.Parse(told[leads].(string))
				require.NoError(t, err)
				assert.Equal(t, ownHost, back.Host, leads)
				w.from(back)
			}
			for _, event := range s.events() {
				assert.Equal(t, card.ID.String(), event.Source, "%s of %s", event.Kind, event.Block)
			}
		})
	}
}

// lastTold is what the payment service was told of a payment.
func (s *till) lastTold() (told map[string]any) {
	s.t.Helper()
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, told = range s.asked {
	}
	require.NotNil(s.t, told)
	return told
}

func TestPagesOfVisitorsStandUnderTheHostOfTheirPage(t *testing.T) {
	s := open(t)
	s.publish(talk())
	path := s.asked(wish(tuesday))
	require.True(t, strings.HasPrefix(path, "/-/booking/"), path)
	s.ownDomain(ownHost)

	led := s.get(path)
	assert.Equal(t, http.StatusSeeOther, led.Code, "a link of an email goes on to the creator's own host")
	assert.Equal(t, "https://"+ownHost+path, led.Header().Get("Location"))
	assert.Equal(t, http.StatusOK, s.get(path, under(ownHost)).Code)

	other, err := s.store.CreateAccount(t.Context(), store.NewAccount{Email: "rolf@kiln.example", PageAddress: "rolfs-kiln", Zone: "UTC"}, now)
	require.NoError(t, err)
	s.ownDomainOf(other, nil, "links.kiln.example")
	assert.Equal(t, http.StatusNotFound, s.get(path, under("links.kiln.example")).Code, "nothing of it under somebody else's")
	s.replies(booking.Agree, "")
	assert.Equal(t, http.StatusNotFound, s.get(path+"/calendar", under("links.kiln.example")).Code)
}

func TestAViewFromAPageOfOurOwnGoesOnWithTheVisitItBelongsTo(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	s.get("/quarrow-clay?utm_source=potters_weekly")
	s.now = s.now.Add(time.Minute)
	s.get("/quarrow-clay", func(r *http.Request) { r.Header.Set("Referer", "https://pages.example/") })
	events := s.events()
	traffic.JoinVisits(events)
	visits := traffic.Visits(events)
	require.Len(t, visits, 1, "one visit, though nothing in the address said so")
	assert.Equal(t, "campaign:potters_weekly", visits[0].Source)
	assert.Equal(t, 2, visits[0].Views)
}
