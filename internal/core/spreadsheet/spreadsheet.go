// Package spreadsheet keeps texts in a file of comma-separated values from being
// run as formulas by the program that opens it. Source: OWASP, CSV Injection.
package spreadsheet

import "strings"

// runs are the characters at the beginning of a text that a spreadsheet would run.
const runs = "=+-@\t\r"

// Defuse puts a quotation mark before a text that would be run, and before one
// that looks like such a text already defused, so that Undefuse gives back
// exactly what was there.
func Defuse(text string) string {
	if wouldRun(text) {
		return "'" + text
	}
	return text
}

// Undefuse takes off what Defuse put on.
func Undefuse(text string) string {
	if rest, marked := strings.CutPrefix(text, "'"); marked && wouldRun(rest) {
		return rest
	}
	return text
}

func wouldRun(text string) bool {
	rest := strings.TrimLeft(text, "'")
	return rest != "" && strings.ContainsRune(runs, rune(rest[0]))
}
