package main

import (
	"context"
	"fmt"
	"net/http"
	"sync"
	"sync/atomic"
	"time"

	"github.com/valyala/fasthttp"
)

// A third of what the bench reaches, each for half of the time.
const (
	pressesPerSecond = 11_600 / 3 / 2
	viewsPerSecond   = 11_100 / 3 / 2
	people           = 160
)

const phone = "Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Mobile/15E148"

// load is visitors of the demo's second page, who come at a steady rate whatever
// the answers take.
type load struct {
	public           string
	client           *fasthttp.Client
	answered, failed atomic.Int64
	done             sync.WaitGroup
	// pages counts the page views by how long they took, in milliseconds; the last is of those that took longer.
	pages [10_001]atomic.Int64
}

// within is in how many milliseconds so many of a thousand page views were answered.
func (l *load) within(perMille int64) (milliseconds int) {
	sum := int64(0)
	for i := range l.pages {
		sum += l.pages[i].Load()
	}
	so := int64(0)
	for i := range l.pages {
		if so += l.pages[i].Load(); so*1000 >= perMille*sum {
			return i
		}
	}
	return len(l.pages)
}

func newLoad(public string) *load {
	l := &load{public: public, client: &fasthttp.Client{
		MaxConnsPerHost: 4 * people, ReadTimeout: 10 * time.Second,
		WriteTimeout: 10 * time.Second,
	}}
	l.done.Add(1)
	return l
}

func (l *load) run(ctx context.Context) {
	defer l.done.Done()
	var all sync.WaitGroup
	for who := range people {
		all.Go(func() { l.person(ctx, who) })
	}
	all.Wait()
}

// person does a share of what all do, a burst every twentieth of a second. Who had to
// wait makes up for it.
func (l *load) person(ctx context.Context, who int) {
	const bursts = 20
	const each = float64(pressesPerSecond+viewsPerSecond) / people
	begun := time.Now()
	ticker := time.NewTicker(time.Second / bursts)
	defer ticker.Stop()
	for n := 0; ; {
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
		}
		for float64(n) < each*time.Since(begun).Seconds() && ctx.Err() == nil {
			path, want := "/quarrow-workshops/loft", http.StatusOK
			if n++; n*pressesPerSecond%(pressesPerSecond+viewsPerSecond) < pressesPerSecond {
				path, want = "/quarrow-workshops/-/1/throwing/loft", http.StatusFound
			}
			// Every third time it is somebody else.
			l.ask(ctx, path, fmt.Sprintf("%s Person/%d.%d", phone, who, n/3), want)
		}
	}
}

func (l *load) ask(ctx context.Context, path, agent string, want int) {
	request, answer := fasthttp.AcquireRequest(), fasthttp.AcquireResponse()
	defer fasthttp.ReleaseRequest(request)
	defer fasthttp.ReleaseResponse(answer)
	request.SetRequestURI("http://" + l.public + path)
	request.Header.SetUserAgent(agent)
	request.Header.Set("Accept-Encoding", "gzip")
	begun := time.Now()
	err := l.client.DoTimeout(request, answer, 10*time.Second)
	if want == http.StatusOK {
		l.pages[min(time.Since(begun).Milliseconds(), int64(len(l.pages)-1))].Add(1)
	}
	if err != nil || answer.StatusCode() != want {
		if ctx.Err() == nil {
			l.failed.Add(1)
			fmt.Println("failed:", path, answer.StatusCode(), err)
		}
		return
	}
	l.answered.Add(1)
}
