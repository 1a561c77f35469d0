// Package passwords hashes and checks passwords with argon2id, and refuses those
// that anybody would guess.
package passwords

import (
	"crypto/rand"
	"fmt"
	"sync"

	"github.com/alexedwards/argon2id"
)

// Cost is what a new hash costs whoever makes it, or guesses at it. The zero value is Full.
type Cost struct {
	Memory uint32 // in KiB
	Passes uint32
}

// Full is what the product takes. Source: OWASP Password Storage Cheat Sheet, argon2id with 19 MiB of memory, two passes, one
// lane.
var Full = Cost{Memory: 19 * 1024, Passes: 2}

// Limits on a password: Min in characters, Max in bytes. Source: OWASP ASVS 4.0.3,
// 2.1.1 and 2.1.2.
const (
	Min = 12
	Max = 128
)

// atOnce is how many passwords are hashed at one time in the process; the others
// wait. Each takes as much memory as params say.
var atOnce = make(chan struct{}, 4)

// Hash returns a hash of the full cost in the PHC string format, which carries its parameters.
func Hash(password string) (string, error) { return Full.Hash(password) }

// Hash returns a hash of a cost.
func (c Cost) Hash(password string) (string, error) {
	if c == (Cost{}) {
		c = Full
	}
	atOnce <- struct{}{}
	defer func() { <-atOnce }()
	hash, err := argon2id.CreateHash(password, &argon2id.Params{
		Memory: c.Memory, Iterations: c.Passes, Parallelism: 1, SaltLength: 16, KeyLength: 32,
	})
	if err != nil {
		return "", fmt.Errorf("hash a password: %w", err)
	}
	return hash, nil
}

// Nobody is a hash no password matches, made when it is first asked for. Checking against it when nobody has the
// e-mail address takes as long as checking a real one, so that time tells
// nothing either.
var Nobody = sync.OnceValue(func() string {
	hash, err := Hash(rand.Text())
	if err != nil {
		panic(err) // the system has no random numbers
	}
	return hash
})

// Match tells whether a password is the one a hash was made of.
func Match(password, hash string) bool {
	if len(password) > Max {
		return false
	}
	stored, _, key, err := argon2id.DecodeHash(hash)
	if err != nil || stored.Iterations < 1 || stored.Parallelism < 1 || len(key) == 0 {
		return false
	}
	atOnce <- struct{}{}
	defer func() { <-atOnce }()
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	return match && err == nil
}
