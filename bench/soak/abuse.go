package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"maps"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"
)

// abuse is an account that does everything that once hurt, again and again.
type abuse struct {
	by   *creator
	page string
	file string // 15 MB, public
	made atomic.Int64

	mu       sync.Mutex
	statuses map[string]map[int]int // of answers, by what was done
}

func newAbuse(by *creator) *abuse {
	return &abuse{by: by, statuses: make(map[string]map[int]int)}
}

func (a *abuse) run(ctx context.Context) {
	a.page, _ = a.by.page("elsewhere-pots")
	a.file = a.upload(ctx)
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
		"made-up ranges":        func() { a.send(ctx, "GET", "/api/pages/"+a.page+"/readings?range=x"+fmt.Sprint(a.made.Load()), nil) },
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
	_, _ = fmt.Fprintf(conn, "GET /files/%s/x.pdf HTTP/1.1\r\nHost: x\r\n\r\n", a.file)
	a.made.Add(1)
	select {
	case <-ctx.Done():
	case <-time.After(2 * time.Second):
	}
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
