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
		title, _ := readHead(t.Context(), strings.NewReader(markup), from)
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
	title, _ := readHead(ctx, strings.NewReader("<title>Kiln</title>"), &url.URL{})
	assert.Empty(t, title)
}

func FuzzReadHead(f *testing.F) {
	f.Add(`<title>x</title><meta property="og:image" content="//[::1]:x/">`)
	from, _ := url.Parse("https://kiln.example/")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			title, _ := readHead(t.Context(), strings.NewReader(text), from)
			if strings.ContainsAny(title, "\n\t") {
				t.Fatalf("%q", title)
			}
		})
	})
}
