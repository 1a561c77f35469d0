package public_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/shortlink"
)

func TestWhatIsNotAskedAsVisitorsAskIsRefused(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	by := func(method string) func(*http.Request) { return func(r *http.Request) { r.Method = method } }
	for _, c := range []struct {
		method, path string
		status       int
	}{
		{"POST", "/quarrow-clay", 405},
		{"DELETE", "/quarrow-clay/card", 405},
		{"PUT", "/quarrow-clay/-/1/aaaa", 405},
		{"POST", "/quarrow-clay/-/1/aaaa", 404},
		{"GET", "/media/", 404},
		{"GET", "/quarrow-clay/a/b/c/d/e", 404},
		{"GET", "/quarrow-clay/-/one/aaaa", 404},
		{"GET", "/quarrow-clay/x/1/aaaa", 404},
		{"GET", "/%00", 404},
		{"GET", "/-", 404},
		{"GET", "/robots.txt", 200},
	} {
		answer := s.get(c.path, by(c.method))
		assert.Equal(t, c.status, answer.Code, c.method+" "+c.path)
		assert.Equal(t, "nosniff", answer.Header().Get("X-Content-Type-Options"), c.path)
		assert.NotEmpty(t, answer.Header().Get("Content-Security-Policy"), c.path)
	}
	// An address of a page may have been taken before such a word was reserved.
	s.shorten("fonts", shortlink.New("https://kiln.example/"))
	assert.Equal(t, http.StatusFound, s.get("/fonts").Code)
	assert.Equal(t, http.StatusNotFound, s.get("/fonts/none.woff2").Code)
	assert.Empty(t, s.events(), "and none of it is counted")

	s.shorten("spring", shortlink.New("https://kiln.example/"))
	for path, status := range map[string]int{"/quarrow-clay/": 200, "/quarrow-clay/card/": 200, "/spring/": 302} {
		assert.Equal(t, status, s.get(path).Code, "a slash at the end changes nothing: %s", path)
	}
}
