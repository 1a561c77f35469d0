package public

import (
	"cmp"
	"net/url"
	"slices"
	"strings"

	"golang.org/x/text/language"

	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/render"
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

// reads is the language that a visitor reads the page in, for addresses to carry on; empty for a page
// in one language.
func (p *livePage) reads(asked request, chosen string) string {
	if p.offered == nil {
		return ""
	}
	return cmp.Or(p.languageOf(asked, chosen), p.Document.Language)
}

// entry is how a visitor opened a page: under which tag, and in which language where there are several.
type entry struct {
	live  *livePage
	tag   string
	reads string
}

// locale is that of the language they read.
func (e entry) locale() *locale.Locale { return locale.Of(cmp.Or(e.reads, e.live.Document.Language)) }

// back is the path that leads back to the page.
func (e entry) back() string { return e.live.backTo(e.tag, e.reads) }

// spoken is a notice in their language, with a way back to the page.
func (e entry) spoken(id string) render.Notice {
	notice := spoken(e.locale(), id)
	notice.Back = e.back()
	return notice
}

// backTo is the path that leads back to the page as its visitor opened it: with a tag, where that is one of the
// page's, and the language they read.
func (p *livePage) backTo(tag, reads string) string {
	if p.tags[tag] == "" {
		tag = ""
	}
	if p.offered == nil {
		reads = ""
	}
	return render.EntryAddress(render.Visit{Address: p.Address, Tag: tag, Reads: reads})
}

// backOf is the path that leads back to the page for somebody who came from a source; empty where the page is no
// longer there.
func (p *livePage) backOf(sourceID, reads string) string {
	if p == nil {
		return ""
	}
	from, _ := p.attributor.Find(sourceID)
	return p.backTo(from.Tag, reads)
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
