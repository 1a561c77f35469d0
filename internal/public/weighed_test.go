package public

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestACacheHoldsNoMoreThanItsWeightAndDropsTheLeastUsed(t *testing.T) {
	cache := newWeighed[string, int](100)
	cache.add("a", 1, 25)
	cache.add("b", 2, 25)
	cache.add("c", 3, 25)
	cache.add("d", 4, 25)
	_, _ = cache.get("a")
	cache.add("e", 5, 10)
	_, held := cache.get("b")
	assert.False(t, held, "the one used least is gone")
	for _, key := range []string{"a", "c", "d", "e"} {
		_, held := cache.get(key)
		assert.True(t, held, key)
	}
	cache.add("f", 6, 26)
	_, held = cache.get("f")
	assert.False(t, held, "what would push out a quarter of the rest is not kept")
}

func TestTheWeightOfACacheIsThatOfItsEntries(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cache := newWeighed[int, int](1000)
		for range rapid.IntRange(0, 200).Draw(t, "steps") {
			key := rapid.IntRange(0, 20).Draw(t, "key")
			if rapid.Bool().Draw(t, "drop") {
				cache.removeIf(func(each, _ int) bool { return each == key })
			} else {
				cache.add(key, key, rapid.IntRange(0, 300).Draw(t, "weight"))
			}
			sum := 0
			for _, each := range cache.entries.Values() {
				sum += each.weight
			}
			if sum != cache.weight || sum > 1000 {
				t.Fatalf("%d held, %d noted", sum, cache.weight)
			}
		}
	})
}
