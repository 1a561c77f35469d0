package render

import (
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"regexp"
	"strings"
)

//go:embed counting.js
var countingScript string

// counting is the script of a page with plain addresses, without its comment and
// what its lines are moved in by.
var counting = strings.TrimSpace(
	regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(regexp.MustCompile(`\n\s+`).ReplaceAllString(countingScript, "\n"), ""),
)

func digest(text string) string {
	sum := sha256.Sum256([]byte(text))
	return "'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'"
}

// ContentSecurityPolicy is the policy a page is served with: its own style
// sheet, pictures, fonts and film of its own host, and nothing else. The style
// sheet is the one that Style returns for the page.
func ContentSecurityPolicy(style string) string {
	return "default-src 'none'; style-src " + digest(
		style,
	) + "; img-src 'self' data:; font-src 'self'; media-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
}

// countingPolicy adds to a policy what a page with plain addresses needs: its one
// script, and to tell its own host of clicks.
func countingPolicy(policy string) string {
	return policy + "; script-src " + digest(counting) + "; connect-src 'self'"
}
