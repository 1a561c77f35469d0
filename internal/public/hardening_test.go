package public_test

import (
	"bytes"
	"fmt"
	"io"
	"net"
	"net/http"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// listen lets the listener answer on a real socket.
func (s *site) listen() string {
	s.t.Helper()
	socket, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(s.t, err)
	server := &http.Server{Handler: s, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = server.Serve(socket) }()
	s.t.Cleanup(func() { _ = socket.Close() })
	return "http://" + socket.Addr().String()
}

func TestPartsOfFilesAreAnsweredAsTheStandardSays(t *testing.T) {
	s := open(t)
	film, content := strings.Repeat("3", 64)+".mp4", "0123456789"
	s.keep(film, content)
	address := s.listen() + "/media/" + film
	// Source: RFC 9110, section 14.
	for name, c := range map[string]struct {
		headers map[string]string
		status  int
		body    string
		part    string
	}{
		"all":                    {nil, 200, content, ""},
		"a part":                 {map[string]string{"Range": "bytes=2-4"}, 206, "234", "bytes 2-4/10"},
		"from one on":            {map[string]string{"Range": "bytes=7-"}, 206, "789", "bytes 7-9/10"},
		"the last":               {map[string]string{"Range": "bytes=-2"}, 206, "89", "bytes 8-9/10"},
		"beyond the end":         {map[string]string{"Range": "bytes=8-99"}, 206, "89", "bytes 8-9/10"},
		"all as a part":          {map[string]string{"Range": "bytes=0-"}, 206, content, "bytes 0-9/10"},
		"none of it":             {map[string]string{"Range": "bytes=10-12"}, 416, "", "bytes */10"},
		"another unit":           {map[string]string{"Range": "lines=1-2"}, 200, content, ""},
		"several":                {map[string]string{"Range": "bytes=0-1,4-5"}, 200, content, ""},
		"of the same file":       {map[string]string{"Range": "bytes=0-1", "If-Range": `"` + film + `"`}, 206, "01", "bytes 0-1/10"},
		"of another file":        {map[string]string{"Range": "bytes=0-1", "If-Range": `"older"`}, 200, content, ""},
		"had already":            {map[string]string{"If-None-Match": `"` + film + `"`}, 304, "", ""},
		"numbers beyond all":     {map[string]string{"Range": "bytes=99999999999999999999-"}, 416, "", ""},
		"what is no range":       {map[string]string{"Range": "bytes=a-b"}, 416, "", ""},
		"the wrong way round":    {map[string]string{"Range": "bytes=5-2"}, 416, "", ""},
		"nothing but the unit":   {map[string]string{"Range": "bytes="}, 200, content, ""},
		"with a name in capital": {map[string]string{"Range": "Bytes=0-1"}, 200, content, ""},
	} {
		request, err := http.NewRequest(http.MethodGet, address, nil)
		require.NoError(t, err)
		for header, value := range c.headers {
			request.Header.Set(header, value)
		}
		answer, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		body, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		_ = answer.Body.Close()
		assert.Equal(t, c.status, answer.StatusCode, name)
		if c.status < 300 {
			assert.Equal(t, c.body, string(body), name)
			assert.Equal(t, int64(len(c.body)), answer.ContentLength, name)
			assert.Equal(t, "public, max-age=31536000, immutable", answer.Header.Get("Cache-Control"))
		}
		assert.Equal(t, c.part, answer.Header.Get("Content-Range"), name)
	}
	head, err := http.Head(address)
	require.NoError(t, err)
	assert.Equal(t, int64(10), head.ContentLength, "the head says how much there is")
	assert.Equal(t, "bytes", head.Header.Get("Accept-Ranges"))
}

func TestReadersOfLargeFilesTakeHardlyAnyMemory(t *testing.T) {
	s := open(t)
	name := strings.Repeat("1", 64) + ".bin"
	large := bytes.Repeat([]byte("glaze and clay. "), 15<<16)
	s.keep(name, string(large))
	s.publish(button("aaaa", "https://kiln.example/"))
	origin := s.listen()
	address := origin + "/files/" + name + "/glaze.pdf"
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)

	// Sixty who ask and then read nothing.
	for range 60 {
		conn, err := net.Dial("tcp", strings.TrimPrefix(origin, "http://"))
		require.NoError(t, err)
		defer conn.Close()
		_, err = fmt.Fprintf(conn, "GET /files/%s/glaze.pdf HTTP/1.1\r\nHost: pages.example\r\n\r\n", name)
		require.NoError(t, err)
	}
	// Thirty-two who ask for a byte each, again and again.
	begun := time.Now()
	var all sync.WaitGroup
	for range 32 {
		all.Go(func() {
			for range 20 {
				request, _ := http.NewRequest(http.MethodGet, address, nil)
				request.Header.Set("Range", "bytes=0-0")
				answer, err := http.DefaultClient.Do(request)
				if assert.NoError(t, err) {
					_, _ = io.Copy(io.Discard, answer.Body)
					_ = answer.Body.Close()
					assert.Equal(t, http.StatusPartialContent, answer.StatusCode)
				}
			}
		})
	}
	all.Wait()
	took := time.Since(begun)
	begunPage := time.Now()
	assert.Equal(t, http.StatusOK, s.get("/quarrow-clay").Code)
	tookPage := time.Since(begunPage)
	runtime.ReadMemStats(&after)
	t.Logf("60 idle readers of 15 MB and 640 requests for a byte: %d ms, heap %d MB more, a page meanwhile %d ms",
		took.Milliseconds(), (int64(after.HeapAlloc)-int64(before.HeapAlloc))>>20, tookPage.Milliseconds())
	assert.Less(t, int64(after.HeapAlloc)-int64(before.HeapAlloc), int64(64<<20))
	assert.Less(t, took, 20*time.Second)
	assert.Less(t, tookPage, time.Second)
}

func TestADeletedFileIsGone(t *testing.T) {
	s := open(t)
	film := strings.Repeat("3", 64) + ".mp4"
	s.keep(film, "0123456789")
	require.NoError(t, s.files.Delete(t.Context(), s.member.WorkspaceID, film))
	assert.Equal(t, http.StatusGone, s.get("/media/"+film).Code)
	for _, strange := range []string{"%00", "..", "x.png", strings.Repeat("9", 300)} {
		assert.Equal(t, http.StatusNotFound, s.get("/media/"+strange).Code, strange)
		assert.Equal(t, http.StatusNotFound, s.get("/files/"+strange+"/x").Code, strange)
	}
}

func TestWhatWasTakenOffThePageLeadsForADayAndMovedBlocksGoOn(t *testing.T) {
	s := open(t)
	first, second := button("aaaa", "https://kiln.example/first"), button("bbbb", "https://kiln.example/second")
	s.publish(first, second)
	old := func(block string) int { return s.get("/quarrow-clay/-/1/" + block).Code }
	s.publish(second) // edition 2, at the same moment
	assert.Equal(t, http.StatusFound, old("aaaa"), "a tab may still show it")
	s.now = now.Add(24*time.Hour - time.Second)
	assert.Equal(t, http.StatusFound, old("aaaa"))
	s.now = now.Add(24 * time.Hour)
	gone := s.get("/quarrow-clay/-/1/aaaa")
	assert.Equal(t, http.StatusGone, gone.Code)
	assert.Contains(t, gone.Body.String(), "taken off the page")
	assert.Equal(t, http.StatusFound, old("bbbb"), "what moved goes on leading")

	// Back on the page it leads again, and gone again for a day more.
	s.publish(second, first)
	assert.Equal(t, http.StatusFound, old("aaaa"))
	s.publish(second)
	assert.Equal(t, http.StatusFound, old("aaaa"))
	s.publish(first, second)
	s.publishing = store.Publishing{EndsLinks: true}
	s.publish(second)
	assert.Equal(t, http.StatusGone, old("aaaa"), "at once, where the creator chose so")
	assert.Equal(t, http.StatusGone, s.get("/quarrow-clay/-/5/aaaa").Code)
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/9999999999/aaaa").Code)
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/77/aaaa").Code)
	for _, event := range s.events() {
		assert.NotEqual(t, 5, event.Edition, "who is led nowhere pressed nothing")
	}
}

func TestItemsThatAreTakenOffEndToo(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("aaaa", "https://kiln.example/")})
	doc.Icons.Items = []page.IconLink{{
		Key: "loft", Icon: page.Icon{Set: "signs", Name: "camera"}, Name: "Photoloft",
		Address: "https://photoloft.example/quarrowclay",
	}}
	s.publishDocument(doc)
	s.publish(button("aaaa", "https://kiln.example/"))
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/icons.loft").Code)
	s.now = now.Add(25 * time.Hour)
	assert.Equal(t, http.StatusGone, s.get("/quarrow-clay/-/1/icons.loft").Code)
}

func TestTwoHundredVisitsFromOneAddressAreAFloodWhateverTheyCallThemselves(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	s.flood(120)
	for i := range 200 {
		agent := func(r *http.Request) { r.Header.Set("User-Agent", fmt.Sprintf("%s Build/%d", phone, i)) }
		assert.Equal(t, http.StatusOK, s.get("/quarrow-clay", agent).Code, "the page is served all the same")
		assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/aaaa", agent).Code, "and leads on")
	}
	counted, flood := 0, 0
	for _, event := range s.events() {
		switch event.Flags {
		case 0:
			counted++
		case traffic.Flood:
			flood++
		}
	}
	t.Logf("of 400 events in one go %d are counted, %d are a flood", counted, flood)
	assert.Equal(t, 400, counted+flood, "all are kept")
	assert.InDelta(t, 120, counted, 3)
}

func TestSharedFiguresAreDrawnOnceForAllWhoWaitAndForRangesThereAre(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	_, err := s.store.ShareFigures(t.Context(), s.member.WorkspaceID, s.page.ID, "The gallery", "token", now.AddDate(0, 0, 30), now)
	require.NoError(t, err)
	for _, made := range []string{"8d", "all", "x", "28d%20", "2026-01-01..2026-02-01", "%00"} {
		assert.Equal(t, http.StatusBadRequest, s.get("/-/figures/token?range="+made).Code, made)
	}
	first := s.get("/-/figures/token?range=28d").Body.String()
	s.get("/quarrow-clay")
	s.events()
	assert.Equal(t, first, s.get("/-/figures/token").Body.String(), "within twenty seconds it is the same")
	s.now = now.Add(21 * time.Second)
	assert.NotEqual(t, first, s.get("/-/figures/token").Body.String())
	begun := time.Now()
	var all sync.WaitGroup
	for range 200 {
		all.Go(func() { assert.Equal(t, http.StatusOK, s.get("/-/figures/token?range=90d").Code) })
	}
	all.Wait()
	t.Logf("200 readers of shared figures at once: %d ms", time.Since(begun).Milliseconds())
}

func TestVisitorsComeByHTTPSFromNowOn(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	for _, path := range []string{"/quarrow-clay", "/quarrow-clay/-/1/aaaa", "/nobody", "/robots.txt", "/media/x"} {
		assert.Equal(t, "max-age=31536000", s.get(path).Header().Get("Strict-Transport-Security"), path)
	}
}

func TestAnAppNamesItsNetworkByItsPackage(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	for _, from := range []string{
		"android-app://example.photoloft.android/", "android-app://example.photoloft",
		"https://www.photoloft.example/feed",
	} {
		s.get("/quarrow-clay", func(r *http.Request) { r.Header.Set("Referer", from) })
	}
	for _, event := range s.events() {
		assert.Equal(t, "host:photoloft.example", event.Source)
	}
}

func TestAnAddressThatLeadsNowhereIsAskedForOnce(t *testing.T) {
	s := open(t)
	for range 3 {
		assert.Equal(t, http.StatusNotFound, s.get("/not-there").Code)
	}
	_, err := s.store.CreatePage(t.Context(), s.member.WorkspaceID, "not-there", document(nil), now)
	require.NoError(t, err)
	pages, err := s.store.Pages(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	added := pages[1]
	_, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, added.ID, store.Publishing{Revision: 1}, now)
	require.NoError(t, err)
	s.server.Forget(added.ID)
	assert.Equal(t, http.StatusOK, s.get("/not-there").Code, "until it is published")
}
