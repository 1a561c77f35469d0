package traffic

import (
	"strings"

	"golang.org/x/text/language"
)

// LanguageOf is the language that a browser asks for first, by its Accept-Language (RFC
// 9110 s12.5.4): browsers list those of their user in order (common practice). It is
// empty where none is named that has a code of two letters (ISO 639-1), so that there
// are never more than a couple of hundred.
func LanguageOf(header string) string {
	first, _, _ := strings.Cut(header[:min(len(header), 64)], ",")
	first, _, _ = strings.Cut(first, ";")
	primary, _, _ := strings.Cut(strings.TrimSpace(first), "-")
	if len(primary) != 2 {
		return ""
	}
	base, err := language.ParseBase(primary)
	if code := base.String(); err == nil && len(code) == 2 {
		return code
	}
	return ""
}
