package locale

import (
	"encoding/json"
	"maps"
	"regexp"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
)

// entries are the words of a language by ID: a text, or texts by plural.
func entries(t *testing.T, tag string) map[string]map[string]string {
	data, err := words.ReadFile("words/" + tag + ".json")
	require.NoError(t, err)
	read := make(map[string]map[string]string)
	for id, raw := range mustRead[map[string]json.RawMessage](data) {
		var text string
		if json.Unmarshal(raw, &text) == nil {
			read[id] = map[string]string{"": text}
			continue
		}
		read[id] = mustRead[map[string]string](raw)
	}
	return read
}

var placeholder = regexp.MustCompile(`\{\{\.\w+\}\}`)

func TestEveryLanguageHasEveryWordWithWhatStandsInIt(t *testing.T) {
	english := entries(t, "en")
	for _, tag := range tagsOfWords() {
		spoken := entries(t, tag)
		assert.ElementsMatch(t, slices.Collect(maps.Keys(english)), slices.Collect(maps.Keys(spoken)), tag)
		for id, texts := range spoken {
			for form, text := range texts {
				assert.NotEmpty(t, text, "%s %s %s", tag, id, form)
				if form == "" {
					assert.ElementsMatch(t, placeholder.FindAllString(english[id][""], -1), placeholder.FindAllString(text, -1), "%s %s", tag, id)
				}
			}
		}
	}
}

// The plurals are those of CLDR, as x/text carries them: who has no word for one of
// them would be left without any.
func TestEveryPluralThatALanguageHasIsThere(t *testing.T) {
	for _, tag := range tagsOfWords() {
		locale := Of(tag)
		for id, texts := range entries(t, tag) {
			if _, plain := texts[""]; plain {
				continue
			}
			for form := range pluralForms(language.MustParse(tag)) {
				assert.Contains(t, texts, form, "%s %s", tag, id)
			}
			for n := range 120 {
				assert.NotEmpty(t, locale.Count(id, n), "%s %s %d", tag, id, n)
			}
		}
	}
}

func TestNumbersOfThingsAreSaidAsTheLanguageCounts(t *testing.T) {
	for tag, want := range map[string][]string{
		"en": {"1 day", "2 days", "5 days"},
		"pl": {"1 dzień", "2 dni", "5 dni"},
		"ja": {"1日", "2日", "5日"},
		"ar": {"يوم واحد", "يومان", "٥ أيام"},
		"he": {"יום אחד", "יומיים", "5 ימים"},
	} {
		locale := Of(tag)
		assert.Equal(t, want, []string{locale.Count("days", 1), locale.Count("days", 2), locale.Count("days", 5)}, tag)
	}
}

// Written by hand from CLDR 48's own patterns and names.
func TestDaysAreWrittenAsTheLanguageWritesThem(t *testing.T) {
	at := time.Date(2026, 12, 4, 18, 5, 0, 0, time.UTC)
	for tag, want := range map[string]string{
		"en":    "Friday, December 4, 2026|Friday, December 4, 2026 at 6:05\u202fPM",
		"en-GB": "Friday, 4 December 2026|Friday, 4 December 2026 at 18:05",
		"en-AU": "Friday, 4 December 2026|Friday, 4 December 2026 at 18:05",
		"de-AT": "Freitag, 4. Dezember 2026|Freitag, 4. Dezember 2026 um 18:05",
		"fr":    "vendredi 4 décembre 2026|vendredi 4 décembre 2026 à 18:05",
		"ja":    "2026年12月4日金曜日|2026年12月4日金曜日 18:05",
		"he":    "יום שישי, 4 בדצמבר 2026|יום שישי, 4 בדצמבר 2026 בשעה 18:05",
		"ar":    "الجمعة، ٤ ديسمبر ٢٠٢٦|الجمعة، ٤ ديسمبر ٢٠٢٦ في ٦:٠٥ م",
	} {
		locale := Of(tag)
		assert.Equal(t, want, locale.Date(at)+"|"+locale.Moment(at), tag)
	}
	assert.Equal(t, "12:30\u202fAM", Of("en").Time(time.Date(2026, 1, 1, 0, 30, 0, 0, time.UTC)))
}

func TestTheLanguageIsTheNearestThatThereIs(t *testing.T) {
	for tag, want := range map[string]string{"": "en", "de-CH": "de", "pt-BR": "pt", "iw": "he", "sv": "en", "nonsense!": "en", "zh": "en"} {
		assert.Equal(t, want, Of(tag).Tag(), tag)
	}
	for header, want := range map[string]string{
		"": "en", "de-DE,de;q=0.9,en;q=0.5": "de", "sv, fr;q=0.4": "fr", "sv": "en", ";;q=": "en", "en;q=0.1, tr": "tr",
	} {
		assert.Equal(t, want, Preferred(header).Tag(), header)
	}
}

func TestWhatIsWrittenFromTheRightSaysSo(t *testing.T) {
	for tag, want := range map[string]string{
		"ar": "rtl", "he": "rtl", "fa": "rtl", "ur": "rtl", "de": "ltr", "az": "ltr", "az-Arab": "rtl", "": "ltr",
	} {
		assert.Equal(t, want, Direction(tag), tag)
	}
	assert.Contains(t, Of("he").Say("signed_up_text", "Name", "Quarrow Clay", "Address", "a@b.example"), "\u2068Quarrow Clay\u2069")
}

func FuzzPreferred(f *testing.F) {
	f.Add("de-DE,de;q=0.9")
	f.Fuzz(func(t *testing.T, header string) {
		if !slices.Contains(tagsOfWords(), Preferred(header).Tag()) {
			t.Fatal(header)
		}
	})
}

// tagsOfWords are the tags of the languages that there are words in, English first.
func tagsOfWords() []string {
	tags := make([]string, len(languages))
	for i, tag := range languages {
		tags[i] = tag.String()
	}
	return tags
}

// pluralForms are the plurals that whole numbers take in a language, by CLDR's names.
func pluralForms(tag language.Tag) map[string]bool {
	names := map[plural.Form]string{
		plural.Other: "other", plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many",
	}
	forms := make(map[string]bool)
	for n := range 200 {
		forms[names[plural.Cardinal.MatchPlural(tag, n, 0, 0, 0, 0)]] = true
	}
	return forms
}
