package address

import (
	"strings"
)

// Limits on the address of a page or a short link, in characters.
const (
	MinPageAddress = 3
	MaxPageAddress = 40
)

// reserved are the names a page may not take: those the public listener, a
// browser or a mail system already gives a meaning, and those a visitor would
// take for us rather than for a creator.
var reserved = map[string]bool{}

func init() {
	for _, word := range strings.Fields(`
		about abuse account admin administrator api app assets billing blog contact
		dashboard demo dev docs download feed files fonts go healthz help home imprint
		index jundle legal login logout mail media metrics new oauth own page pages
		postmaster press privacy public readyz register robots root search
		security settings shop sign-in sign-out sign-up signin signup sitemap source
		sources staff static status studio support system team terms test webmaster
		well-known www`) {
		reserved[word] = true
	}
}

// ParsePageAddress reads the address of a page: 3 to 40 of a-z, 0-9 and hyphen,
// no hyphen at either end or doubled, no reserved word. Case does not matter;
// what is returned is in lower case. Refusals are *RefusedError.
func ParsePageAddress(text string) (string, error) {
	return parseName(text, "page address", "quarrow-clay")
}

// ParseShortAddress reads the address of a short link, by the rules for pages:
// the two stand in the same place, and neither may be taken for the other.
func ParseShortAddress(text string) (string, error) {
	return parseName(text, "short address", "spring-firing")
}

func parseName(text, noun, example string) (string, error) {
	name := strings.ToLower(clean(text))
	switch {
	case len(name) < MinPageAddress:
		return "", refuse("A %s has at least %d characters.", noun, MinPageAddress)
	case len(name) > MaxPageAddress:
		return "", refuse("A %s has at most %d characters; this one has %d.", noun, MaxPageAddress, len([]rune(name)))
	case !isCode(name):
		return "", refuse("A %s is made of the letters a to z, digits and single hyphens inside, like “%s”.", noun, example)
	case reserved[name]:
		return "", refuse("“%s” is kept for the service itself. Add a word to it, like “%s-studio”.", name, name)
	}
	return name, nil
}

// IsName tells whether something could be the address of a page or a short link,
// reserved words included: one may have been taken before it was reserved.
func IsName(name string) bool {
	return len(name) >= MinPageAddress && len(name) <= MaxPageAddress && isCode(name)
}

// isCode tells whether text is of a-z, 0-9 and hyphens, with no hyphen at
// either end or doubled.
func isCode(text string) bool {
	for i := range len(text) {
		c := text[i]
		switch {
		case c >= 'a' && c <= 'z', c >= '0' && c <= '9':
		case c == '-' && i > 0 && i < len(text)-1 && text[i-1] != '-':
		default:
			return false
		}
	}
	return text != ""
}
