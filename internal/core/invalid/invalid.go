// Package invalid collects what is wrong with something a creator wrote, all of
// it at once, so that nobody mends one thing to be told of the next.
package invalid

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Problem is one thing that keeps a document from being saved.
type Problem struct {
	// Where is the place in the document, such as "blocks/2/button/address".
	Where string
	// Message is the message for the creator.
	Message string
}

// Error lists everything wrong with a document.
type Error struct{ Problems []Problem }

func (e *Error) Error() string {
	says := make([]string, len(e.Problems))
	for i, problem := range e.Problems {
		says[i] = problem.Message
	}
	return strings.Join(says, " ")
}

// most is how many problems a message names.
const most = 20

// Brief is Error with no more than the first problems, and how many more there
// are.
func (e *Error) Brief() string {
	if len(e.Problems) <= most {
		return e.Error()
	}
	first := &Error{Problems: e.Problems[:most]}
	return fmt.Sprintf("%s And %d more.", first.Error(), len(e.Problems)-most)
}

// List gathers problems. The zero value is ready.
type List []Problem

// Add notes one problem.
func (l *List) Add(where, format string, args ...any) {
	*l = append(*l, Problem{Where: where, Message: fmt.Sprintf(format, args...)})
}

// Err is nil when nothing was noted, and an *Error otherwise.
func (l List) Err() error {
	if len(l) == 0 {
		return nil
	}
	return &Error{Problems: l}
}

// Line returns a text as it is kept on one line, and notes when it is longer
// than limit characters. What names the text in the message.
func (l *List) Line(where, what, text string, limit int) string {
	return l.limited(where, what, OneLine(text), limit)
}

// Lines is Line for a text that may have line breaks.
func (l *List) Lines(where, what, text string, limit int) string {
	return l.limited(where, what, KeepLines(text), limit)
}

func (l *List) limited(where, what, text string, limit int) string {
	if n := utf8.RuneCountInString(text); n > limit {
		l.Add(where, "%s has at most %d characters; this one has %d.", what, limit, n)
	}
	return text
}

// Choice notes when a value is none of those that can be chosen. An empty value
// becomes the first of them.
func Choice[T ~string](l *List, where, what string, value T, choices ...T) T {
	if value == "" {
		return choices[0]
	}
	for _, choice := range choices {
		if value == choice {
			return value
		}
	}
	l.Add(where, "“%s” is no %s we know.", OneLine(string(value)), what)
	return value
}

// Range notes when a number is outside low to high.
func (l *List) Range(where, what string, value, low, high int) {
	if value < low || value > high {
		l.Add(where, "%s is a number from %d to %d.", what, low, high)
	}
}

// OneLine trims a text and turns line breaks and other control characters into
// blanks.
func OneLine(text string) string {
	text = strings.ToValidUTF8(text, "")
	text = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || r == '\u2028' || r == '\u2029' {
			return ' '
		}
		return r
	}, text)
	return strings.TrimSpace(text)
}

// KeepLines is OneLine for each line of a text.
func KeepLines(text string) string {
	lines := strings.Split(strings.ReplaceAll(strings.ToValidUTF8(text, ""), "\r\n", "\n"), "\n")
	for i, line := range lines {
		lines[i] = OneLine(line)
	}
	return strings.TrimSpace(strings.Join(lines, "\n"))
}

// Limits on labels.
const (
	MaxLabels = 10
	maxLabel  = 24 // characters
)

// Labels writes labels once each, in the order they were given, whatever their
// case.
func Labels(wrong *List, where string, labels []string) []string {
	tidied := []string{}
	for _, label := range labels {
		label = strings.TrimPrefix(wrong.Line(where, "A label", label, maxLabel), "#")
		same := func(other string) bool { return strings.EqualFold(label, other) }
		if label != "" && !slices.ContainsFunc(tidied, same) {
			tidied = append(tidied, label)
		}
	}
	if len(tidied) > MaxLabels {
		wrong.Add(where, "There can be at most %d labels.", MaxLabels)
	}
	return tidied
}

// One is the error of a single problem.
func One(where, format string, args ...any) error {
	var one List
	one.Add(where, format, args...)
	return one.Err()
}

// Cut is the first characters of a text.
func Cut(text string, most int) string {
	characters := []rune(text)
	return string(characters[:min(len(characters), most)])
}
