// Package turns bounds work that takes much of a processor: so much of it goes on at once in all, and less of
// what is one's, be it a page or a member. Who has to wait stands in a line of their own, so that whoever asks for
// very much keeps nobody else waiting for longer than one piece of it takes.
package turns

import (
	"context"
	"errors"
	"runtime"
	"sync"

	"golang.org/x/sync/semaphore"
)

// ErrBusy is answered where as many wait for one's turn as may.
var ErrBusy = errors.New("too many wait for a turn already")

// Turns are given to those who ask, by whose work it is. They may be used by several goroutines.
type Turns[K comparable] struct {
	all          *semaphore.Weighted
	ofOne, waits int
	mu           sync.Mutex
	lines        map[K]*line
}

// line is of those who wait for a turn of one's, and who have one.
type line struct {
	turn  *semaphore.Weighted
	stand int
}

// New gives so many turns at once, of one's so many, for each of which so many may wait besides.
func New[K comparable](atOnce, ofOne, waits int) *Turns[K] {
	return &Turns[K]{all: semaphore.NewWeighted(int64(atOnce)), ofOne: ofOne, waits: waits, lines: make(map[K]*line)}
}

// Spare is how many turns there can be so that one processor is left to others: at most most, and at least one.
func Spare(most int) int { return max(1, min(most, runtime.GOMAXPROCS(0)-1)) }

// Take waits for a turn of one's work until ctx ends. It answers ErrBusy where too many wait, and else the function
// that gives the turn back, to be called once.
func (t *Turns[K]) Take(ctx context.Context, of K) (done func(), err error) {
	stands, err := t.queue(of)
	if err != nil {
		return nil, err
	}
	if err := stands.turn.Acquire(ctx, 1); err != nil {
		t.leave(of)
		return nil, err
	}
	if err := t.all.Acquire(ctx, 1); err != nil {
		stands.turn.Release(1)
		t.leave(of)
		return nil, err
	}
	return func() {
		t.all.Release(1)
		stands.turn.Release(1)
		t.leave(of)
	}, nil
}

func (t *Turns[K]) queue(of K) (*line, error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	stands := t.lines[of]
	if stands == nil {
		stands = &line{turn: semaphore.NewWeighted(int64(t.ofOne))}
		t.lines[of] = stands
	}
	if stands.stand >= t.ofOne+t.waits {
		return nil, ErrBusy
	}
	stands.stand++
	return stands, nil
}

func (t *Turns[K]) leave(of K) {
	t.mu.Lock()
	defer t.mu.Unlock()
	stands := t.lines[of]
	if stands.stand--; stands.stand == 0 {
		delete(t.lines, of)
	}
}
