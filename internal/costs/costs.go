// Package costs measures what a request costs: the processor's time and the memory it takes. It is for tests that
// hold every request to a bound, whoever sends it.
package costs

import (
	"cmp"
	"runtime"
	"slices"
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

// measured is what a request cost.
type measured struct {
	name string
	Bound
}

// tries is how often a request is measured that seems to cost too much: what goes on beside it, such as the garbage
// collector's work for those before, is no part of it, so that the least is what it costs.
const tries = 3

// Hold does every request, prints the ten that cost most, and fails the test for those beyond a bound. The processor's
// time is that of the whole process: nothing else may go on.
func Hold(t testing.TB, bound Bound, requests map[string]func()) {
	t.Helper()
	var all []measured
	for name, request := range requests {
		least := measure(request)
		for try := 1; try < tries && least.exceeds(bound); try++ {
			again := measure(request)
			least.Milliseconds, least.Megabytes = min(least.Milliseconds, again.Milliseconds), min(least.Megabytes, again.Megabytes)
		}
		all = append(all, measured{name, least})
		if least.exceeds(bound) {
			t.Errorf("%s costs %.0f ms and %.1f MB; %.0f ms and %.0f MB are the most", name, least.Milliseconds, least.Megabytes,
				bound.Milliseconds, bound.Megabytes)
		}
	}
	slices.SortFunc(all, func(a, b measured) int { return cmp.Compare(b.Milliseconds, a.Milliseconds) })
	for _, each := range all[:min(10, len(all))] {
		t.Logf("%6.1f ms %6.1f MB  %s", each.Milliseconds, each.Megabytes, each.name)
	}
}

func (b Bound) exceeds(most Bound) bool {
	return b.Milliseconds > most.Milliseconds || b.Megabytes > most.Megabytes
}

func measure(request func()) Bound {
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	began := processorTime()
	request()
	took := processorTime() - began
	runtime.ReadMemStats(&after)
	return Bound{
		Milliseconds: float64(took) / float64(time.Millisecond) / slowness(),
		Megabytes:    float64(after.TotalAlloc-before.TotalAlloc) / (1 << 20),
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
