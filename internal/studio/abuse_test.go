package studio_test

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/store"
)

// cost is what something took of time and memory.
type cost struct {
	took      time.Duration
	allocated uint64 // in all, in bytes
}

// alone leaves a test that measures out of those that look for races: the detector
// makes everything many times as dear.
func alone(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("it measures")
	}
}

func measured(do func()) cost {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	begun := time.Now()
	do()
	took := time.Since(begun)
	runtime.ReadMemStats(&after)
	return cost{took, after.TotalAlloc - before.TotalAlloc}
}

// within asserts a bound that a machine ten times as slow would keep, and prints
// what it was for docs/security.md.
func (c cost) within(t *testing.T, what string, most time.Duration, bytes uint64, answer int) {
	t.Helper()
	t.Logf("%s: %d ms, %.1f MB allocated, answer of %d bytes", what, c.took.Milliseconds(), float64(c.allocated)/1e6, answer)
	assert.Less(t, c.took, most, what)
	assert.Less(t, c.allocated, bytes, what)
}

func manyKeys(n int) []byte {
	var body bytes.Buffer
	body.WriteString(`{"email":"a@b.example","password":"a secret of mine"`)
	for i := range n {
		fmt.Fprintf(&body, `,"k%d":1`, i)
	}
	body.WriteString("}")
	return body.Bytes()
}

func asJSON(r *http.Request) { r.Header.Set("Content-Type", "application/json") }

func TestManyUnknownFieldsAreRefusedCheaplyAndNothingIsRepeated(t *testing.T) {
	alone(t)
	b := open(t).browser()
	b.signUp("quarrow-clay")
	var got answer
	some, many, tooMany := manyKeys(4000), manyKeys(80_000), manyKeys(60_000)
	took := measured(func() { got = b.send("POST", "/api/sign-in", some, asJSON) })
	took.within(t, "sign-in with 4,000 unknown keys", 2*time.Second, 32<<20, len(got.raw))
	assert.Equal(t, http.StatusRequestEntityTooLarge, got.status)
	took = measured(func() { got = b.send("POST", "/api/sign-in", many, asJSON) })
	took.within(t, "sign-in with 80,000 unknown keys", 2*time.Second, 32<<20, len(got.raw))
	assert.Equal(t, http.StatusRequestEntityTooLarge, got.status)

	small := b.send("POST", "/api/sign-in", manyKeys(300), asJSON)
	assert.Equal(t, http.StatusUnprocessableEntity, small.status)
	assert.Len(t, small.body["errors"], 20)
	assert.NotContains(t, string(small.raw), "a secret of mine")

	took = measured(func() { got = b.send("PUT", b.page()+"/draft", tooMany, asJSON) })
	took.within(t, "a draft with 60,000 unknown keys", 2*time.Second, 32<<20, len(got.raw))
	assert.Equal(t, http.StatusBadRequest, got.status)
	took = measured(func() { got = b.send("PUT", b.page()+"/draft", manyKeys(19_000), asJSON) })
	took.within(t, "a draft with 19,000 unknown keys", 5*time.Second, 128<<20, len(got.raw))
	assert.Equal(t, http.StatusUnprocessableEntity, got.status)
	assert.Less(t, len(got.raw), 8<<10)
}

func TestJSONThatCannotBeMeantIsRefusedBeforeItIsParsed(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	for says, body := range map[string]string{
		"not text in UTF-8": "{\"revision\":1,\"x\":\"\xff\"}", "NUL character": `{"revision":1,"x":"a\u0000b"}`,
		"nested more deeply": strings.Repeat("[", 200_000),
		"more values":        `[` + strings.Repeat("1,", 150_000) + `1]`, "more digits": `{"revision":` + strings.Repeat("9", 30) + `}`,
	} {
		got := b.send("PUT", b.page()+"/draft", []byte(body), asJSON)
		assert.Equal(t, http.StatusBadRequest, got.status, says)
		assert.Contains(t, got.detail(), says)
	}
	fine := b.send("PUT", b.page()+"/draft", []byte(`{"revision":1,"x":"a backslash \\u0000 that is none"}`), asJSON)
	assert.Equal(t, http.StatusUnprocessableEntity, fine.status)
}

// blank is a PNG of so many pixels in few bytes.
func blank(t *testing.T, width, height int) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, width, height))))
	return out.Bytes()
}

func TestPictureBombsTakeTurns(t *testing.T) {
	alone(t)
	b := open(t).browser()
	b.signUp("quarrow-clay")
	bomb := blank(t, 6300, 6300)
	var got answer
	took := measured(func() { got = b.send("POST", "/api/pictures", bomb) })
	took.within(t, fmt.Sprintf("a PNG of 39.7 megapixels in %d kB", len(bomb)>>10), 2*time.Second, 32<<20, len(got.raw))
	assert.Equal(t, http.StatusUnprocessableEntity, got.status)

	largest := blank(t, 2828, 2828)
	stop, peak := watchHeap()
	var all sync.WaitGroup
	took = measured(func() {
		for range 8 {
			all.Go(func() {
				answer := b.send("POST", "/api/pictures", largest)
				assert.Equal(t, http.StatusOK, answer.status, "%v", answer.body)
			})
		}
		all.Wait()
	})
	close(stop)
	most := <-peak
	t.Logf("eight PNGs of 8 megapixels at once: %d ms, heap at most %d MB above", took.took.Milliseconds(), most>>20)
	assert.Less(t, most, uint64(500<<20), "two are unpacked at one time")
}

// watchHeap finds how far the heap grows until stop is closed.
func watchHeap() (stop chan struct{}, peak chan uint64) {
	stop, peak = make(chan struct{}), make(chan uint64, 1)
	runtime.GC()
	var begun runtime.MemStats
	runtime.ReadMemStats(&begun)
	go func() {
		var most uint64
		for {
			select {
			case <-stop:
				peak <- most
				return
			case <-time.After(20 * time.Millisecond):
				var now runtime.MemStats
				runtime.ReadMemStats(&now)
				if now.HeapAlloc > begun.HeapAlloc {
					most = max(most, now.HeapAlloc-begun.HeapAlloc)
				}
			}
		}
	}()
	return stop, peak
}

func TestOnlyTheFourFormatsOfTheContractAreTaken(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	for name, head := range map[string]string{"TIFF": "II*\x00\x08\x00\x00\x00", "BMP": "BM\x3a\x00\x00\x00", "PBM": "P4\n8 8\n12345678"} {
		got := b.send("POST", "/api/pictures", append([]byte(head), make([]byte, 200)...))
		assert.Equal(t, http.StatusUnprocessableEntity, got.status, name)
		assert.Contains(t, got.detail(), "PNG, JPEG, GIF and WebP work", name)
	}
}

func TestUploadsThatAreSlowOrManyTakeNoMemory(t *testing.T) {
	alone(t)
	b := open(t).browser()
	b.signUp("quarrow-clay")
	stop, peak := watchHeap()
	var all sync.WaitGroup
	for i := range 12 {
		all.Go(func() {
			data := bytes.Repeat([]byte{byte(i)}, 14<<20)
			got := b.send("POST", "/api/files", data)
			assert.Equal(t, http.StatusOK, got.status, "%v", got.body)
		})
	}
	all.Wait()
	close(stop)
	// What the senders hold themselves is 168 MB.
	assert.Less(t, <-peak, uint64(260<<20))
}

func TestAHeavyPageIsRefusedInWordsAndAFullOneIsQuick(t *testing.T) {
	alone(t)
	b := open(t).browser()
	b.signUp("quarrow-clay")
	texts := func(n int, html string) answer {
		return b.send("PUT", b.page()+"/draft", withDocument(1, func(doc *page.Document) {
			for i := range n {
				doc.Blocks = append(doc.Blocks, page.Block{Key: fmt.Sprintf("text%d", i), Kind: "text", Shown: true, Text: &page.Text{HTML: html}})
			}
		}))
	}
	links := strings.Repeat(`<a href="https://kiln.example/">x</a> `, 400)
	heavy := texts(1, links)
	assert.Equal(t, http.StatusUnprocessableEntity, heavy.status)
	assert.Contains(t, heavy.detail(), "at most 300 links")
	long := texts(60, "<p>"+strings.Repeat(`<b>a</b> `, 450)+"</p>")
	assert.Equal(t, http.StatusUnprocessableEntity, long.status)
	assert.Contains(t, long.detail(), "takes at most 384 kB")
	formatted := texts(90, "<p>"+strings.Repeat(`<b>a</b> `, 120)+"</p>")
	assert.Equal(t, http.StatusUnprocessableEntity, formatted.status)
	assert.Contains(t, formatted.detail(), "at most 3000 changes of format")

	var got answer
	took := measured(func() {
		got = texts(90, "<p>"+strings.Repeat(`<b>a</b> `, 14)+strings.Repeat("clay ", 560)+
			`<a href="https://kiln.example/">x</a><a href="https://clay.example/">y</a></p>`)
	})
	require.Equal(t, http.StatusOK, got.status, "%v", got.body)
	took.within(t, "saving the heaviest page there can be", 5*time.Second, 300<<20, len(got.raw))
	took = measured(func() { got = b.send("GET", b.page()+"/themes", nil) })
	took.within(t, "its themes", 5*time.Second, 300<<20, len(got.raw))
	assert.Equal(t, http.StatusOK, got.status)
}

func TestExportsThatNobodyReadsHoldNobody(t *testing.T) {
	alone(t)
	b := open(t)
	var readers []*browser
	for i := range 6 {
		one := b.browser()
		one.signUp(fmt.Sprintf("potter-%c", 'a'+i))
		b.now = b.now.Add(time.Hour)
		require.Equal(t, http.StatusAccepted, one.send("POST", "/api/workspace/export", nil).status)
		readers = append(readers, one)
	}
	for _, one := range readers {
		require.Eventually(t, func() bool { return one.send("GET", "/api/workspace/export", nil).body["state"] == "ready" }, 20*time.Second,
			10*time.Millisecond)
		// Asked for, and never read.
		response, err := one.client.Get(b.server.URL + "/api/workspace/export/file")
		require.NoError(t, err)
		defer response.Body.Close()
	}
	took := measured(func() {
		for _, one := range readers {
			assert.Equal(t, http.StatusOK, one.send("GET", "/api/pages", nil).status)
		}
	})
	took.within(t, "the studio while six exports are unread", 5*time.Second, 64<<20, 0)
}

func TestBeginningAndStoppingExportsOverAndOverLeavesOneAtMost(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	before := runtime.NumGoroutine()
	for range 25 {
		require.Equal(t, http.StatusAccepted, ilse.send("POST", "/api/workspace/export", nil).status)
		require.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/workspace/export", nil).status)
	}
	require.Eventually(t, func() bool { return runtime.NumGoroutine() < before+15 }, 2*time.Second, 10*time.Millisecond,
		"those that were stopped are gone at once")
	assert.Contains(t, []any{"stopped", "ready"}, ilse.send("GET", "/api/workspace/export", nil).body["state"])
	require.Equal(t, http.StatusAccepted, ilse.send("POST", "/api/workspace/export", nil).status)
	require.Eventually(t, func() bool { return ilse.send("GET", "/api/workspace/export", nil).body["state"] == "ready" }, 20*time.Second,
		10*time.Millisecond)
}

func TestOneExportOfAWorkspaceIsMadeAtATimeAndCanBeStopped(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	me, err := b.store.MemberByEmail(t.Context(), "quarrow-clay@quarrow.example")
	require.NoError(t, err)
	// Another process is making one.
	begun, err := b.store.BeginExport(t.Context(), me.WorkspaceID, b.now)
	require.NoError(t, err)
	assert.Equal(t, "running", ilse.send("POST", "/api/workspace/export", nil).body["state"])
	_, err = b.store.BeginExport(t.Context(), me.WorkspaceID, b.now)
	require.ErrorIs(t, err, store.ErrRunning)
	begun.Done, begun.Parts = 3, 9
	require.NoError(t, b.store.ExportGoesOn(t.Context(), begun, b.now))
	assert.EqualValues(t, 3, ilse.send("GET", "/api/workspace/export", nil).body["done"])
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/workspace/export", nil).status)
	require.ErrorIs(t, b.store.ExportGoesOn(t.Context(), begun, b.now), store.ErrNotFound, "whoever makes it hears of it")
	assert.Equal(t, "stopped", ilse.send("GET", "/api/workspace/export", nil).body["state"])

	_, err = b.store.BeginExport(t.Context(), me.WorkspaceID, b.now)
	require.NoError(t, err)
	b.now = b.now.Add(2 * time.Minute) // and its process died
	assert.Equal(t, "failed", ilse.send("GET", "/api/workspace/export", nil).body["state"])
	assert.Equal(t, http.StatusAccepted, ilse.send("POST", "/api/workspace/export", nil).status)
}

func TestQuotasAreToldAndRefusedInWords(t *testing.T) {
	quotas := store.Quotas{
		MediaBytes: 3000, Pages: 2, SourcesPerPage: 2, AddressesPerPage: 3, ShortLinks: 1, Destinations: 2, EditionsPerDay: 2,
		SharesPerPage: 1,
	}
	b := openWith(t, store.Options{Quotas: quotas})
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	again := func(says string, most int, do func(i int) answer) {
		t.Helper()
		for i := range most {
			got := do(i)
			require.Less(t, got.status, 300, "%s %v", says, got.body)
		}
		over := do(most)
		assert.Equal(t, http.StatusUnprocessableEntity, over.status, says)
		assert.Contains(t, over.detail(), says)
		assert.Contains(t, over.detail(), "Nothing was changed")
	}
	again("You have 2 pages", 1, func(i int) answer { return ilse.send("POST", "/api/pages", fields{"address": fmt.Sprint("more-", i)}) })
	again("has 2 sources", 2, func(i int) answer { return ilse.send("POST", at+"/sources", fields{"name": fmt.Sprint("Card ", i)}) })
	again("has had 3 addresses", 2, func(i int) answer { return ilse.send("PUT", at+"/address", fields{"address": fmt.Sprint("again-", i)}) })
	assert.Less(t, ilse.send("PUT", at+"/address", fields{"address": "quarrow-clay"}).status, 300, "one it had can always be had back")
	again("was published 2 times", 2, func(i int) answer {
		saved := ilse.send("PUT", at+"/draft", withDocument(i+1, func(doc *page.Document) { doc.Header.Name = fmt.Sprint("Quarrow ", i) }))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
		return ilse.send("POST", at+"/publish", fields{"revision": i + 2})
	})
	again("shared with 1 people", 1, func(i int) answer {
		return ilse.send("POST", "/api/shared-figures/"+ilse.pageID(), fields{"name": "The gallery", "days": 3})
	})
	link := fields{
		"destination": "https://kiln.example/", "name": "", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}
	again("You have 1 short links", 1, func(i int) answer { return ilse.send("POST", "/api/short-links", fields{"link": link}) })
	leadTo := func(address string) answer {
		revision := int(ilse.send("GET", at, nil).body["revision"].(float64))
		return ilse.send("PUT", at+"/draft", withDocument(revision, func(doc *page.Document) {
			doc.Footer.Links = []page.FooterLink{{Key: "aaaa", Title: "Privacy", Address: address}}
		}))
	}
	for range 2 {
		assert.Equal(t, http.StatusOK, leadTo("https://quarrow.example/privacy").status, "the second address, as often as one likes")
	}
	over := leadTo("https://quarrow.example/terms")
	assert.Contains(t, over.detail(), "You have led to 2 different addresses")
	again("Your pictures and files take up", 2, func(i int) answer {
		return ilse.send("POST", "/api/files",
			bytes.Repeat([]byte{byte(i)}, 1400))
	})

	used := map[string]any{}
	for _, use := range ilse.send("GET", "/api/workspace/usage", nil).list {
		used[use["name"].(string)] = []any{use["used"], use["of"]}
	}
	assert.Equal(t, map[string]any{
		"media": []any{2800., 3000.}, "pages": []any{2., 2.}, "sources": []any{2., 2.}, "addresses": []any{3., 3.},
		"editions": []any{2., 2.}, "shares": []any{1., 1.}, "destinations": []any{2., 2.}, "shortLinks": []any{1., 1.},
	}, used)
	b.now = b.now.Add(25 * time.Hour)
	revision := ilse.send("GET", at, nil).body["revision"]
	assert.Less(t, ilse.send("POST", at+"/publish", fields{"revision": revision}).status, 300, "a day later there is room again")
}

func TestCutsAreLimitedByTheMinute(t *testing.T) {
	b := open(t).browser()
	b.signUp("quarrow-clay")
	original := b.send("POST", "/api/pictures", pngFile(t, 30, 20)).body["media"]
	cut := func() answer {
		return b.send("POST", "/api/pictures/cut", fields{"original": original, "use": "small"})
	}
	var last answer
	for range 61 {
		last = cut()
	}
	assert.Equal(t, http.StatusTooManyRequests, last.status)
	assert.Contains(t, last.detail(), "more than 60 cuts in a minute")
	b.now = b.now.Add(time.Second)
	assert.Equal(t, http.StatusOK, cut().status)
}

func TestGuessingFromElsewhereDoesNotLockTheOwnerOut(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	guess := func(from, password string) answer {
		return b.browser().send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": password}, from1(from))
	}
	for i := range 12 {
		got := guess("2001:db8:1:2::"+fmt.Sprint(i), "a guess or two")
		assert.Equal(t, i >= 8, got.status == http.StatusTooManyRequests, "one household has eight tries, whatever address it takes")
	}
	for range 60 { // refused, and using up nothing but their own
		guess("2001:db8:1:2::1", "a guess or two")
	}
	assert.Equal(t, http.StatusOK, guess("198.51.100.7", "clay and water").status, "the owner on a network that was never seen")

	// From many networks: an hour's worth, and then nobody new, but the owner where
	// they were before.
	refused := 0
	for i := range 80 {
		if guess(fmt.Sprintf("203.0.113.%d", i), "a guess or two").status == http.StatusTooManyRequests {
			refused++
		}
	}
	assert.GreaterOrEqual(t, refused, 20)
	assert.Equal(t, http.StatusOK, guess("198.51.100.7", "clay and water").status)
}

// from1 lets a request come from an address.
func from1(address string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set("X-Forwarded-For", address) }
}

func TestLimitsOfSignInAreThoseOfAllProcesses(t *testing.T) {
	b := open(t)
	key := []byte("somebody at something")
	budget := store.Budget{Burst: 5, Pause: time.Minute}
	var all sync.WaitGroup
	var mu sync.Mutex
	taken := 0
	for range 4 { // as many processes
		all.Go(func() {
			for range 5 {
				wait, err := b.store.TakeAttempt(context.Background(), store.Attempt{Key: key, Budget: budget}, b.now)
				assert.NoError(t, err)
				mu.Lock()
				if wait == 0 {
					taken++
				} else {
					assert.Equal(t, time.Minute, wait)
				}
				mu.Unlock()
			}
		})
	}
	all.Wait()
	assert.Equal(t, 5, taken)
	wait, err := b.store.TakeAttempt(t.Context(), store.Attempt{Key: key, Budget: budget}, b.now.Add(time.Minute))
	require.NoError(t, err)
	assert.Zero(t, wait)
	require.NoError(t, b.store.ForgetAttempts(t.Context(), b.now.Add(time.Hour)))
}

func TestSigningUpWithATakenPageAddressTellsNothingOfTheEmailAddress(t *testing.T) {
	b := open(t)
	b.browser().signUp("quarrow-clay")
	stranger := b.browser()
	try := func(email, address string) answer {
		return stranger.send("POST", "/api/sign-up", fields{"email": email, "pageAddress": address, "zone": "UTC"})
	}
	registered, unknown := try("quarrow-clay@quarrow.example", "quarrow-clay"), try("nobody@quarrow.example", "quarrow-clay")
	assert.Equal(t, http.StatusUnprocessableEntity, registered.status)
	assert.Equal(t, unknown.status, registered.status)
	assert.Equal(t, unknown.raw, registered.raw)

	// Nobody has an address by asking for an account: whoever opens theirs first does.
	assert.Equal(t, http.StatusAccepted, try("quarrow-clay@quarrow.example", "first-pots").status)
	assert.Equal(t, http.StatusAccepted, try("nobody@quarrow.example", "second-pots").status)
	for _, address := range []string{"first-pots", "second-pots"} {
		assert.Equal(t, http.StatusAccepted, try("somebody@quarrow.example", address).status)
	}
}

func TestAPasswordThatManyPeopleHaveIsRefused(t *testing.T) {
	b := open(t).browser()
	b.send("POST", "/api/sign-up", fields{"email": "ilse@quarrow.example", "pageAddress": "quarrow-clay", "zone": "UTC"})
	token := b.token("ilse@quarrow.example")
	got := b.send("POST", "/api/accounts", fields{"token": token, "password": "Dragon123456", "pageAddress": "quarrow-clay"})
	assert.Equal(t, http.StatusUnprocessableEntity, got.status)
	assert.Contains(t, got.detail(), "Many people have this password")
}

func TestSigningOutIsNotUndoneByAnUploadThatWasRunning(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	begun, proceed := make(chan struct{}), make(chan struct{})
	ended := make(chan answer)
	go func() {
		// One byte, then nothing until the sign-out is done.
		body := &heldBody{data: pngFile(t, 30, 20), begun: begun, proceed: proceed}
		request, err := http.NewRequest(http.MethodPost, b.server.URL+"/api/pictures", body)
		assert.NoError(t, err)
		request.Header.Set("Content-Type", "application/octet-stream")
		response, err := ilse.client.Do(request)
		if assert.NoError(t, err) {
			_ = response.Body.Close()
			ended <- answer{status: response.StatusCode}
		}
	}()
	<-begun
	// The cookie stays with whoever copied it.
	stolen := b.browser()
	stolen.client.Jar = copyJar(t, ilse, b.server.URL)
	require.Equal(t, http.StatusOK, stolen.send("GET", "/api/me", nil).status)
	assert.Equal(t, http.StatusNoContent, ilse.send("POST", "/api/sign-out", nil).status)
	close(proceed)
	<-ended
	assert.Equal(t, http.StatusUnauthorized, stolen.send("GET", "/api/me", nil).status)
}

func TestSessionsEndWithTheirMember(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	elsewhere := b.browser()
	require.Equal(t, http.StatusOK, elsewhere.send("POST", "/api/sign-in",
		fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"}).status)
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/account/deletion", fields{"password": password}).status)
	assert.Equal(t, http.StatusUnauthorized, elsewhere.send("GET", "/api/me", nil).status, "at once elsewhere")
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/api/me", nil).status)
	require.NoError(t, b.store.EraseAccounts(t.Context(), 10, b.now.Add(store.DeletionWait)))
	assert.Equal(t, http.StatusUnauthorized, ilse.send("GET", "/api/me", nil).status, "here with the account")
	left, err := b.store.CountSessions(t.Context())
	require.NoError(t, err)
	assert.Zero(t, left, "none of them is left")
}

func TestFilesAreListedInPartsAndDeletedWhenNothingShowsThem(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	var names []any
	for i := range 5 {
		b.now = b.now.Add(time.Minute)
		names = append(names, ilse.send("POST", "/api/pictures", pngFile(t, 30+i, 20)).body["media"])
	}
	var listed []any
	next := "/api/files?limit=2"
	for parts := 0; next != ""; parts++ {
		require.Less(t, parts, 4)
		got := ilse.send("GET", next, nil)
		for _, file := range got.list {
			listed = append([]any{file["name"]}, listed...)
		}
		next = ""
		if after := got.header.Get("Next-Cursor"); after != "" {
			next = "/api/files?limit=2&after=" + after
		}
	}
	assert.Equal(t, names, listed)

	shown := names[0].(string)
	saved := ilse.send("PUT", ilse.page()+"/draft", withDocument(1, func(doc *page.Document) {
		doc.Icons.Items = []page.IconLink{{Key: "aaaa", Icon: page.Icon{Set: "own", Name: shown}, Name: "Mine", Address: "https://kiln.example/"}}
	}))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	assert.Contains(t, ilse.send("DELETE", "/api/files/"+shown, nil).detail(), "Take it off there")
	gone := names[1].(string)
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/files/"+gone, nil).status)
	assert.Equal(t, http.StatusGone, ilse.send("GET", "/media/"+gone, nil).status)
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/media/"+shown, nil).status)
	assert.Len(t, ilse.send("GET", "/api/files", nil).list, 4)
	assert.Equal(t, gone, ilse.send("POST", "/api/pictures", pngFile(t, 31, 20)).body["media"], "it can be uploaded again")
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/media/"+gone, nil).status)
}

func TestShortLinksComeInParts(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	list := "destination\n" + strings.Repeat("https://kiln.example/\n", 205)
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/link-list", fields{"text": list, "keep": true}).status)
	first := ilse.send("GET", "/api/short-links", nil)
	assert.Len(t, first.list, 100)
	second := ilse.send("GET", "/api/short-links?limit=200&after="+first.header.Get("Next-Cursor"), nil)
	assert.Len(t, second.list, 105)
	assert.Empty(t, second.header.Get("Next-Cursor"))
	ids := map[any]bool{}
	for _, link := range append(first.list, second.list...) {
		ids[link["id"]] = true
	}
	assert.Len(t, ids, 205, "each once")
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("GET", "/api/short-links?after=x", nil).status)
}
