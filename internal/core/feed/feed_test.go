package feed

import (
	"fmt"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/picture"
)

var noon = time.Date(2026, 12, 1, 12, 0, 0, 0, time.UTC)

func TestAnEntryHasTheSameKeyAlways(t *testing.T) {
	assert.Equal(t, Key("tag:quarrow.example,2026:1"), Key("tag:quarrow.example,2026:1"))
	assert.NotEqual(t, Key("1"), Key("2"))
	assert.Regexp(t, regexp.MustCompile(`^[a-z0-9]{4,16}$`), Key(""))
}

func TestTheNewestComeFirstAndWhatIsGoneStaysBehindThem(t *testing.T) {
	pot := &picture.Picture{Media: "x.jpg"}
	kept := []Item{{Key: "aaaa", Title: "A", Picture: pot, At: noon}, {Key: "bbbb", Title: "B", At: noon.Add(-time.Hour)}}
	merged := Merge(kept, []Item{
		{Key: "aaaa", Title: "A, corrected", At: noon},
		{Key: "cccc", Title: "C", At: noon.Add(time.Hour)},
		{Key: "cccc", Title: "C again", At: noon},
	})
	assert.Equal(t, []Item{
		{Key: "cccc", Title: "C", At: noon.Add(time.Hour)},
		{Key: "aaaa", Title: "A, corrected", Picture: pot, At: noon},
		{Key: "bbbb", Title: "B", At: noon.Add(-time.Hour), Gone: true},
	}, merged)
	undated := Merge(nil, []Item{{Key: "aaaa"}, {Key: "bbbb", At: noon}})
	assert.Equal(t, []string{"aaaa", "bbbb"}, keysOf(undated), "where not all are dated, as they come")
	assert.False(t, Merge(merged, []Item{{Key: "bbbb"}})[0].Gone, "what comes back is there again")
}

func keysOf(items []Item) (keys []string) {
	for _, item := range items {
		keys = append(keys, item.Key)
	}
	return keys
}

func TestWhatIsKeptHasALimitWhateverAFeedSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var kept []Item
		for round := range rapid.IntRange(1, 6).Draw(t, "rounds") {
			var read []Item
			for i := range rapid.IntRange(0, 90).Draw(t, "items") {
				read = append(read, Item{Key: fmt.Sprint(round*rapid.IntRange(0, 1).Draw(t, "new"), i), Picture: &picture.Picture{}})
			}
			kept = Merge(kept, read)
			seen, pictured := make(map[string]bool), 0
			for _, item := range kept {
				if seen[item.Key] {
					t.Fatalf("%s is there twice", item.Key)
				}
				seen[item.Key] = true
				if item.Picture != nil {
					pictured++
				}
			}
			if len(kept) > Kept || pictured > Pictured {
				t.Fatalf("%d items, %d with pictures", len(kept), pictured)
			}
		}
	})
}

func TestAFeedIsAskedAsOftenAsItWantsWithinBounds(t *testing.T) {
	for _, c := range []struct {
		of   Answer
		want time.Duration
	}{
		{Answer{}, time.Hour},
		{Answer{Fresh: 30 * time.Minute}, 30 * time.Minute},
		{Answer{Fresh: time.Second}, 15 * time.Minute},
		{Answer{Fresh: 400 * time.Hour}, 24 * time.Hour},
		{Answer{Failures: 1}, 15 * time.Minute},
		{Answer{Failures: 3}, time.Hour},
		{Answer{Failures: 90}, 24 * time.Hour},
		{Answer{Failures: 1, Later: 3 * time.Hour}, 3 * time.Hour},
		{Answer{Later: 999 * time.Hour}, 24 * time.Hour},
		{Answer{Over: true, Failures: 1}, 24 * time.Hour},
	} {
		assert.Equal(t, noon.Add(c.want), Next(noon, c.of, 0), "%+v", c.of)
	}
	assert.Equal(t, noon.Add(66*time.Minute), Next(noon, Answer{}, 1))
}
