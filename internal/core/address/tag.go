package address

import (
	"strconv"
	"strings"
	"unicode"

	"github.com/mozillazg/go-unidecode"
)

// MaxTag is the longest tag, in characters. Tags are typed off printed cards, so
// they are kept short.
const MaxTag = 20

// ParseTag reads the short code of an entry address: 1 to 20 of a-z, 0-9 and
// hyphen, no hyphen at either end or doubled. Case does not matter. Refusals
// are *RefusedError.
func ParseTag(text string) (string, error) {
	tag := strings.ToLower(clean(text))
	switch {
	case tag == "":
		return "", refuse("A tag has at least one character, like “card”.")
	case len(tag) > MaxTag:
		return "", refuse("A tag has at most %d characters, so that it can be typed off a card.", MaxTag)
	case !isCode(tag):
		return "", refuse("A tag is made of the letters a to z, digits and single hyphens inside, like “card-2”.")
	}
	return tag, nil
}

// SuggestTag makes a tag out of a source's name that is in none of taken: its
// letters and digits in lower case and written in a to z, cut to MaxTag, with a
// number behind it when the plain form is gone.
func SuggestTag(name string, taken func(tag string) bool) string {
	var code strings.Builder
	for _, r := range strings.ToLower(unidecode.Unidecode(name)) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			code.WriteRune(r)
		case (unicode.IsSpace(r) || r == '-') && code.Len() > 0 && !strings.HasSuffix(code.String(), "-"):
			code.WriteByte('-')
		}
	}
	base := strings.Trim(cut(code.String(), MaxTag), "-")
	if base == "" {
		base = "source"
	}
	for n, tag := 1, base; ; n++ {
		if n > 1 {
			suffix := "-" + strconv.Itoa(n)
			tag = strings.TrimRight(cut(base, MaxTag-len(suffix)), "-") + suffix
		}
		if !taken(tag) {
			return tag
		}
	}
}

func cut(text string, limit int) string {
	if len(text) > limit {
		return text[:limit]
	}
	return text
}
