package main

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"maps"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"jundle/internal/core/page/pagetest"
)

// abuse is an account that does everything that once hurt, again and again.
type abuse struct {
	by   *creator
	page string
	file string // 15 MB, public
	made atomic.Int64
	// source is one of the page's, for its code; late is the page that costs most, as a save on an old revision.
	source string
	late   json.RawMessage

	mu       sync.Mutex
	statuses map[string]map[int]int // of answers, by what was done
}

func newAbuse(by *creator) *abuse {
	return &abuse{by: by, statuses: make(map[string]map[int]int)}
}

func (a *abuse) run(ctx context.Context) {
	a.page, _ = a.by.page("elsewhere-pots")
	a.file = a.upload(ctx)
	a.publishCostliest(ctx)
	bombs := map[string][]byte{"39.7 megapixels": blank(6300), "25 megapixels": blank(5000)}
	manyKeys := []byte(`{"x":1`)
	for i := range 4000 {
		manyKeys = fmt.Appendf(manyKeys, `,"k%d":1`, i)
	}
	manyKeys = append(manyKeys, '}')
	markup := strings.Repeat("<b><i><a href=x.example>", 10_000)
	deeds := map[string]func(){
		"4,000 unknown keys":    func() { a.send(ctx, "POST", "/api/sign-in", json.RawMessage(manyKeys)) },
		"an export, six unread": func() { a.export(ctx); a.together(6, func() { a.unread(ctx, "/api/workspace/export/file") }) },
		"markup that explodes":  func() { a.draft(ctx, 1, markup) },
		"a heavy page":          func() { a.draft(ctx, 20, "<p>"+strings.Repeat("<b>a</b> ", 450)+"</p>") },
		"its themes":            func() { a.send(ctx, "GET", "/api/pages/"+a.page+"/themes", nil) },
		"39.7 megapixels":       func() { a.send(ctx, "POST", "/api/pictures", bombs["39.7 megapixels"]) },
		"25 megapixels, eight":  func() { a.together(8, func() { a.send(ctx, "POST", "/api/pictures", bombs["25 megapixels"]) }) },
		"a byte of 15 MB, 32":   func() { a.together(32, func() { a.byte(ctx) }) },
		"idle readers of 15 MB": func() { a.together(20, func() { a.idle(ctx) }) },
		"codes, 120": func() {
			a.together(120, func() {
				a.send(ctx, "GET", "/api/pages/"+a.page+"/sources/"+a.source+"/code?format=png&level=H&width=2048", nil)
			})
		},
		"its page, 40 at once":   func() { a.goLive(ctx); a.together(40, func() { a.visit(ctx, "") }) },
		"searches in it, 40":     func() { a.together(40, func() { a.visit(ctx, "glazes") }) },
		"late saves, 300":        func() { a.together(300, func() { a.send(ctx, "PUT", "/api/pages/"+a.page+"/draft", a.late) }) },
		"publishing, checks, 40": func() { a.together(40, func() { a.publish(ctx) }) },
		"made-up hosts, 40":      func() { a.together(40, func() { a.underHost(ctx) }) },
		"made-up ranges":         func() { a.send(ctx, "GET", "/api/pages/"+a.page+"/readings?range=x"+fmt.Sprint(a.made.Load()), nil) },
		"pages beyond the quota": func() {
			a.send(ctx, "POST", "/api/pages", map[string]string{"address": fmt.Sprintf("more-%d", a.made.Load())})
		},
		"nested JSON": func() {
			a.send(ctx, "PUT", "/api/pages/"+a.page+"/draft", json.RawMessage(strings.Repeat("[", 300_000)))
		},
	}
	for ctx.Err() == nil {
		for _, what := range slices.Sorted(maps.Keys(deeds)) {
			if ctx.Err() == nil {
				a.doing(what, deeds[what])
			}
		}
	}
}

// now is what is being done, for the statuses.
var now atomic.Value

func (a *abuse) doing(what string, do func()) {
	now.Store(what)
	do()
	time.Sleep(50 * time.Millisecond)
}

func (a *abuse) together(n int, do func()) {
	var all sync.WaitGroup
	for range n {
		all.Go(do)
	}
	all.Wait()
}

func (a *abuse) send(ctx context.Context, method, path string, body any) []byte {
	status, text, err := a.by.send(ctx, method, path, body)
	if err != nil && ctx.Err() != nil {
		return nil
	}
	a.note(status)
	return text
}

// note counts an answer to what is being done.
func (a *abuse) note(status int) {
	a.made.Add(1)
	a.mu.Lock()
	defer a.mu.Unlock()
	what, _ := now.Load().(string)
	if a.statuses[what] == nil {
		a.statuses[what] = map[int]int{}
	}
	a.statuses[what][status]++
}

// draft saves a page of so many texts.
func (a *abuse) draft(ctx context.Context, texts int, html string) {
	var page struct {
		Revision int
		Document map[string]any
	}
	if json.Unmarshal(a.send(ctx, "GET", "/api/pages/"+a.page, nil), &page) != nil || page.Document == nil {
		return
	}
	var blocks []any
	for i := range texts {
		blocks = append(blocks, map[string]any{
			"key": fmt.Sprintf("text%d", i), "kind": "text", "shown": true,
			"text": map[string]any{"html": html},
		})
	}
	page.Document["blocks"] = blocks
	a.send(ctx, "PUT", "/api/pages/"+a.page+"/draft", map[string]any{"revision": page.Revision, "document": page.Document})
}

func (a *abuse) upload(ctx context.Context) string {
	var kept struct{ Media string }
	_ = json.Unmarshal(a.send(ctx, "POST", "/api/files", bytes.Repeat([]byte("glaze and clay "), 1<<20-1)), &kept)
	return kept.Media
}

// export has an export made, and waits until it is there.
func (a *abuse) export(ctx context.Context) {
	a.send(ctx, "POST", "/api/workspace/export", nil)
	for ctx.Err() == nil {
		_, text, _ := a.by.send(ctx, "GET", "/api/workspace/export", nil)
		if !bytes.Contains(text, []byte(`"running"`)) {
			return
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// unread asks for a download of the studio's and leaves after two seconds without
// having read it.
func (a *abuse) unread(ctx context.Context, path string) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://"+a.by.program.studio+path, nil)
	if err != nil {
		return
	}
	answer, err := a.by.client.Do(request)
	if err != nil {
		return
	}
	defer answer.Body.Close()
	a.note(answer.StatusCode)
	select {
	case <-ctx.Done():
	case <-time.After(2 * time.Second):
	}
}

// byte asks visitors' listener for one byte of a large file.
func (a *abuse) byte(ctx context.Context) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://"+a.by.program.public+"/files/"+a.file+"/x.pdf", nil)
	if err != nil {
		return
	}
	request.Header.Set("Range", "bytes=0-0")
	if answer, err := a.by.client.Do(request); err == nil {
		_ = answer.Body.Close()
		a.note(answer.StatusCode)
	}
}

// idle asks visitors' listener for a large file and reads nothing for a while.
func (a *abuse) idle(ctx context.Context) {
	conn, err := net.Dial("tcp", a.by.program.public)
	if err != nil {
		return
	}
	defer conn.Close()
	_, _ = fmt.Fprintf(conn, "GET /files/%s/x.pdf HTTP/1.1\r\nHost: %s\r\n\r\n", a.file, a.by.program.public)
	a.made.Add(1)
	select {
	case <-ctx.Done():
	case <-time.After(2 * time.Second):
	}
}

// tags is how many sources the page has, each with a tag of its own.
const tags = 20

// publishCostliest puts the page live that is as much work as the limits allow, with sources.
func (a *abuse) publishCostliest(ctx context.Context) {
	a.late, _ = json.Marshal(map[string]any{"revision": 1, "document": pagetest.Costliest()})
	for i := range tags {
		var made struct{ ID string }
		_ = json.Unmarshal(a.send(ctx, "POST", "/api/pages/"+a.page+"/sources", map[string]string{"name": fmt.Sprintf("Source %d", i)}), &made)
		a.source = cmp.Or(made.ID, a.source)
	}
	a.goLive(ctx)
}

// goLive saves that page and publishes it.
func (a *abuse) goLive(ctx context.Context) {
	a.send(ctx, "PUT", "/api/pages/"+a.page+"/draft", map[string]any{"revision": a.revision(ctx), "document": pagetest.Costliest()})
	a.send(ctx, "POST", "/api/pages/"+a.page+"/publish", map[string]any{"revision": a.revision(ctx)})
}

func (a *abuse) revision(ctx context.Context) int {
	var page struct{ Revision int }
	_ = json.Unmarshal(a.send(ctx, "GET", "/api/pages/"+a.page, nil), &page)
	return page.Revision
}

// visit reads the second account's page by every tag and in every language, or searches in it.
func (a *abuse) visit(ctx context.Context, find string) {
	for i := range tags {
		for _, language := range []string{"en", "de", "fr", "pl", "it"} {
			query := url.Values{"lang": {language}}
			if find != "" {
				query.Set("find", find)
			}
			a.get(ctx, fmt.Sprintf("/elsewhere-pots/source-%d?%s", i, query.Encode()), "")
		}
	}
}

// underHost asks under a host that is nobody's.
func (a *abuse) underHost(ctx context.Context) {
	for range 50 {
		a.get(ctx, "/elsewhere-pots", fmt.Sprintf("host-%d.example", a.made.Load()))
	}
}

// get asks visitors' listener for something, under another host where one is given.
func (a *abuse) get(ctx context.Context, path, host string) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://"+a.by.program.public+path, nil)
	if err != nil {
		return
	}
	request.Host = cmp.Or(host, request.Host)
	if answer, err := a.by.client.Do(request); err == nil {
		_, _ = io.Copy(io.Discard, answer.Body)
		_ = answer.Body.Close()
		a.note(answer.StatusCode)
	}
}

// publish does what draws, compares or checks the whole page.
func (a *abuse) publish(ctx context.Context) {
	here := "/api/pages/" + a.page
	a.send(ctx, "POST", here+"/publish", map[string]any{"revision": a.revision(ctx)})
	a.send(ctx, "GET", here+"/check", nil)
	a.send(ctx, "POST", here+"/previews", map[string]any{"hours": 1})
}

func (a *abuse) words() string {
	a.mu.Lock()
	defer a.mu.Unlock()
	var parts []string
	for _, what := range slices.Sorted(maps.Keys(a.statuses)) {
		var answers []string
		for _, status := range slices.Sorted(maps.Keys(a.statuses[what])) {
			answers = append(answers, fmt.Sprintf("%d × %d", a.statuses[what][status], status))
		}
		parts = append(parts, what+" ("+strings.Join(answers, ", ")+")")
	}
	return strings.Join(parts, "; ") + "."
}

// blank is a PNG of so many pixels each way, in a few kilobytes.
func blank(side int) []byte {
	var out bytes.Buffer
	_ = png.Encode(&out, image.NewGray(image.Rect(0, 0, side, side)))
	return out.Bytes()
}
