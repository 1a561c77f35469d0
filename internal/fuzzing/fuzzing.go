// Package fuzzing bounds what one input may cost a parser, in fuzz tests: input from
// strangers is to be no dearer than it is long.
package fuzzing

import (
	"runtime/metrics"
	"testing"
	"time"
)

// Limits for one input. They are far above what any of the parsers takes, and far
// below what would hurt: the machine may be busy with other things.
const (
	MostTime  = 2 * time.Second
	MostBytes = 96 << 20 // allocated in all
)

// Bounded does something with one input and fails the test when that takes longer,
// or allocates more, than one input may.
func Bounded(t testing.TB, do func()) {
	t.Helper()
	before, begun := allocated(), time.Now()
	do()
	if took := time.Since(begun); took > MostTime {
		t.Fatalf("one input took %s", took)
	}
	if bytes := allocated() - before; bytes > MostBytes {
		t.Fatalf("one input allocated %d MB", bytes>>20)
	}
}

func allocated() uint64 {
	sample := []metrics.Sample{{Name: "/gc/heap/allocs:bytes"}}
	metrics.Read(sample)
	return sample[0].Value.Uint64()
}
