package outbound

import (
	"bytes"
	"mime"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/pquerna/cachecontrol/cacheobject"
)

// Answer is what an address answered with.
type Answer struct {
	Status int
	Header http.Header
	Body   []byte
	// From is the address that was read in the end, after redirects.
	From *url.URL
}

// IsOK tells whether there is what was asked for.
func (a Answer) IsOK() bool { return a.Status == http.StatusOK }

// IsUnchanged tells whether it is as it was, where that was asked (RFC 9110 s15.4.5).
func (a Answer) IsUnchanged() bool { return a.Status == http.StatusNotModified }

// IsGone tells whether there will be nothing any more (RFC 9110 s15.5.11).
func (a Answer) IsGone() bool { return a.Status == http.StatusGone }

// IsPage tells whether it is a page of the web, by what it is declared to be. A feed that
// is declared to be one is none.
func (a Answer) IsPage() bool {
	kind, _, _ := mime.ParseMediaType(a.Header.Get("Content-Type"))
	return (kind == "text/html" || kind == "application/xhtml+xml") && !bytes.HasPrefix(bytes.TrimSpace(a.Body), []byte("<?xml"))
}

// maxValidator is the longest field that is kept to be sent back, in bytes.
const maxValidator = 300

// Validators are the fields by which it is told from another (RFC 9110 s8.8), to be sent
// back as they came; empty where there are none, or they are longer than any.
func (a Answer) Validators() (etag, modified string) {
	if etag = a.Header.Get("ETag"); len(etag) > maxValidator {
		etag = ""
	}
	if modified = a.Header.Get("Last-Modified"); len(modified) > maxValidator {
		modified = ""
	}
	return etag, modified
}

// FreshFor is for how long it is good (RFC 9111 s5.2.2.1); 0 where nothing is said.
func (a Answer) FreshFor() time.Duration {
	said, err := cacheobject.ParseResponseCacheControl(a.Header.Get("Cache-Control"))
	if err != nil || said.MaxAge < 0 {
		return 0
	}
	return time.Duration(said.MaxAge) * time.Second
}

// RetryAfter is after how long one may ask again (RFC 9110 s10.2.3); 0 where nothing is
// said, and at most some days.
func (a Answer) RetryAfter(now time.Time) time.Duration {
	text := strings.TrimSpace(a.Header.Get("Retry-After"))
	if seconds, err := strconv.Atoi(text); err == nil && seconds > 0 {
		return time.Duration(min(seconds, 1<<20)) * time.Second
	}
	if at, err := http.ParseTime(text); err == nil {
		return max(0, at.Sub(now))
	}
	return 0
}
