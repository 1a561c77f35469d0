package public_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

func reading(language string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set("Accept-Language", language) }
}

func TestWhatNoCreatorWroteComesInThePagesLanguage(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.Language = "de-AT"
	doc.Icons.Items = []page.IconLink{{
		Key: "loft", Icon: page.Icon{Set: "signs", Name: "camera"}, Name: "Photoloft", Address: "https://photoloft.example/q",
	}}
	s.publishDocument(doc)
	body := s.get("/quarrow-clay", reading("fr")).Body.String()
	assert.Contains(t, body, `<html lang="de-AT">`)
	assert.Contains(t, body, `aria-label="Profile"`)
	assert.Contains(t, s.get("/quarrow-clay/-/1/gone1", reading("fr")).Body.String(), "Hier ist nichts")

	doc.Language = "he"
	doc.When = &window.Times{Zone: "Asia/Jerusalem", Spans: []window.Span{{From: now.Add(time.Hour), To: now.Add(2 * time.Hour)}}}
	s.publishDocument(doc)
	closed := s.get("/quarrow-clay").Body.String()
	assert.Contains(t, closed, `<html lang="he" dir="rtl">`)
	assert.Contains(t, closed, "יום שני, 1 ביוני 2026 בשעה 16:00")
}

func TestWhereThereIsNoPageTheVisitorsOwnLanguageIsSpoken(t *testing.T) {
	s := open(t)
	for language, want := range map[string]string{
		"pl, en;q=0.5": "Tu nic nie ma", "ja": "ページが見つかりません", "": "Nothing here", "sv": "Nothing here",
	} {
		for _, path := range []string{"/nobody-here", "/a/b/c/d/e/f"} {
			assert.Contains(t, s.get(path, reading(language)).Body.String(), want, "%s %s", language, path)
		}
	}
}
