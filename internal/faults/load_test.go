package faults_test

import (
	"fmt"
	"net/http"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const (
	people = 8
	// pause is between two presses of one person, so that a slow machine is not
	// the fault that is tested.
	pause = 4 * time.Millisecond
)

// load is people who press a button again and again, each press told apart by
// a number that its event keeps, and one who opens the page again and again.
type load struct {
	t        *testing.T
	program  *program
	stop     chan struct{}
	all      sync.WaitGroup
	pressed  atomic.Int64
	pages    atomic.Int64
	noPage   atomic.Int64
	mu       sync.Mutex
	answered map[string]bool // by number; false: asked and not answered
}

// visitors never follow where they are led.
var visitors = &http.Client{
	Timeout:       10 * time.Second,
	Transport:     &http.Transport{MaxIdleConnsPerHost: people + 1},
	CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
}

func (p *program) load(t *testing.T) *load {
	l := &load{t: t, program: p, stop: make(chan struct{}), answered: make(map[string]bool)}
	for range people {
		l.all.Go(func() { l.until(l.press) })
	}
	l.all.Go(func() { l.until(l.open) })
	return l
}

func (l *load) until(do func()) {
	for {
		select {
		case <-l.stop:
			return
		case <-time.After(pause):
			do()
		}
	}
}

func ask(address string) int { return askUnder("", address) }

// askUnder asks for an address under a host; empty for that of the address.
func askUnder(host, address string) int {
	request, err := http.NewRequest(http.MethodGet, address, nil)
	if err != nil {
		return 0
	}
	request.Host = host
	request.Header.Set("User-Agent", "Mozilla/5.0 (Linux; Android 15; K) Mobile")
	answer, err := visitors.Do(request)
	if err != nil {
		return 0
	}
	_ = answer.Body.Close()
	return answer.StatusCode
}

func (l *load) press() {
	number := fmt.Sprintf("n%d", l.pressed.Add(1))
	status := ask(l.program.public + "/quarrow-clay/-/1/kiln/loft?utm_content=" + number)
	l.mu.Lock()
	defer l.mu.Unlock()
	l.answered[number] = status == http.StatusFound
}

func (l *load) open() {
	l.pages.Add(1)
	if ask(l.program.public+"/quarrow-clay") != http.StatusOK {
		l.noPage.Add(1)
	}
}

// end stops the people and returns when the last has his answer.
func (l *load) end() {
	close(l.stop)
	l.all.Wait()
}

// account waits until every answered press is in the table, and asserts that
// each is there exactly once.
func (l *load) account(what string) {
	l.t.Helper()
	answered := 0
	for _, ok := range l.answered {
		if ok {
			answered++
		}
	}
	require.Positive(l.t, answered)
	var stored map[string]int
	assert.Eventually(l.t, func() bool {
		stored = l.program.presses(l.t)
		for number, ok := range l.answered {
			if ok && stored[number] == 0 {
				return false
			}
		}
		return true
	}, time.Minute, 200*time.Millisecond, "every answered press arrives")
	once, twice, unanswered := 0, 0, 0
	for number, times := range stored {
		switch {
		case times > 1:
			twice++
		case l.answered[number]:
			once++
		default:
			unanswered++
		}
	}
	assert.Zero(l.t, twice, "none is there twice")
	assert.Equal(l.t, answered, once)
	l.t.Logf("%s: %d of %d answered presses are in the table once; of %d not answered, %d arrived all the same; %d of %d pages served",
		what, once, answered, len(l.answered)-answered, unanswered, l.pages.Load()-l.noPage.Load(), l.pages.Load())
}

// accountBehindProxy is account where a proxy asks another process when one does not answer: what
// that one had kept already is there twice then, at most once a person. It counts once, as a press
// within 30 seconds of the same.
func (l *load) accountBehindProxy(what string) {
	l.t.Helper()
	var stored map[string]int
	lost := func() (n int) {
		for number, ok := range l.answered {
			if ok && stored[number] == 0 {
				n++
			}
		}
		return n
	}
	assert.Eventually(l.t, func() bool {
		stored = l.program.presses(l.t)
		return lost() == 0
	}, time.Minute, 200*time.Millisecond, "every answered press arrives")
	twice, answered := 0, 0
	for _, times := range stored {
		twice += times - 1
	}
	for _, ok := range l.answered {
		if ok {
			answered++
		}
	}
	assert.LessOrEqual(l.t, twice, people)
	l.t.Logf("%s: %d of %d answered presses are in the table, %d of them twice, because the proxy asked again; %d of %d pages served",
		what, answered-lost(), answered, twice, l.pages.Load()-l.noPage.Load(), l.pages.Load())
}
