package locale

import (
	_ "embed"
	"fmt"
	"strings"
	"time"

	"golang.org/x/text/language"
)

//go:embed libdata/dates.json
var datesData []byte

// dates is how a locale writes days and times: names, and patterns in CLDR's letters.
// Source: Unicode CLDR, Gregorian calendar; UTS #35 part 4 for the letters.
type dates struct {
	Locale string   `json:"locale"`
	Months []string `json:"months"`
	Days   []string `json:"days"`
	AM     string   `json:"am"`
	PM     string   `json:"pm"`
	Full   string   `json:"full"`
	Time   string   `json:"time"`
	At     string   `json:"at"`
}

var (
	datesOf   = make(map[string]dates)
	datesTags = mustDates()
)

// mustDates reads the locales that dates can be written for, English first, as the one
// that is taken where none fits.
func mustDates() []language.Tag {
	tags := []language.Tag{language.English}
	for _, each := range mustRead[[]dates](datesData) {
		datesOf[each.Locale] = each
		if tag := language.MustParse(each.Locale); tag != language.English {
			tags = append(tags, tag)
		}
	}
	return tags
}

// Date is a day in full, like "Friday, 4 December 2026".
func (l *Locale) Date(at time.Time) string { return l.written(l.dates.Full, at) }

// Weekday is a day of the week, like "Friday".
func (l *Locale) Weekday(day time.Weekday) string { return l.dates.Days[day] }

// Time is a time of day, like "18:00".
func (l *Locale) Time(at time.Time) string { return l.written(l.dates.Time, at) }

// Moment is a day in full with a time, like "Friday, 4 December 2026 at 18:00".
func (l *Locale) Moment(at time.Time) string {
	pattern := strings.NewReplacer("{1}", l.dates.Full, "{0}", l.dates.Time).Replace(l.dates.At)
	return l.written(pattern, at)
}

// written writes a moment by a pattern: runs of letters stand for parts of it, what is
// between single quotes for itself (UTS #35, Date Format Patterns).
func (l *Locale) written(pattern string, at time.Time) string {
	var out strings.Builder
	letters := []rune(pattern)
	for i := 0; i < len(letters); {
		letter := letters[i]
		run := 1
		switch {
		case letter == '\'':
			for i+run < len(letters) && letters[i+run] != '\'' {
				out.WriteRune(letters[i+run])
				run++
			}
			run++
		case letter >= 'a' && letter <= 'z' || letter >= 'A' && letter <= 'Z':
			for i+run < len(letters) && letters[i+run] == letter {
				run++
			}
			out.WriteString(l.part(letter, run, at))
		default:
			out.WriteRune(letter)
		}
		i += run
	}
	return out.String()
}

// part is what a run of a letter stands for: those that the patterns have.
func (l *Locale) part(letter rune, run int, at time.Time) string {
	number := func(n int) string { return l.digits.Replace(fmt.Sprintf("%0*d", run, n)) }
	switch letter {
	case 'y':
		return l.Number(at.Year())
	case 'M':
		if run >= 3 {
			return l.dates.Months[at.Month()-1]
		}
		return number(int(at.Month()))
	case 'd':
		return number(at.Day())
	case 'E':
		return l.dates.Days[at.Weekday()]
	case 'H':
		return number(at.Hour())
	case 'h':
		return number((at.Hour()+11)%12 + 1)
	case 'm':
		return number(at.Minute())
	case 'a':
		if at.Hour() < 12 {
			return l.dates.AM
		}
		return l.dates.PM
	}
	return ""
}
