package campaign

import (
	"strings"
	"unicode"
)

// Near returns the known value that a new one is probably meant to be: one that
// differs in nothing but how words are joined or whether they are plural, or, in
// values of four letters and more, in a single letter. It is empty when the
// value is known itself or like none. Both are normalised.
func Near(value string, known []string) string {
	if value == "" {
		return ""
	}
	near := ""
	for _, other := range known {
		if other == value {
			return ""
		}
		if near == "" && (stem(other) == stem(value) || len(value) >= 4 && len(other) >= 4 && oneEdit([]rune(value), []rune(other))) {
			near = other
		}
	}
	return near
}

// stem is a value without what joins its words, and without a plural's s.
func stem(value string) string {
	letters := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return r
		}
		return -1
	}, value)
	return strings.TrimSuffix(letters, "s")
}

// oneEdit tells whether one letter changed, added, left out or swapped with its
// neighbour leads from one value to the other.
func oneEdit(a, b []rune) bool {
	if len(a) > len(b) {
		a, b = b, a
	}
	if len(b)-len(a) > 1 {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	if len(a) < len(b) {
		return string(a[i:]) == string(b[i+1:])
	}
	if i == len(a) {
		return true
	}
	swapped := i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && string(a[i+2:]) == string(b[i+2:])
	return swapped || string(a[i+1:]) == string(b[i+1:])
}
