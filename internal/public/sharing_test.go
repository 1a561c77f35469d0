package public_test

import (
	"image/png"
	"net/http"
	"net/http/httptest"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/temoto/robotstxt"
)

func TestThePictureOfAPostIsDrawnForThePageAsItIsLive(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	const path = "/-/sharing/quarrow-clay/1.png"
	require.Contains(t, s.get("/quarrow-clay").Body.String(), `content="https://pages.example`+path+`"`)
	answers := make([]*httptest.ResponseRecorder, 8)
	var group sync.WaitGroup
	for i := range answers {
		group.Go(func() { answers[i] = s.get(path) })
	}
	group.Wait()
	for _, answer := range answers {
		require.Equal(t, http.StatusOK, answer.Code)
		assert.Equal(t, answers[0].Body.Bytes(), answer.Body.Bytes())
	}
	assert.Equal(t, "public, max-age=3600", answers[0].Header().Get("Cache-Control"))
	picture, err := png.Decode(answers[0].Body)
	require.NoError(t, err)
	assert.Equal(t, "(1200,630)", picture.Bounds().Max.String())
	again := s.get(path, func(r *http.Request) { r.Header.Set("If-None-Match", answers[0].Header().Get("ETag")) })
	assert.Equal(t, http.StatusNotModified, again.Code)
	assert.Equal(t, http.StatusNotFound, s.get("/-/sharing/nobody-here/1.png").Code)
	assert.Len(t, s.events(), 1, "to fetch it is no visit")
}

// Read by a library for RFC 9309, where the longest rule that fits holds.
func TestCrawlersMayFetchPagesAndPicturesOfPostsAndPressNothing(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"))
	rules, err := robotstxt.FromString(s.get("/robots.txt").Body.String())
	require.NoError(t, err)
	for path, allowed := range map[string]bool{
		"/quarrow-clay": true, "/quarrow-clay/card": true, "/-/sharing/quarrow-clay/1.png": true, "/media/x.png": true,
		"/quarrow-clay/-/1/dates": false, "/-/figures/secret": false, "/-/sign-up/secret": false,
	} {
		assert.Equal(t, allowed, rules.TestAgent(path, "Examplebot"), path)
	}
}

func TestAPageThatIsNotListedSaysSoInItsHeaderToo(t *testing.T) {
	s := open(t)
	doc := document(nil)
	s.publishDocument(doc)
	assert.Empty(t, s.get("/quarrow-clay").Header().Get("X-Robots-Tag"))
	doc.Sharing.Unlisted = true
	s.publishDocument(doc)
	assert.Equal(t, "noindex", s.get("/quarrow-clay").Header().Get("X-Robots-Tag"))
}
