package passwords_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/passwords"
)

func TestOnlyTheRightPasswordMatches(t *testing.T) {
	hash := passwords.Hash("forty hours of fire")
	assert.True(t, passwords.Match("forty hours of fire", hash))
	assert.False(t, passwords.Match("forty hours of fir", hash))
	assert.False(t, passwords.Match("", hash))
	assert.False(t, passwords.Match("", passwords.Nobody))
	assert.NotEqual(t, hash, passwords.Hash("forty hours of fire"), "each hash has a salt of its own")
	assert.True(t, strings.HasPrefix(hash, "$argon2id$v=19$m=19456,t=2,p=1$"), "the parameters OWASP names")
}

func TestAHashThatIsNoneMatchesNothing(t *testing.T) {
	for _, hash := range []string{"", "x", "$argon2id$v=19$m=19456,t=0,p=1$AAAA$AAAA", "$argon2id$v=19$m=1,t=1,p=0$AAAA$AAAA", "$argon2id$v=19$m=8,t=1,p=1$$", "$argon2i$v=19$m=8,t=1,p=1$AAAA$AAAA"} {
		assert.False(t, passwords.Match("", hash), hash)
	}
}
