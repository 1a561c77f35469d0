package public

import (
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"
)

// weighed is a cache bounded by what its entries weigh, in bytes, and not by how
// many they are: the least recently used go first. It is safe for concurrent use.
type weighed[K comparable, V any] struct {
	mu      sync.Mutex
	most    int
	weight  int
	entries *simplelru.LRU[K, heavy[V]]
}

type heavy[V any] struct {
	value  V
	weight int
}

// newWeighed makes a cache of so many bytes.
func newWeighed[K comparable, V any](most int) *weighed[K, V] {
	w := &weighed[K, V]{most: most}
	const noBound = 1 << 30 // the weight is the bound
	w.entries, _ = simplelru.NewLRU(noBound, func(_ K, gone heavy[V]) { w.weight -= gone.weight })
	return w
}

// get returns an entry, and marks it as used.
func (w *weighed[K, V]) get(key K) (value V, ok bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	held, ok := w.entries.Get(key)
	return held.value, ok
}

// add keeps an entry that weighs so much, unless it alone is too heavy.
func (w *weighed[K, V]) add(key K, value V, weight int) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.entries.Remove(key)
	if weight > w.most/4 {
		return
	}
	w.entries.Add(key, heavy[V]{value, weight})
	w.weight += weight
	for w.weight > w.most {
		w.entries.RemoveOldest()
	}
}

// removeIf drops entries.
func (w *weighed[K, V]) removeIf(drop func(key K, value V) bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	for _, key := range w.entries.Keys() {
		if held, ok := w.entries.Peek(key); ok && drop(key, held.value) {
			w.entries.Remove(key)
		}
	}
}
