package public_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/traffic"
	"jundle/internal/core/window"
	"jundle/internal/ownmark"
	"jundle/internal/store"
)

// shorten makes a short link of the site's workspace.
func (s *site) shorten(address string, link shortlink.Link) store.ShortLink {
	s.t.Helper()
	link, err := link.Tidy()
	require.NoError(s.t, err)
	made, err := s.store.AddShortLink(s.t.Context(), s.member.WorkspaceID, store.NewShortLink{Address: address, Link: link}, now)
	require.NoError(s.t, err)
	return made
}

// clicks ends the recording and returns what was recorded of a short link.
func (s *site) clicks(id uuid.UUID) []traffic.Event {
	s.t.Helper()
	require.NoError(s.t, s.recorder.Close(s.t.Context()))
	events, err := s.store.Events(s.t.Context(), s.member.WorkspaceID, id, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(s.t, err)
	return events
}

func TestAShortLinkLeadsOnAndIsCounted(t *testing.T) {
	s := open(t)
	link := s.shorten("spring-firing", shortlink.New("https://kiln.example/dates?x=1#now"))
	for _, path := range []string{"/spring-firing", "/Spring-Firing?utm_source=Studio+Letter"} {
		answer := s.get(path)
		assert.Equal(t, http.StatusFound, answer.Code)
		assert.Equal(t, "https://kiln.example/dates?x=1#now", answer.Header().Get("Location"))
		assert.Equal(t, "no-store", answer.Header().Get("Cache-Control"))
		assert.Empty(t, answer.Header().Values("Set-Cookie"))
	}
	s.get("/spring-firing", func(r *http.Request) { r.Header.Set("Referer", "https://pots.claynews.example/today") })
	mark := ownmark.Make([]byte("key"), s.member.WorkspaceID, now.Add(time.Hour))
	s.get("/spring-firing", func(r *http.Request) { r.AddCookie(&http.Cookie{Name: ownmark.Cookie, Value: mark}) })
	assert.Equal(t, http.StatusNotFound, s.get("/spring-firing/card").Code, "a short link has no tags")
	assert.Equal(t, http.StatusNotFound, s.get("/spring-firing/-/1/aaaa").Code)

	events := s.clicks(link.ID)
	sources := map[string]int{}
	own := 0
	for _, event := range events {
		assert.Equal(t, traffic.Click, event.Kind)
		assert.Equal(t, string(shortlink.Destination), event.Block)
		if event.Flags&traffic.Own != 0 {
			own++
			continue
		}
		sources[event.Source]++
	}
	assert.Equal(t, map[string]int{"": 1, "campaign:studio_letter": 1, "host:claynews.example": 1}, sources)
	assert.Equal(t, 1, own)
}

func TestEveryKindOfRedirectIsNeverStored(t *testing.T) {
	s := open(t)
	for _, code := range shortlink.Redirects {
		link := shortlink.New("https://kiln.example/")
		link.Redirect = code
		s.shorten(fmt.Sprint("kind-", code), link)
		answer := s.get(fmt.Sprint("/kind-", code))
		assert.Equal(t, code, answer.Code)
		assert.Equal(t, "no-store", answer.Header().Get("Cache-Control"))
	}
}

func TestALinkThatIsOverLeadsToItsFallbackOrSaysSo(t *testing.T) {
	s := open(t)
	sale := shortlink.New("https://kiln.example/sale")
	sale.Windows = []window.Window{{To: now}}
	over := s.shorten("over", sale)
	sale.Fallback = "https://kiln.example/next"
	replaced := s.shorten("replaced", sale)
	sale.Windows = []window.Window{{From: now.Add(time.Second)}}
	sale.Fallback = ""
	s.shorten("ahead", sale)
	sale.On = false
	s.shorten("switched-off", sale)

	assert.Equal(t, "https://kiln.example/next", s.get("/replaced").Header().Get("Location"))
	for path, says := range map[string]string{"/over": "This is over", "/ahead": "Not yet", "/switched-off": "Nothing behind it now"} {
		answer := s.get(path)
		assert.Equal(t, http.StatusNotFound, answer.Code, path)
		assert.Contains(t, answer.Body.String(), says)
		assert.NotContains(t, answer.Body.String(), "kiln.example", "where it would lead is nobody's business yet")
	}
	_, err := s.store.SaveShortLink(t.Context(), s.member.WorkspaceID, over.ID, 1, shortlink.New("https://kiln.example/again"))
	require.NoError(t, err)
	s.server.Forget(over.ID)
	assert.Equal(t, "https://kiln.example/again", s.get("/over").Header().Get("Location"), "what it leads to may change at any time")

	events := s.clicks(replaced.ID)
	require.Len(t, events, 1)
	assert.Equal(t, string(shortlink.Fallback), events[0].Block)
}

func TestAnAddressOfALinkKeepsLeadingThereAndNobodyElseCanTakeIt(t *testing.T) {
	s := open(t)
	link := s.shorten("spring", shortlink.New("https://kiln.example/"))
	_, err := s.store.ReaddressShortLink(t.Context(), s.member.WorkspaceID, link.ID, "summer", now)
	require.NoError(t, err)
	for _, path := range []string{"/spring", "/summer"} {
		assert.Equal(t, http.StatusFound, s.get(path).Code, path)
	}
	for _, address := range []string{"spring", "summer", "quarrow-clay"} {
		_, err = s.store.AddShortLink(t.Context(), s.member.WorkspaceID, store.NewShortLink{
			Address: address,
			Link:    shortlink.New("https://sale.example/"),
		}, now)
		require.ErrorIs(t, err, store.ErrAddressTaken, address)
		_, err = s.store.CreatePage(t.Context(), s.member.WorkspaceID, address, document(nil), now)
		require.ErrorIs(t, err, store.ErrAddressTaken, address)
	}
	_, err = s.store.ReaddressShortLink(t.Context(), s.member.WorkspaceID, link.ID, "quarrow-clay", now)
	require.ErrorIs(t, err, store.ErrAddressTaken)
	back, err := s.store.ReaddressShortLink(t.Context(), s.member.WorkspaceID, link.ID, "spring", now)
	require.NoError(t, err)
	assert.Equal(t, "spring", back.Address())
	require.Len(t, s.clicks(link.ID), 2)
}

func TestANetworkThatMakesAPreviewIsShownTheLinksOwn(t *testing.T) {
	s := open(t)
	list, err := agents.Load()
	require.NoError(t, err)
	fetcher := func(r *http.Request) { r.Header.Set("User-Agent", list.Sample(traffic.AgentPreview)) }
	s.shorten("plain", shortlink.New("https://kiln.example/"))
	link := shortlink.New("https://kiln.example/")
	link.Preview = shortlink.Preview{Title: `Forty hours of "fire"`, Text: "A film"}
	own := s.shorten("film", link)

	assert.Equal(t, http.StatusFound, s.get("/plain", fetcher).Code, "the destination shows its own")
	answer := s.get("/film", fetcher)
	require.Equal(t, http.StatusOK, answer.Code)
	assert.Contains(t, answer.Body.String(), `<meta property="og:title" content="Forty hours of &#34;fire&#34;">`)
	assert.Contains(t, answer.Body.String(), `<meta property="og:url" content="https://pages.example/film">`)
	assert.NotContains(t, answer.Header().Get("Content-Security-Policy"), "unsafe")
	assert.Equal(t, http.StatusFound, s.get("/film").Code, "people are led on")

	events := s.clicks(own.ID)
	require.Len(t, events, 2)
	assert.Equal(t, traffic.Preview, events[0].Flags|events[1].Flags)
}

func TestFiguresOfAShortLinkAreSharedToo(t *testing.T) {
	s := open(t)
	link := shortlink.New("https://kiln.example/")
	link.Name = "Spring firing"
	made := s.shorten("spring", link)
	s.get("/spring?utm_source=guild")
	s.get("/spring", func(r *http.Request) { r.RemoteAddr = "192.0.2.77:1" })
	_, err := s.store.ShareFigures(t.Context(), s.member.WorkspaceID, made.ID, "The gallery", "token", now.AddDate(0, 0, 1), now)
	require.NoError(t, err)
	s.clicks(made.ID)
	answer := s.get("/-/figures/token")
	require.Equal(t, http.StatusOK, answer.Code)
	for _, part := range []string{"<h1>Spring firing</h1>", "<dt>Clicks</dt><dd>2</dd>", ">guild</th><td>1</td>", ">Untagged</th><td>1</td>"} {
		assert.Contains(t, answer.Body.String(), part)
	}
	assert.NotContains(t, answer.Body.String(), "Click-through")
}
