package costs

import (
	"bytes"
	"compress/flate"
	"math/rand/v2"
	"slices"
	"time"
)

// yardstickTime is what the yardstick takes of a processor of the two cores on which the bounds were set, with nothing
// beside it.
const yardstickTime = 80 * time.Millisecond

// slowness is how many times as long as there work takes here and now, 1 at least: a slower machine, or one that other
// programs share, needs more of its processor's time for the same work.
func slowness() float64 {
	began := processorTime()
	yardstick()
	return max(1, float64(processorTime()-began)/float64(yardstickTime))
}

// yardstick is the same work every time, of the kinds that requests are made of: sorting, packing, taking memory.
func yardstick() {
	random := rand.New(rand.NewPCG(1, 2))
	numbers := make([]byte, 1<<20)
	for i := range numbers {
		numbers[i] = byte(random.IntN(64))
	}
	var packed bytes.Buffer
	writer, err := flate.NewWriter(&packed, flate.DefaultCompression)
	if err != nil {
		panic(err) // there is no such error for a level of the package's own
	}
	if _, err := writer.Write(numbers); err != nil {
		panic(err) // nor for a buffer
	}
	slices.Sort(numbers)
}
