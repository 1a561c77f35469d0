package agents_test

import (
	"testing"

	"jundle/internal/agents"
	"jundle/internal/fuzzing"
)

func FuzzKnow(f *testing.F) {
	list, err := agents.Load()
	if err != nil {
		f.Fatal(err)
	}
	f.Add("Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) Mobile/15E148 Photoloft/1.0")
	f.Add("")
	f.Fuzz(func(t *testing.T, userAgent string) {
		fuzzing.Bounded(t, func() { list.Classify(agents.Cut(userAgent)) })
	})
}
