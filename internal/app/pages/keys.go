package pages

import (
	"crypto/rand"
	"encoding/base32"
	"strings"
)

// NewKey makes the key a new block is known by for good: 8 of a-z and 2-7,
// 40 random bits, plenty for the hundred blocks of a page.
func NewKey() string {
	random := make([]byte, 5)
	_, _ = rand.Read(random)
	return strings.ToLower(base32.StdEncoding.EncodeToString(random))
}
