package passwords_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/passwords"
)

func hashed(t *testing.T) string {
	t.Helper()
	hash, err := passwords.Hash("forty hours of fire")
	require.NoError(t, err)
	return hash
}

func TestOnlyTheRightPasswordMatches(t *testing.T) {
	hash := hashed(t)
	assert.True(t, passwords.Match("forty hours of fire", hash))
	assert.False(t, passwords.Match("forty hours of fir", hash))
	assert.False(t, passwords.Match("", hash))
	assert.False(t, passwords.Match("", passwords.Nobody()))
	assert.NotEqual(t, hash, hashed(t), "each hash has a salt of its own")
	assert.True(t, strings.HasPrefix(hash, "$argon2id$v=19$m=19456,t=2,p=1$"), "the parameters OWASP names")
}

func TestAHashThatIsNoneMatchesNothing(t *testing.T) {
	for _, hash := range []string{
		"", "x", "$argon2id$v=19$m=19456,t=0,p=1$AAAA$AAAA", "$argon2id$v=19$m=1,t=1,p=0$AAAA$AAAA",
		"$argon2id$v=19$m=8,t=1,p=1$$", "$argon2i$v=19$m=8,t=1,p=1$AAAA$AAAA",
	} {
		assert.False(t, passwords.Match("", hash), hash)
	}
}

// Source: NIST SP 800-63B, section 5.1.1.2: values known to be commonly used,
// repetitive or sequential characters, and words of the context are refused.
func TestPasswordsThatWouldBeGuessedAreRefused(t *testing.T) {
	cases := map[string]error{
		"forty hours of fire": nil, "quarrow-clay kiln 1200": nil, "日本語のとても長い合言葉": nil,
		"short": passwords.ErrLength, strings.Repeat("x1y2z3", 22): passwords.ErrLength,
		"1qaz2wsx3edc": passwords.ErrCommon, "Basketball12": passwords.ErrCommon, "  Dragon!!1234  ": passwords.ErrCommon,
		"kiln openings 12": nil,
		"aaaaaaaaaaaa":     passwords.ErrSimple, "abababababab": passwords.ErrSimple, "jklmnopqrstuv": passwords.ErrSimple,
		"9876543210987": passwords.ErrSimple, "zyxwvutsrqpo": passwords.ErrSimple,
		"quarrow-clay": passwords.ErrPersonal, "ilse@quarrow.example1": passwords.ErrPersonal, "Quarrow-Clay12": passwords.ErrPersonal,
	}
	for password, want := range cases {
		got := passwords.Check(password, "ilse@quarrow.example", "quarrow-clay")
		if want == nil {
			assert.NoError(t, got, password)
		} else {
			assert.Equal(t, want, got, password)
		}
	}
}
