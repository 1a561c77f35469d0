package shortlink

import (
	"fmt"
	"io"
)

const (
	// letters of made addresses: none that is taken for another (0 o, 1 l i), and no
	// vowels, so that no word comes out.
	letters = "23456789bcdfghjkmnpqrstvwxz"
	// length gives 27^6, some 387 million of them.
	length = 6
)

// MakeAddress makes a short address out of random bytes, each equally likely.
func MakeAddress(random io.Reader) (string, error) {
	made := make([]byte, 0, length)
	one := make([]byte, 1)
	for len(made) < length {
		if _, err := io.ReadFull(random, one); err != nil {
			return "", fmt.Errorf("make a short address: %w", err)
		}
		// Bytes above the last whole multiple would favour the first letters.
		if int(one[0]) < 256/len(letters)*len(letters) {
			made = append(made, letters[int(one[0])%len(letters)])
		}
	}
	return string(made), nil
}
