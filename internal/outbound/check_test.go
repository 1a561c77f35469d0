package outbound

import (
	"context"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/linkcheck"
)

// asked is a site that notes how it was asked.
type asked struct {
	mu      sync.Mutex
	methods []string
}

func (a *asked) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	a.mu.Lock()
	a.methods = append(a.methods, r.Method+" "+r.URL.Path)
	a.mu.Unlock()
	switch path := r.URL.Path; {
	case path == "/no-head" && r.Method == http.MethodHead:
		w.WriteHeader(http.StatusMethodNotAllowed)
	case path == "/gone":
		w.WriteHeader(http.StatusGone)
	case path == "/for-good":
		http.Redirect(w, r, "https://kiln.example/for-good-2", http.StatusMovedPermanently)
	case path == "/for-good-2":
		http.Redirect(w, r, "https://kiln.example/here", http.StatusPermanentRedirect)
	case path == "/for-now":
		http.Redirect(w, r, "https://kiln.example/here", http.StatusFound)
	case path == "/circle":
		http.Redirect(w, r, "https://kiln.example/circle", http.StatusFound)
	case path == "/inside":
		http.Redirect(w, r, "http://127.0.0.1/secret", http.StatusFound)
	case path == "/large" && r.Method == http.MethodGet:
		for range 10_000 {
			if _, err := w.Write([]byte(strings.Repeat("x", 1<<10))); err != nil {
				return
			}
		}
	case path == "/large":
		w.WriteHeader(http.StatusForbidden)
	}
}

func TestAnAddressIsAskedByHeadThenByGetAndItsRedirectsAreCounted(t *testing.T) {
	site := &asked{}
	web := httptest.NewServer(site)
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	client := New(Options{Reroute: func(to *url.URL) *url.URL {
		if to.Hostname() != "kiln.example" {
			return nil
		}
		return base.JoinPath(to.Path)
	}})
	for _, c := range []struct {
		path    string
		want    linkcheck.Result
		methods string
	}{
		{"/here", linkcheck.Result{Method: "HEAD", Status: 200, Arrived: "https://kiln.example/here"}, "HEAD /here"},
		{"/no-head", linkcheck.Result{Method: "GET", Status: 200, Arrived: "https://kiln.example/no-head"}, "HEAD /no-head, GET /no-head"},
		{"/gone", linkcheck.Result{Method: "GET", Status: 410, Arrived: "https://kiln.example/gone"}, "HEAD /gone, GET /gone"},
		{
			"/for-good",
			linkcheck.Result{Method: "HEAD", Status: 200, Arrived: "https://kiln.example/here", Redirects: 2, Permanent: true},
			"HEAD /for-good, HEAD /for-good-2, HEAD /here",
		},
		{
			"/for-now",
			linkcheck.Result{Method: "HEAD", Status: 200, Arrived: "https://kiln.example/here", Redirects: 1},
			"HEAD /for-now, HEAD /here",
		},
		{"/large", linkcheck.Result{Method: "GET", Status: 200, Arrived: "https://kiln.example/large"}, "HEAD /large, GET /large"},
		{"/inside", linkcheck.Result{Method: "HEAD", Failure: linkcheck.Forbidden, Redirects: 1}, "HEAD /inside"},
	} {
		site.methods = nil
		result := client.Check(t.Context(), "https://kiln.example"+c.path, time.Now)
		assert.Equal(t, "https://kiln.example"+c.path, result.Address)
		result.Took, result.At, result.Address = 0, time.Time{}, ""
		assert.Equal(t, c.want, result, c.path)
		assert.Equal(t, c.methods, strings.Join(site.methods, ", "))
	}
	assert.Equal(t, linkcheck.Circle, client.Check(t.Context(), "https://kiln.example/circle", time.Now).Failure)
}

func TestAnAddressThatCannotBeAskedSaysWhy(t *testing.T) {
	secure := httptest.NewTLSServer(http.NotFoundHandler())
	t.Cleanup(secure.Close)
	client := New(Options{})
	client.http.Transport = http.DefaultTransport // the made-up servers are on this machine
	assert.Equal(t, linkcheck.Certificate, client.Check(t.Context(), secure.URL, time.Now).Failure, "signed by nobody known")
	closed := httptest.NewServer(http.NotFoundHandler())
	closed.Close()
	assert.Equal(t, linkcheck.NoAnswer, client.Check(t.Context(), closed.URL, time.Now).Failure)
	ended, end := context.WithCancel(t.Context())
	end()
	assert.Equal(t, linkcheck.NoAnswer, client.Check(ended, closed.URL, time.Now).Failure)

	trusting := New(Options{})
	trusting.http.Transport = secure.Client().Transport
	result := trusting.Check(t.Context(), secure.URL, time.Now)
	assert.Equal(t, 404, result.Status)
	assert.Equal(t, secure.Certificate().NotAfter, result.CertificateUntil)
	assert.Equal(
		t,
		linkcheck.Forbidden,
		New(Options{}).Check(t.Context(), secure.URL, time.Now).Failure,
		"it is not on the public internet",
	)
}
