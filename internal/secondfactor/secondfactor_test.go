package secondfactor_test

import (
	"encoding/base32"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/secondfactor"
)

// The test vectors of RFC 6238, appendix B, for SHA-1, whose codes have eight digits there: the
// last six of them are the code of six digits (RFC 4226, section 5.3: modulo 10^digits).
func TestCodesAreThoseOfRFC6238(t *testing.T) {
	secret := base32.StdEncoding.EncodeToString([]byte("12345678901234567890"))
	for _, vector := range []struct {
		at   int64
		code string
	}{
		{59, "94287082"},
		{1111111109, "07081804"},
		{1111111111, "14050471"},
		{1234567890, "89005924"},
		{2000000000, "69279037"},
		{20000000000, "65353130"},
	} {
		step, ok := secondfactor.Match(secret, vector.code[2:], time.Unix(vector.at, 0))
		assert.True(t, ok, vector)
		assert.Equal(t, vector.at/30, step)
	}
}

func TestACodeIsTakenForHalfAMinuteBeforeAndAfter(t *testing.T) {
	secret := base32.StdEncoding.EncodeToString([]byte("12345678901234567890"))
	shown := time.Unix(1234567890, 0) // the first second of its step
	for off, taken := range map[time.Duration]bool{
		-31 * time.Second: false, -30 * time.Second: true, 0: true, 59 * time.Second: true, 60 * time.Second: false,
	} {
		step, ok := secondfactor.Match(secret, " 005 924 ", shown.Add(off))
		assert.Equal(t, taken, ok, off)
		if ok {
			assert.Equal(t, shown.Unix()/30, step, "it counts as the step it is of, not as the one it is typed in")
		}
	}
	for _, typed := range []string{"", "00592", "0059244", "abcdef"} {
		_, ok := secondfactor.Match(secret, typed, shown)
		assert.False(t, ok, typed)
	}
	_, ok := secondfactor.Match("no base32!", "005924", shown)
	assert.False(t, ok)
}

func TestAnAppReadsWhoseSecretItIs(t *testing.T) {
	secret, err := secondfactor.NewSecret()
	require.NoError(t, err)
	raw, err := base32.StdEncoding.WithPadding(base32.NoPadding).DecodeString(secret)
	require.NoError(t, err)
	assert.Len(t, raw, 20)
	address, err := url.Parse(secondfactor.Address(secret, "ilse+clay@quarrow.example", "Jundle at kiln.example"))
	require.NoError(t, err)
	assert.Equal(t, "/Jundle at kiln.example:ilse+clay@quarrow.example", address.Path)
	assert.Equal(t, secret, address.Query().Get("secret"))
	assert.NotContains(t, address.RawQuery, "+", "apps take it for a plus")
}

func TestRecoveryCodesAreReadHoweverTheyAreTyped(t *testing.T) {
	codes := secondfactor.NewRecoveryCodes()
	assert.Len(t, codes, 10)
	assert.NotEqual(t, codes[0], codes[1])
	assert.Equal(t, "abcde-fgh23", secondfactor.RecoveryCode(" ABCDE FGH23 "))
	assert.Empty(t, secondfactor.RecoveryCode("abcde"))
}
