// Package locale holds what a page says in its own language where the creator wrote
// nothing: words, numbers of things, days and times.
//
// The words stand in words/, one file a language; how dates are written, and which
// plural a number takes, is data of the Unicode CLDR. A language that we have no words
// of is spoken to in English.
package locale

import (
	"embed"
	"encoding/json"
	"fmt"
	"path"
	"strings"

	"github.com/nicksnyder/go-i18n/v2/i18n"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

//go:embed words/*.json
var words embed.FS

// Languages that there are words in. The first is spoken where none fits.
var languages = []language.Tag{
	language.English, language.Arabic, language.German, language.Spanish, language.French, language.Hebrew, language.Italian,
	language.Japanese, language.Dutch, language.Polish, language.Portuguese, language.Turkish,
}

// Locale is a language as a page speaks it.
type Locale struct {
	// tag is the language of the words, such as pt.
	tag language.Tag
	// dates says how it writes days, region included: en-GB does not write them as en does.
	dates     dates
	localizer *i18n.Localizer
	digits    *strings.Replacer
}

// Of returns the locale for the BCP 47 tag of a page's language; that of English where
// the tag is none, or of a language we have no words of.
func Of(tag string) *Locale { return found(language.Make(tag)) }

// Preferred returns the locale for what a browser says it reads, the header field
// Accept-Language (RFC 9110 s12.5.4).
func Preferred(accepted string) *Locale {
	if len(accepted) > longestHeader {
		return english
	}
	tags, _, err := language.ParseAcceptLanguage(accepted)
	if err != nil || len(tags) == 0 {
		return english
	}
	return found(tags...)
}

// longestHeader is how much of Accept-Language is read, in bytes.
const longestHeader = 300

var (
	lettersOf    = make(map[string]map[string]string) // all that stands under an ID, by language
	bundle       = mustBundle()
	wordsMatcher = language.NewMatcher(languages)
	byDates      = mustLocales()
	english      = byDates["en"]
	datesMatcher = language.NewMatcher(datesTags)
)

func found(tags ...language.Tag) *Locale {
	_, i, confidence := datesMatcher.Match(tags...)
	if confidence < language.High {
		return english
	}
	return byDates[datesTags[i].String()]
}

func mustBundle() *i18n.Bundle {
	made := i18n.NewBundle(language.English)
	for _, tag := range languages {
		file, err := made.LoadMessageFileFS(words, path.Join("words", tag.String()+".json"))
		if err != nil {
			panic(err) // it ships with the program
		}
		letters := make(map[string]string, len(file.Messages))
		for _, each := range file.Messages {
			letters[each.ID] = each.Zero + each.One + each.Two + each.Few + each.Many + each.Other
		}
		lettersOf[tag.String()] = letters
	}
	return made
}

func mustLocales() map[string]*Locale {
	made := make(map[string]*Locale, len(datesTags))
	for _, tag := range datesTags {
		_, i, _ := wordsMatcher.Match(tag)
		spoken := languages[i]
		made[tag.String()] = &Locale{
			tag: spoken, dates: datesOf[tag.String()], localizer: i18n.NewLocalizer(bundle, spoken.String()), digits: digitsOf(tag),
		}
	}
	return made
}

// digitsOf writes Latin digits as a language writes them.
func digitsOf(tag language.Tag) *strings.Replacer {
	printer := message.NewPrinter(tag)
	var pairs []string
	for digit := range 10 {
		pairs = append(pairs, fmt.Sprint(digit), printer.Sprint(digit))
	}
	return strings.NewReplacer(pairs...)
}

// Tag is the BCP 47 tag of the language its words are in.
func (l *Locale) Tag() string { return l.tag.String() }

// Direction is how a language is written, for HTML's dir: "ltr" or "rtl". It is asked of
// the language itself: one that we have no words of may be written from the right.
func Direction(tag string) string {
	script, _ := language.Make(tag).Script()
	switch script.String() {
	case "Arab", "Hebr", "Syrc", "Thaa", "Nkoo", "Adlm", "Rohg", "Samr", "Mand": // Unicode Character Database, Bidi_Class R and AL
		return "rtl"
	}
	return "ltr"
}

// Say returns the words under an ID, with what stands in them by name: pairs of names
// and values, such as "Name", "Quarrow Clay". It panics for an ID that there is none of.
func (l *Locale) Say(id string, pairs ...string) string {
	return l.localizer.MustLocalize(&i18n.LocalizeConfig{MessageID: id, TemplateData: l.named(pairs)})
}

// Count returns the words under an ID for a number of things, at least 0, in the plural
// it takes.
func (l *Locale) Count(id string, n int) string {
	return l.localizer.MustLocalize(&i18n.LocalizeConfig{
		MessageID: id, PluralCount: n, TemplateData: map[string]string{"Count": l.Number(n)},
	})
}

// Letters are the words under IDs in all their plurals, for what is asked which letters they
// take.
func (l *Locale) Letters(ids ...string) (letters string) {
	for _, id := range ids {
		letters += lettersOf[l.Tag()][id]
	}
	return letters
}

// Number is a whole number in the digits of the language.
func (l *Locale) Number(n int) string { return l.digits.Replace(fmt.Sprint(n)) }

// named are values by their names. In what is written from the right each is kept apart
// from the words around it, as a name in Latin letters would turn them about (Unicode,
// UAX #9, first strong isolate).
func (l *Locale) named(pairs []string) map[string]string {
	values := make(map[string]string, len(pairs)/2)
	for i := 0; i+1 < len(pairs); i += 2 {
		value := pairs[i+1]
		if Direction(l.Tag()) == "rtl" {
			value = "\u2068" + value + "\u2069"
		}
		values[pairs[i]] = value
	}
	return values
}

// Tags are those of the languages that pages speak, with the regions that write dates in
// another way, English first.
func Tags() []string {
	tags := make([]string, len(datesTags))
	for i, tag := range datesTags {
		tags[i] = tag.String()
	}
	return tags
}

func mustRead[T any](data []byte) (read T) {
	if err := json.Unmarshal(data, &read); err != nil {
		panic(err) // it ships with the program
	}
	return read
}
