// Package secondfactor makes and checks the codes that somebody signs in with besides their
// password: those of an authenticator app (TOTP, RFC 6238: SHA-1, 30 seconds, six digits, as every
// app knows them), and the recovery codes for when the phone is lost.
package secondfactor

import (
	"crypto/rand"
	"crypto/subtle"
	"fmt"
	"net/url"
	"strings"
	"time"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"
)

const (
	// period is how long a code is shown.
	period = 30
	// skew is how many codes before and after the present one are taken, for clocks that are wrong
	// and people who type slowly (RFC 6238, section 5.2, wants one at most for the delay).
	skew = 1
	// recoveryCodes is how many there are.
	recoveryCodes = 10
)

// NewSecret makes the secret of an authenticator app, base32 (RFC 4648), 160 bits as RFC 4226,
// section 4, recommends.
func NewSecret() (string, error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Jundle", AccountName: "-", Period: period, SecretSize: 20})
	if err != nil {
		return "", fmt.Errorf("make a secret: %w", err)
	}
	return key.Secret(), nil
}

// Address is what an app reads out of a QR code to know a secret.
func Address(secret, email, issuer string) string {
	label := url.PathEscape(issuer + ":" + email)
	return "otpauth://totp/" + label + "?" + strings.ReplaceAll(url.Values{"secret": {secret}, "issuer": {issuer}}.Encode(), "+", "%20")
}

// Match tells whether a code is that of a secret at a time, and of which step, counted from 1970:
// none is to be taken that is not later than the one before (RFC 6238, section 5.2).
func Match(secret, code string, at time.Time) (step int64, ok bool) {
	code = strings.ReplaceAll(strings.TrimSpace(code), " ", "")
	options := totp.ValidateOpts{Period: period, Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1}
	for off := int64(-skew); off <= skew; off++ {
		moment := at.Add(time.Duration(off) * period * time.Second)
		right, err := totp.GenerateCodeCustom(secret, moment, options)
		if err == nil && subtle.ConstantTimeCompare([]byte(right), []byte(code)) == 1 {
			return moment.Unix() / period, true
		}
	}
	return 0, false
}

// NewRecoveryCodes makes codes of which each lets somebody in once, 50 bits each: too many to
// guess where attempts are counted.
func NewRecoveryCodes() []string {
	codes := make([]string, recoveryCodes)
	for i := range codes {
		text := strings.ToLower(rand.Text()[:10])
		codes[i] = text[:5] + "-" + text[5:]
	}
	return codes
}

// RecoveryCode is a code as it was made, however it is typed.
func RecoveryCode(typed string) string {
	text := strings.NewReplacer(" ", "", "-", "").Replace(strings.ToLower(strings.TrimSpace(typed)))
	if len(text) != 10 {
		return ""
	}
	return text[:5] + "-" + text[5:]
}
