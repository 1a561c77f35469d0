// Package ownmark makes and reads the mark by which the public listener knows a
// browser of a signed-in member, so that their own visits are flagged. The mark
// names the workspace, ends on a day, and is signed; it opens nothing.
package ownmark

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"time"

	"github.com/google/uuid"
)

// Cookie is the name of the cookie that holds a mark, on the public host only.
const Cookie = "jundle_own"

// LastsFor is how long a browser stays marked, the longest a browser keeps a
// cookie.
const LastsFor = 400 * 24 * time.Hour

const size = 16 + 8 // workspace, end in Unix seconds

// Make signs a mark for a workspace that holds until end.
func Make(key []byte, workspace uuid.UUID, end time.Time) string {
	mark := append([]byte(nil), workspace[:]...)
	mark = binary.BigEndian.AppendUint64(mark, uint64(end.Unix()))
	return base64.RawURLEncoding.EncodeToString(append(mark, sign(key, mark)...))
}

// Read returns the workspace a mark names, or false when it was not signed by
// us or is over.
func Read(key []byte, text string, now time.Time) (uuid.UUID, bool) {
	raw, err := base64.RawURLEncoding.DecodeString(text)
	if err != nil || len(raw) != size+sha256.Size || !hmac.Equal(raw[size:], sign(key, raw[:size])) {
		return uuid.UUID{}, false
	}
	end := time.Unix(int64(binary.BigEndian.Uint64(raw[16:size])), 0)
	return uuid.UUID(raw[:16]), now.Before(end)
}

func sign(key, mark []byte) []byte {
	mac := hmac.New(sha256.New, key)
	mac.Write(mark)
	return mac.Sum(nil)
}
