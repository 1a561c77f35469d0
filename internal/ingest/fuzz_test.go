package ingest

import (
	"testing"

	"jundle/internal/fuzzing"
)

func FuzzDecode(f *testing.F) {
	f.Add(
		[]byte(
			`{"id":"0198c2a4-0000-7000-8000-000000000000","at":"2026-06-01T12:00:00Z","page":"0198c2a4-0000-7000-8000-000000000000",` +
				`"edition":1,"kind":"view","agent":"Mobile","visitor":[1,2,3],"rules":3}` + "\n",
		),
	)
	f.Add([]byte("{\"id\n\n}"))
	var r Recorder
	f.Fuzz(func(t *testing.T, lines []byte) {
		fuzzing.Bounded(t, func() { r.decode(lines) })
	})
}
