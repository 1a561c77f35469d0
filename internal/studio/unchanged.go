package studio

import (
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"
)

// Conditional is what comes from whoever has an answer and asks whether it still holds
// (RFC 9110, 13.1.2).
type Conditional struct {
	IfNoneMatch []string `header:"If-None-Match" doc:"ETags of answers that are at hand: 304 when one still holds."`
}

// tag makes an ETag (RFC 9110, 8.8.3) of everything an answer is made from. It is 304
// as an error when the answer is at hand.
func (c Conditional) tag(parts ...any) (string, error) {
	text, err := json.Marshal(parts)
	if err != nil {
		return "", err
	}
	sum := sha256.Sum256(text)
	tag := `"` + base64.RawURLEncoding.EncodeToString(sum[:12]) + `"`
	for _, known := range c.IfNoneMatch {
		if known == tag || known == "W/"+tag {
			return tag, huma.Status304NotModified()
		}
	}
	return tag, nil
}
