package mailing

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"

	"github.com/google/uuid"
)

// OffToken is what switches the weekly letter of a member of a workspace off, and nothing else. It
// holds for as long as they are a member: letters are read late.
func OffToken(key []byte, workspace, user uuid.UUID) string {
	return token(key, "weekly letter off", append(append([]byte(nil), workspace[:]...), user[:]...))
}

// ReadOffToken says whose weekly letter a token switches off; false for one that we did not make.
func ReadOffToken(key []byte, given string) (workspace, user uuid.UUID, ok bool) {
	body, ok := readToken(key, "weekly letter off", given, len(workspace)+len(user))
	if !ok {
		return workspace, user, false
	}
	return uuid.UUID(body[:16]), uuid.UUID(body[16:]), true
}

// token is a body that is signed for one purpose.
func token(key []byte, purpose string, body []byte) string {
	return base64.RawURLEncoding.EncodeToString(append(append([]byte(nil), body...), signature(key, purpose, body)...))
}

// readToken is the body of a token, of so many bytes, that was signed for a purpose.
func readToken(key []byte, purpose, given string, length int) (body []byte, ok bool) {
	raw, err := base64.RawURLEncoding.DecodeString(given)
	if err != nil || len(raw) != length+sha256.Size || !hmac.Equal(raw[length:], signature(key, purpose, raw[:length])) {
		return nil, false
	}
	return raw[:length], true
}

func signature(key []byte, purpose string, body []byte) []byte {
	mac := hmac.New(sha256.New, key)
	mac.Write([]byte(purpose + ":"))
	mac.Write(body)
	return mac.Sum(nil)
}
