package spreadsheet_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/spreadsheet"
)

// The characters are those of OWASP's page on CSV injection.
func TestTextsThatWouldBeRunAreDefusedAndOthersLeftAlone(t *testing.T) {
	for _, text := range []string{"=1+1", "+1", "-1", "@SUM(A1)", "\t=1", "\r=1", "'=1"} {
		assert.Equal(t, "'"+text, spreadsheet.Defuse(text))
	}
	for _, text := range []string{"", "'", "Glazes", "'Glazes'", "1-2", "a=b"} {
		assert.Equal(t, text, spreadsheet.Defuse(text))
	}
}

func TestUndefusingGivesBackExactlyWhatWasThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringMatching(`[='+@a-]{0,6}`).Draw(t, "text")
		require.Equal(t, text, spreadsheet.Undefuse(spreadsheet.Defuse(text)))
	})
}
