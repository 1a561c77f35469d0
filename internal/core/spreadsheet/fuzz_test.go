package spreadsheet_test

import (
	"strings"
	"testing"

	"jundle/internal/core/spreadsheet"
	"jundle/internal/fuzzing"
)

func FuzzDefuse(f *testing.F) {
	f.Add("=1+1")
	f.Add("'@x")
	f.Fuzz(func(t *testing.T, cell string) {
		fuzzing.Bounded(t, func() {
			defused := spreadsheet.Defuse(cell)
			if defused != "" && strings.ContainsRune("=+-@\t\r", rune(defused[0])) {
				t.Fatalf("%q", defused)
			}
		})
	})
}
