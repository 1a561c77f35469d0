package media

import (
	"testing"

	"jundle/internal/fuzzing"
)

func FuzzOrientation(f *testing.F) {
	f.Add(
		[]byte(
			"\xff\xd8\xff\xe1\x00\x22Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00",
		),
	)
	f.Add([]byte("\xff\xd8\xff\xe1\x00\x02\xff\xda"))
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() {
			if held := orientation(data); held < 1 || held > 8 {
				t.Fatal(held)
			}
		})
	})
}
