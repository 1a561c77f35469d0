package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
)

func TestWhatStandsBetweenTwoStarsInAnAnswerIsStrong(t *testing.T) {
	for text, want := range map[string][]page.Part{
		"":                       nil,
		"From **May** to June":   {{Text: "From "}, {Text: "May", Strong: true}, {Text: " to June"}},
		"**May**":                {{Text: "May", Strong: true}},
		"2 ** 3, and **\nJune**": {{Text: "2 ** 3, and **\nJune**"}},
		"5 * 3 = 15":             {{Text: "5 * 3 = 15"}},
	} {
		assert.Equal(t, want, page.Question{Answer: text}.Answered(), text)
	}
}
