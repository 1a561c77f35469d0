// Package passwords hashes and checks passwords with argon2id.
package passwords

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// The parameters of new hashes. Source: OWASP Password Storage Cheat Sheet,
// argon2id with 19 MiB of memory, two passes, one lane.
const (
	memoryKiB = 19 * 1024
	passes    = 2
	lanes     = 1
	saltSize  = 16
	keySize   = 32
)

// Limits on a password, in bytes. The upper one bounds the work of hashing.
const (
	Min = 10
	Max = 200
)

// Hash returns a hash in the PHC string format, which carries its parameters.
func Hash(password string) string {
	salt := make([]byte, saltSize)
	_, _ = rand.Read(salt)
	key := argon2.IDKey([]byte(password), salt, passes, memoryKiB, lanes, keySize)
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memoryKiB, passes, lanes,
		base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(key))
}

// Nobody is a hash no password matches. Checking against it when nobody has the
// e-mail address takes as long as checking a real one, so that time tells
// nothing either.
var Nobody = Hash(rand.Text())

// Match tells whether a password is the one a hash was made of.
func Match(password, hash string) bool {
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" || len(password) > Max {
		return false
	}
	var version int
	var memory, time uint32
	var threads uint8
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &memory, &time, &threads); err != nil || time < 1 || threads < 1 {
		return false
	}
	salt, errSalt := base64.RawStdEncoding.DecodeString(parts[4])
	want, errKey := base64.RawStdEncoding.DecodeString(parts[5])
	if errSalt != nil || errKey != nil || len(want) == 0 {
		return false
	}
	got := argon2.IDKey([]byte(password), salt, time, memory, threads, uint32(len(want)))
	return subtle.ConstantTimeCompare(got, want) == 1
}
