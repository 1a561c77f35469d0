package agents

import (
	"fmt"
	"regexp"
	"regexp/syntax"
	"strings"
)

// patterns are many expressions that are asked together. Nearly all of them are
// plain words or have one in them, so a text is searched for the words first and
// an expression is run only where its word was found: as one large expression they
// would cost a hundred times as much for every new user agent.
type patterns []pattern

type pattern struct {
	word string // that must be in the text, in lower case
	rest *regexp.Regexp
}

func newPatterns(expressions []string) (patterns, error) {
	var all patterns
	for _, expression := range expressions {
		parsed, err := syntax.Parse(expression, syntax.Perl)
		if err != nil {
			return nil, fmt.Errorf("expression %q: %w", expression, err)
		}
		compiled, err := regexp.Compile(expression)
		if err != nil {
			return nil, fmt.Errorf("expression %q: %w", expression, err)
		}
		all = append(all, pattern{word: strings.ToLower(wordIn(parsed.Simplify())), rest: compiled})
	}
	return all, nil
}

// wordIn is the longest text that whatever matches an expression must have in
// it; empty when there is none that is certain.
func wordIn(expression *syntax.Regexp) string {
	switch expression.Op {
	case syntax.OpLiteral:
		return string(expression.Rune)
	case syntax.OpCapture, syntax.OpPlus:
		return wordIn(expression.Sub[0])
	case syntax.OpConcat:
		longest := ""
		for _, part := range expression.Sub {
			if word := wordIn(part); len(word) > len(longest) {
				longest = word
			}
		}
		return longest
	}
	return ""
}

// match tells whether any of them matches. Lower is the text in lower case.
func (p patterns) match(text, lower string) bool {
	for _, each := range p {
		if strings.Contains(lower, each.word) && each.rest.MatchString(text) {
			return true
		}
	}
	return false
}
