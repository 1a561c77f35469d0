package qr_test

import (
	"testing"

	"jundle/internal/fuzzing"
	"jundle/internal/qr"
)

func FuzzNew(f *testing.F) {
	f.Add("https://pages.example/quarrow-clay/card", "#0b5d6c", "#ffffff")
	f.Add("", "", "")
	f.Fuzz(func(t *testing.T, address, ink, ground string) {
		if len(address) > 2000 {
			return // no address of ours is as long
		}
		fuzzing.Bounded(t, func() {
			code, err := qr.New(address, qr.Options{Level: qr.Medium, Ink: ink, Ground: ground})
			if err != nil {
				return
			}
			if _, err := code.SVG(); err != nil {
				t.Fatal(err)
			}
		})
	})
}
