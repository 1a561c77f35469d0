package invalid_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/invalid"
)

func TestTextsAreTidiedAndTooLongOnesAreSaidWithBothNumbers(t *testing.T) {
	var problems invalid.List
	assert.Equal(t, "Kiln opening", problems.Line("title", "The title", " Kiln\nopening\x00 ", 20))
	assert.Equal(t, "Kiln\nopening", problems.Lines("note", "The note", " Kiln \r\n opening\t\n", 20))
	assert.Equal(t, "aé", problems.Line("title", "The title", "a\xffé", 20), "what is no character is dropped")
	require.NoError(t, problems.Err())

	problems.Line("title", "The title", strings.Repeat("窯", 21), 20)
	require.Error(t, problems.Err())
	assert.Equal(t, "The title has at most 20 characters; this one has 21.", problems.Err().Error(), "characters are counted, not bytes")
}

func TestEverythingWrongIsSaidAtOnceAndByItsPlace(t *testing.T) {
	var problems invalid.List
	assert.Equal(t, "plain", string(invalid.Choice(&problems, "line", "line", "", "plain", "wave")), "nothing chosen is the first")
	invalid.Choice(&problems, "line", "line", "rope\n", "plain", "wave")
	problems.Range("height", "The height", 0, 8, 160)
	problems.Range("height", "The height", 160, 8, 160)
	var refused *invalid.Error
	require.True(t, errors.As(fmt.Errorf("save: %w", problems.Err()), &refused))
	assert.Equal(t, []invalid.Problem{
		{Where: "line", Message: "“rope” is no line we know."},
		{Where: "height", Message: "The height is a number from 8 to 160."},
	}, refused.Problems)
}
