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
	body := append(append([]byte(nil), workspace[:]...), user[:]...)
	return base64.RawURLEncoding.EncodeToString(append(body, signOff(key, body)...))
}

// ReadOffToken says whose weekly letter a token switches off; false for one that we did not make.
func ReadOffToken(key []byte, token string) (workspace, user uuid.UUID, ok bool) {
	raw, err := base64.RawURLEncoding.DecodeString(token)
	if err != nil || len(raw) != 32+sha256.Size || !hmac.Equal(raw[32:], signOff(key, raw[:32])) {
		return workspace, user, false
	}
	return uuid.UUID(raw[:16]), uuid.UUID(raw[16:32]), true
}

func signOff(key, body []byte) []byte {
	mac := hmac.New(sha256.New, key)
	mac.Write([]byte("weekly letter off:"))
	mac.Write(body)
	return mac.Sum(nil)
}
