package ownmark_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"jundle/internal/fuzzing"
	"jundle/internal/ownmark"
)

func TestOnlyOurOwnUnexpiredMarksAreBelieved(t *testing.T) {
	now := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	key, workspace := []byte("key"), uuid.New()
	mark := ownmark.Make(key, workspace, now.Add(time.Hour))

	got, ok := ownmark.Read(key, mark, now)
	assert.True(t, ok)
	assert.Equal(t, workspace, got)

	_, ok = ownmark.Read(key, mark, now.Add(time.Hour))
	assert.False(t, ok, "it is over")
	_, ok = ownmark.Read([]byte("other key"), mark, now)
	assert.False(t, ok, "somebody else's signature")
	for _, bad := range []string{"", "x", mark[1:], "A" + mark[1:], mark + "AAAA"} {
		if bad != mark {
			_, ok = ownmark.Read(key, bad, now)
			assert.False(t, ok, bad)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add("x")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			if _, ok := ownmark.Read([]byte("key"), text, time.Unix(0, 0)); ok {
				t.Fatal("a forged mark was believed")
			}
		})
	})
}
