package outbound

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestAnAnswerSaysHowLongItIsGoodAndWhenToAskAgain(t *testing.T) {
	// The date is the example of RFC 9110 s10.2.3.
	now := time.Date(1999, 12, 31, 23, 0, 0, 0, time.UTC)
	with := func(name, value string) Answer { return Answer{Header: http.Header{name: {value}}} }
	for value, want := range map[string]time.Duration{
		"Fri, 31 Dec 1999 23:59:59 GMT": 59*time.Minute + 59*time.Second, "120": 2 * time.Minute, "-5": 0, "soon": 0, "": 0,
		"Fri, 31 Dec 1998 23:59:59 GMT": 0, "99999999": 1 << 20 * time.Second,
	} {
		assert.Equal(t, want, with("Retry-After", value).RetryAfter(now), value)
	}
	for value, want := range map[string]time.Duration{
		"max-age=600": 10 * time.Minute, "private, max-age=600": 10 * time.Minute, "no-store": 0, "max-age=x": 0, "": 0,
	} {
		assert.Equal(t, want, with("Cache-Control", value).FreshFor(), value)
	}
	etag, _ := with("Etag", strings.Repeat("x", 400)).Validators()
	assert.Empty(t, etag, "nobody has us keep long fields")
}
