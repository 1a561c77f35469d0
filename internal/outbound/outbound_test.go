package outbound

import (
	"context"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
)

func TestTargetsThatAreNotOnThePublicInternetAreRefused(t *testing.T) {
	for _, inside := range []string{
		"127.0.0.1", "127.8.8.8", "10.0.0.1", "172.16.0.1", "192.168.1.1", "169.254.169.254", "100.64.0.1",
		"0.0.0.0", "224.0.0.1", "255.255.255.255",
		"198.18.0.1", "192.0.2.1", "::", "::1", "fe80::1", "fc00::1", "fd12::1", "ff02::1", "::ffff:127.0.0.1", "::ffff:10.0.0.1", "fec0::1",
		"::7f00:1", "::0808:0808", "4000::1", "e000::1", "64:ff9b:1::1", "100::1", "5f00::1", "3fff::1",
		"64:ff9b::7f00:1", "2002:7f00:1::", "2001:db8::1",
	} {
		assert.False(t, isPublic(netip.MustParseAddr(inside)), inside)
	}
	for _, outside := range []string{"93.184.215.14", "8.8.4.4", "172.32.0.1", "2606:2800:21f:cb07::1"} {
		assert.True(t, isPublic(netip.MustParseAddr(outside)), outside)
	}
	assert.ErrorIs(t, onlyPublic("tcp", "93.184.215.14:22", nil), ErrForbidden, "no port but the web's")
}

func TestAPrivateTargetIsNotEvenConnectedTo(t *testing.T) {
	asked := false
	inside := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { asked = true }))
	defer inside.Close()
	client := New(Options{})
	for _, address := range []string{inside.URL, strings.Replace(inside.URL, "127.0.0.1", "localhost", 1), "file:///etc/passwd"} {
		_, err := client.Describe(t.Context(), address)
		assert.ErrorIs(t, err, ErrForbidden, address)
	}
	assert.False(t, asked)
}

// madeUpWeb answers for kiln.example, as the stand-ins do in the demo.
func madeUpWeb(t *testing.T, pages map[string]string) *Client {
	t.Helper()
	web := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if to, ok := strings.CutPrefix(pages[r.URL.Path], "redirect "); ok {
			http.Redirect(w, r, to, http.StatusFound)
			return
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write([]byte(pages[r.URL.Path]))
	}))
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	return New(Options{Reroute: func(asked *url.URL) *url.URL {
		if asked.Hostname() != "kiln.example" {
			return nil
		}
		return base.JoinPath(asked.Path)
	}})
}

func TestTheTitleIsWhatThePageSaysOfItself(t *testing.T) {
	client := madeUpWeb(t, map[string]string{
		"/og":     `<title>Plain</title><meta property="og:title" content=" Kiln &amp; fire "><meta property="og:image" content="/pot">`,
		"/pot":    "bytes of a picture",
		"/title":  "<title>\n  Dates \n 2026</title><h1>Heading</h1>",
		"/h1":     "<h1>Only a <em>heading</em></h1>",
		"/broken": `<meta property="og:image" content="http://127.0.0.1/secret"><title>Still titled</title>`,
		"/inside": "redirect http://127.0.0.1/secret",
		"/loop":   "redirect https://kiln.example/loop",
		"/large":  strings.Repeat("x", maxPage+1),
	})
	for path, want := range map[string]string{"og": "Kiln & fire", "title": "Dates 2026", "h1": "Only a heading", "broken": "Still titled"} {
		found, err := client.Describe(t.Context(), "https://kiln.example/"+path)
		require.NoError(t, err, path)
		assert.Equal(t, want, found.Title)
		assert.Equal(t, path == "og", found.Picture != nil, "%s: a picture inside is not fetched", path)
	}
	for path, want := range map[string]error{"inside": ErrForbidden, "large": ErrTooLarge} {
		_, err := client.Describe(t.Context(), "https://kiln.example/"+path)
		assert.ErrorIs(t, err, want, path)
	}
	_, err := client.Describe(t.Context(), "https://kiln.example/loop")
	assert.ErrorContains(t, err, "too many redirects")
}

// Each of these took a parser that builds a tree seconds and a gigabyte.
func TestMarkupThatExplodesIsReadInBoundedTime(t *testing.T) {
	from, err := url.Parse("https://kiln.example/")
	require.NoError(t, err)
	for name, markup := range map[string]string{
		"formats in paragraphs": "<title>Kiln</title><body>" + strings.Repeat("<b><p>", 23_000),
		"tables":                "<title>Kiln</title>" + strings.Repeat("<table><tr><td>", 60_000),
		"attributes":            "<title>Kiln</title><meta " + strings.Repeat("a=b ", 200_000) + ">",
		"one long text":         "<title>Kiln</title>" + strings.Repeat("x", maxPage),
		"a title without end":   "<meta property=og:title content=Kiln><title>" + strings.Repeat("y ", 400_000),
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		begun := time.Now()
		title := readHead(t.Context(), strings.NewReader(markup), from).title
		took := time.Since(begun)
		runtime.ReadMemStats(&after)
		assert.Equal(t, "Kiln", title, name)
		t.Logf("%s, %d kB: %s, %d kB allocated", name, len(markup)>>10, took.Round(100*time.Microsecond),
			(after.TotalAlloc-before.TotalAlloc)>>10)
		assert.Less(t, took, time.Second, name)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(48<<20), name)
	}
}

func TestReadingEndsWhenNobodyWaits(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	assert.Empty(t, readHead(ctx, strings.NewReader("<title>Kiln</title>"), &url.URL{}))
}

func FuzzReadHead(f *testing.F) {
	f.Add(`<title>x</title><meta property="og:image" content="//[::1]:x/">`)
	from, _ := url.Parse("https://kiln.example/")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			title := readHead(t.Context(), strings.NewReader(text), from).title
			if strings.ContainsAny(title, "\n\t") {
				t.Fatalf("%q", title)
			}
		})
	})
}

func TestAPageNamesThePlayerOfItsFilmAndOneOfAnotherSiteIsLeftOut(t *testing.T) {
	const named = `<title>Kiln film</title><link rel="alternate" type="application/json+oembed" href="%s">`
	answer := func(frame string) string {
		return `{"type":"video","title":"Forty hours","provider_name":"Kiln TV","width":640,"height":360,"html":"<iframe src='` + frame + `'>"}`
	}
	client := madeUpWeb(t, map[string]string{
		"/film":      strings.Replace(named, "%s", "/oembed?url=x", 1),
		"/oembed":    answer("https://play.kiln.example/1"),
		"/elsewhere": strings.Replace(named, "%s", "https://evil.example/oembed", 1),
		"/hostile":   strings.Replace(named, "%s", "/hostile-answer", 1), "/hostile-answer": answer("https://evil.example/1"),
		"/large": strings.Replace(named, "%s", "/large-answer", 1), "/large-answer": answer("https://kiln.example/") + strings.Repeat(" ", 1<<20),
		"/silent": strings.Replace(named, "%s", "/nothing", 1),
	})
	found, err := client.Describe(t.Context(), "https://kiln.example/film")
	require.NoError(t, err)
	require.NotNil(t, found.Player)
	assert.Equal(t, "Forty hours", found.Title)
	assert.Equal(t, "https://play.kiln.example/1", found.Player.Frame)
	for _, path := range []string{"elsewhere", "hostile", "large", "silent"} {
		found, err := client.Describe(t.Context(), "https://kiln.example/"+path)
		require.NoError(t, err, path)
		assert.Nil(t, found.Player, path)
		assert.Equal(t, "Kiln film", found.Title, "the title is had all the same")
	}
}
