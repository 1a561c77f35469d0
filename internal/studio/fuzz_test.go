package studio

import (
	"encoding/json"
	"testing"

	"jundle/internal/core/page"
	"jundle/internal/fuzzing"
)

func FuzzCheckJSON(f *testing.F) {
	f.Add([]byte(`{"revision":1,"document":{"blocks":[{"key":"aaaa","kind":"text","text":{"html":"<p>a\u0000</p>"}}]}}`))
	f.Add([]byte(`"\\u0000"`))
	f.Fuzz(func(t *testing.T, body []byte) {
		fuzzing.Bounded(t, func() {
			if len(body) > draftBody || checkJSON(body) != nil {
				return
			}
			var anything any
			if json.Unmarshal(body, &anything) != nil {
				return
			}
			var sent struct{ Document page.Document }
			if json.Unmarshal(body, &sent) == nil {
				_, _ = page.Tidy(sent.Document)
			}
			if text, ok := anything.(string); ok {
				for _, r := range text {
					if r == 0 {
						t.Fatalf("%q lets a NUL through", body)
					}
				}
			}
		})
	})
}

func FuzzListPart(f *testing.F) {
	f.Add("MjAyNi0wNi0wMVQxMjowMDowMFogeA")
	f.Add(cursor{}.String())
	f.Fuzz(func(t *testing.T, after string) {
		fuzzing.Bounded(t, func() {
			place, _, err := ListPart{After: after, Limit: 10}.read()
			if err == nil && place != nil && (place.at.Year() < 2000 || place.at.Year() > 9000) {
				t.Fatalf("%q is %v", after, place)
			}
		})
	})
}

func FuzzParseEmail(f *testing.F) {
	f.Add("ilse@quarrow.example")
	f.Add(`"a b"@c.d`)
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			if email, err := parseEmail(text); err == nil {
				if again, err := parseEmail(email); err != nil || again != email {
					t.Fatalf("%q is read as %q", text, email)
				}
			}
		})
	})
}
