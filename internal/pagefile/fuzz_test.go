package pagefile_test

import (
	"errors"
	"strings"
	"testing"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/fuzzing"
	"jundle/internal/pagefile"
	"jundle/internal/store"
)

func FuzzAPageIsReadOrRefusedWithAPlace(f *testing.F) {
	whole, err := pagefile.Of(store.Page{Address: "quarrow-clay", Draft: pagetest.Everything()}, nil).JSON()
	if err != nil {
		f.Fatal(err)
	}
	for _, text := range []string{
		string(whole), "", "{", `{"format":1}`, `{"format":1,"document":{"blocks":[{}]}}`, "\ufeff{\n\n\"format\": x}",
	} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			file, err := pagefile.Parse([]byte(text))
			var place *pagefile.PlaceError
			var refused *invalid.Error
			switch {
			case err == nil:
				_, _ = page.Tidy(file.Document)
			case errors.As(err, &place):
				if place.Line < 1 || place.Column < 1 || place.Line > 1+strings.Count(text, "\n") {
					t.Errorf("line %d, column %d of %q", place.Line, place.Column, text)
				}
			case !errors.As(err, &refused):
				t.Errorf("%v is no answer to a person", err)
			}
		})
	})
}
