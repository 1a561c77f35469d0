package public_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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

// inThree is a page offered in German and Hebrew, too.
func inThree() page.Document {
	form := page.Block{Key: "letter01", Kind: "signup", Shown: true, SignUp: &page.SignUp{Title: "The letter", Consent: "You may write."}}
	doc := document([]page.Block{button("dates", "https://kiln.example/dates"), form})
	doc.Header.Line = "Wood-fired pots"
	doc.Translations = []page.Translation{
		{Language: "de", Texts: map[string]string{
			"header/line": "Im Holzfeuer", "blocks/letter01/signup/consent": "Sie dürfen schreiben.", "gate/text": "Vorsicht, heiß.",
		}},
		{Language: "he", Texts: map[string]string{"header/line": "כדים"}},
	}
	return doc
}

func TestAVisitorReadsAPageInTheLanguageOfTheirBrowserOrTheOneTheyChose(t *testing.T) {
	s := open(t)
	s.publishDocument(inThree())
	for _, c := range []struct{ path, accepts, language, says string }{
		{"/quarrow-clay", "", "en", "Wood-fired pots"},
		{"/quarrow-clay", "de-CH, en;q=0.8", "de", "Im Holzfeuer"},
		{"/quarrow-clay", "fr, he;q=0.5, en;q=0.2", "he", "כדים"},
		{"/quarrow-clay", "sv", "en", "Wood-fired pots"},
		{"/quarrow-clay", strings.Repeat("de,", 200), "en", "Wood-fired pots"},
		{"/quarrow-clay?lang=de", "he", "de", "Im Holzfeuer"},
		{"/quarrow-clay?lang=en", "de", "en", "Wood-fired pots"},
		{"/quarrow-clay?lang=%3Cscript%3E", "", "en", "Wood-fired pots"},
	} {
		got := s.get(c.path, reading(c.accepts))
		assert.Contains(t, got.Body.String(), c.says, "%+v", c)
		assert.Equal(t, c.language, got.Header().Get("Content-Language"), "%+v", c)
		assert.Contains(t, got.Header().Get("Vary"), "Accept-Language")
	}
	asked := s.get("/quarrow-clay", reading("de"))
	again := s.get("/quarrow-clay", reading("de"), func(r *http.Request) { r.Header.Set("If-None-Match", asked.Header().Get("ETag")) })
	assert.Equal(t, http.StatusNotModified, again.Code)
	other := s.get("/quarrow-clay", reading("he"), func(r *http.Request) { r.Header.Set("If-None-Match", asked.Header().Get("ETag")) })
	assert.Equal(t, http.StatusOK, other.Code, "what was kept of one language is not another's")
}

func TestAFormAndAGateSpeakTheLanguageThePageIsReadIn(t *testing.T) {
	s := open(t)
	doc := inThree()
	s.publishDocument(doc)
	assert.Contains(t, s.get("/quarrow-clay?lang=de").Body.String(), `<input type="hidden" name="lang" value="de">`)
	wrong := s.send("/quarrow-clay/-/1/letter01", "203.0.113.7", url.Values{"address": {"nobody"}, "lang": {"de"}})
	assert.Contains(t, wrong.Body.String(), "Sie dürfen schreiben.")
	assert.Contains(t, wrong.Body.String(), `<html lang="de">`)
	filled := left("rolf@reader.example")
	filled.Set("lang", "de")
	sent := s.send("/quarrow-clay/-/1/letter01", "203.0.113.7", filled)
	assert.Equal(t, "/quarrow-clay/-/1/letter01?sent=&lang=de", sent.Header().Get("Location"))
	assert.Contains(t, s.get(sent.Header().Get("Location")).Body.String(), "Sehen Sie in Ihr Postfach")
	kept := s.signUps()
	require.Len(t, kept, 1)
	assert.Equal(t, "de", kept[0].Language)
	assert.Equal(t, "Sie dürfen schreiben.", kept[0].Consent, "what was agreed to, as it was read")

	doc.Gate = &page.Gate{Kind: "notice", Text: "Careful, hot."}
	s.publishDocument(doc)
	assert.Contains(t, s.get("/quarrow-clay", reading("de")).Body.String(), "Vorsicht, heiß.")
	assert.Contains(t, s.get("/quarrow-clay?lang=en", reading("de")).Body.String(), "Careful, hot.")
}
