package render

import (
	"net/url"

	"golang.org/x/text/cases"
	"golang.org/x/text/language"
	"golang.org/x/text/language/display"

	"jundle/internal/core/page"
)

// offeredLanguage is a language the page can be read in. Source of the links: HTML, link
// type alternate; RFC 8288 s3.4.1 for hreflang.
type offeredLanguage struct {
	// Tag is its BCP 47 tag, and Name what it calls itself.
	Tag, Name string
	// Path leads to the page in it, Canonical is the whole address without a tag.
	Path, Canonical string
	// Own: it is the one the page is written in. Shown: it is the one that is drawn.
	Own, Shown bool
}

// languagesOf are the languages that a page offers, its own first, from each of which all
// others can be reached.
func languagesOf(visit Visit, own string, offered []string, shown string) []offeredLanguage {
	all := make([]offeredLanguage, len(offered))
	for i, tag := range offered {
		name := display.Self.Name(language.Make(tag))
		all[i] = offeredLanguage{
			Tag: tag, Name: cases.Title(language.Make(tag), cases.NoLower).String(name), Path: WithLanguage(entryPath(visit), tag),
			Canonical: canonicalOf(visit, own, tag), Own: tag == own, Shown: tag == shown,
		}
		if all[i].Name == "" {
			all[i].Name = tag
		}
	}
	return all
}

// LanguageAddress is the address of a page in one of its languages.
type LanguageAddress struct{ Language, Address string }

// Addresses are those of a page in all its languages, its own first.
func Addresses(visit Visit, doc page.Document) []LanguageAddress {
	var all []LanguageAddress
	for _, tag := range doc.Languages() {
		all = append(all, LanguageAddress{tag, canonicalOf(visit, doc.Language, tag)})
	}
	return all
}

// canonicalOf is the address of a page in one of its languages: without a query in its own.
func canonicalOf(visit Visit, own, shown string) string {
	address := visit.canonical()
	if shown != own {
		address += "?lang=" + url.QueryEscape(shown)
	}
	return address
}
