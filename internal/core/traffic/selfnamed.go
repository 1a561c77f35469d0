package traffic

import (
	"regexp"
	"strings"
)

// programNames are words by which programs name themselves, alone or at the end of a word such as
// MossCheckBot, and the address of whoever runs them, which they write with a plus before it (common practice).
var programNames = regexp.MustCompile(
	`(?:[\pL\pN]*(?:bot|crawl(?:er|ing)?|spider|monitor(?:ing)?|preview|fetch(?:er)?|scan)s?)(?:[^\pL]|$)|\+https?:`,
)

// notPrograms are words that end in such a name and are none: a maker of phones, and apps that read
// QR codes, in which people open what stands on a printed card. From memory.
var notPrograms = []string{"cubot", "qrscan", "qrcodescan", "barcodescan"}

// NamesProgram tells whether a user agent says of itself that it is a program: a bot, crawler, spider,
// monitor, preview, fetcher or scan.
func NamesProgram(userAgent string) bool {
	for _, found := range programNames.FindAllString(strings.ToLower(userAgent), -1) {
		word := strings.TrimRightFunc(found, func(r rune) bool { return r < 'a' || r > 'z' })
		if !isOneOf(word, notPrograms) {
			return true
		}
	}
	return false
}

func isOneOf(word string, words []string) bool {
	for _, each := range words {
		if strings.HasSuffix(word, each) {
			return true
		}
	}
	return false
}
