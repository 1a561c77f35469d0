package public

import (
	"net/url"
	"slices"
	"strings"

	"golang.org/x/text/language"

	"jundle/internal/core/page"
)

// offered are the languages a page can be read in, its own first.
type offered struct {
	tags    []string
	matcher language.Matcher
}

// offeredBy are those of a page; nil where there is but one.
func offeredBy(doc page.Document) *offered {
	all := doc.Languages()
	if len(all) == 1 {
		return nil
	}
	tags := make([]language.Tag, len(all))
	for i, each := range all {
		tags[i] = language.Make(each)
	}
	return &offered{all, language.NewMatcher(tags)}
}

// longestAccepted is how much of Accept-Language is read, in bytes.
const longestAccepted = 300

// languageOf is the language that a visitor gets the page in; empty for its own. What they
// chose goes before what their browser says (RFC 9110 s12.5.4).
func (p *livePage) languageOf(asked request, chosen string) string {
	if p.offered == nil {
		return ""
	}
	at := slices.Index(p.offered.tags, chosen)
	if at < 0 && len(asked.languages) <= longestAccepted {
		if wanted, _, err := language.ParseAcceptLanguage(asked.languages); err == nil && len(wanted) > 0 {
			_, at, _ = p.offered.matcher.Match(wanted...)
		}
	}
	if at <= 0 {
		return ""
	}
	return p.offered.tags[at]
}

// chosenIn is the language that a query asks for; empty for none.
func chosenIn(query string) string {
	if !strings.Contains(query, "lang=") {
		return ""
	}
	values, err := url.ParseQuery(query)
	if err != nil {
		return ""
	}
	return values.Get("lang")
}
