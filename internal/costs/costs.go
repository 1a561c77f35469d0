// Package costs measures what a request costs: the processor's time and the memory it takes. It is for tests that
// hold every request to a bound, whoever sends it.
package costs

import (
	"cmp"
	"maps"
	"runtime"
	"slices"
	"sync"
	"syscall"
	"testing"
	"time"
)

// Bound is what a request may cost.
type Bound struct {
	// Milliseconds are those of the processor, all threads together, on the machine that the yardstick was measured on.
	Milliseconds float64
	// Megabytes are those that are taken from the heap, even where they are given back at once.
	Megabytes float64
}

// tries is how often a request is measured that seems to cost too much: what goes on beside it, such as the garbage
// collector's work for those before, is no part of it, so that the least is what it costs.
const tries = 3

// Hold does every request, prints the ten that cost most, and fails the test for those beyond a bound. The processor's
// time is that of the whole process: nothing else may go on.
func Hold(t testing.TB, bound Bound, requests map[string]func()) {
	t.Helper()
	HoldAtOnce(t, 1, bound, requests)
}

// HoldAtOnce does so with as many of each request as given at the same time; the bound is for one of them.
func HoldAtOnce(t testing.TB, many int, bound Bound, requests map[string]func()) {
	t.Helper()
	cost := map[string]Bound{}
	for name, request := range requests {
		cost[name] = Least(many, bound, request)
	}
	t.Logf("Those that cost most, each, with %d at once:", many)
	Check(t, bound, cost)
}

// Least is Measure of a request that may be done again: what seems to exceed a bound is measured once more.
func Least(many int, bound Bound, request func()) Bound {
	least := Measure(many, request)
	for try := 1; try < tries && least.Exceeds(bound); try++ {
		again := Measure(many, request)
		least.Milliseconds, least.Megabytes = min(least.Milliseconds, again.Milliseconds), min(least.Megabytes, again.Megabytes)
	}
	return least
}

// Check prints the ten of some requests that cost most, and fails the test for those beyond a bound.
func Check(t testing.TB, bound Bound, cost map[string]Bound) {
	t.Helper()
	names := slices.SortedFunc(maps.Keys(cost), func(a, b string) int { return cmp.Compare(cost[b].Milliseconds, cost[a].Milliseconds) })
	for i, name := range names {
		if i < 10 {
			t.Logf("%6.1f ms %6.1f MB  %.100s", cost[name].Milliseconds, cost[name].Megabytes, name)
		}
		if cost[name].Exceeds(bound) {
			t.Errorf("%s costs %.0f ms and %.1f MB; %.0f ms and %.0f MB are the most", name, cost[name].Milliseconds, cost[name].Megabytes,
				bound.Milliseconds, bound.Megabytes)
		}
	}
}

// Exceeds tells whether a request cost more than it may.
func (b Bound) Exceeds(most Bound) bool {
	return b.Milliseconds > most.Milliseconds || b.Megabytes > most.Megabytes
}

// Measure does a request so many times at once, and answers what one of them cost. One that can be done again only
// after it was made ready anew is measured by itself, and checked with others.
func Measure(many int, request func()) Bound {
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	began := processorTime()
	var all sync.WaitGroup
	for range many {
		all.Go(request)
	}
	all.Wait()
	took := processorTime() - began
	runtime.ReadMemStats(&after)
	return Bound{
		Milliseconds: float64(took) / float64(time.Millisecond) / slowness() / float64(many),
		Megabytes:    float64(after.TotalAlloc-before.TotalAlloc) / (1 << 20) / float64(many),
	}
}

// processorTime is what the process has used.
func processorTime() time.Duration {
	var used syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &used); err != nil {
		panic(err) // there is no such error for the own process
	}
	return time.Duration(used.Utime.Nano() + used.Stime.Nano())
}
