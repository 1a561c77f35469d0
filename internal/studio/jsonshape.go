package studio

import (
	"errors"
	"unicode/utf8"
)

// Limits on the JSON of a request, whatever operation it is for.
const (
	maxJSONDepth  = 32
	maxJSONValues = 40_000
	maxJSONDigits = 24
)

// Why JSON is refused before it is parsed; said to a person by sentence.
var (
	errNotUTF8  = errors.New("this is not text in UTF-8. Nothing was changed")
	errNUL      = errors.New("there is a NUL character in the text, and nothing can keep one. Take it out and try again; nothing was changed")
	errTooDeep  = errors.New("this is nested more deeply than anything that can be meant. Nothing was changed")
	errTooMany  = errors.New("these are more values than can be sent at once. Nothing was changed")
	errNoNumber = errors.New("there is a number in it with more digits than any number here has. Nothing was changed")
)

// checkJSON looks over JSON in one pass, without building anything, and refuses
// what would cost more to parse than it can be worth, and what PostgreSQL cannot
// keep. Whether it is JSON at all is found out by whoever parses it.
func checkJSON(body []byte) error {
	if !utf8.Valid(body) {
		return errNotUTF8
	}
	depth, values, digits := 0, 0, 0
	for i := 0; i < len(body); i++ {
		c := body[i]
		if c >= '0' && c <= '9' || c == '.' || c == 'e' || c == 'E' || c == '-' || c == '+' {
			if digits++; digits > maxJSONDigits {
				return errNoNumber
			}
			continue
		}
		digits = 0
		switch c {
		case '{', '[':
			if depth++; depth > maxJSONDepth {
				return errTooDeep
			}
		case '}', ']':
			depth--
		case ',', ':':
			if values++; values > maxJSONValues {
				return errTooMany
			}
		case '"':
			end, err := skipString(body, i+1)
			if err != nil {
				return err
			}
			i = end
		case 0:
			return errNUL
		}
	}
	return nil
}

// skipString returns where the string that begins at i ends.
func skipString(body []byte, i int) (int, error) {
	for ; i < len(body); i++ {
		switch body[i] {
		case '"':
			return i, nil
		case 0:
			return i, errNUL
		case '\\':
			if len(body) >= i+6 && string(body[i+1:i+6]) == "u0000" {
				return i, errNUL
			}
			i++
		}
	}
	return i, nil
}
