package payment

import (
	"encoding/base64"
	"net/url"
	"regexp"
	"strings"

	"golang.org/x/net/publicsuffix"

	"jundle/internal/core/address"
)

// ServiceWish is by which service a creator wants to be paid.
type ServiceWish struct {
	// Address is that of the service's interface; https only.
	Address string
	// Token is what it lets in by, and Secret what its notices are signed with (Standard Webhooks).
	Token, Secret string
}

// WishError says in words what is wrong with a field of a wish.
type WishError struct{ Field, Reason string }

func (e *WishError) Error() string { return e.Reason }

var tokenText = regexp.MustCompile(`^[\x21-\x7e]{1,500}$`)

// Clean holds a wish against the rules; *WishError.
func (w ServiceWish) Clean() (ServiceWish, error) {
	link, err := address.ParseLink(w.Address)
	if err != nil {
		return ServiceWish{}, &WishError{"address", err.Error()}
	}
	parsed, err := url.Parse(link.URL)
	if err != nil || parsed.Scheme != "https" || parsed.RawQuery != "" || parsed.Fragment != "" {
		return ServiceWish{}, &WishError{"address", "The service is reached at an address that begins with https:// and has no ? or # in it."}
	}
	clean := ServiceWish{strings.TrimRight(link.URL, "/"), strings.TrimSpace(w.Token), strings.TrimSpace(w.Secret)}
	if !tokenText.MatchString(clean.Token) {
		return ServiceWish{}, &WishError{"token", "The token is one word, as the service shows it; at most 500 characters."}
	}
	key, err := base64.StdEncoding.DecodeString(strings.TrimPrefix(clean.Secret, "whsec_"))
	if err != nil || len(key) < 24 || len(key) > 64 {
		return ServiceWish{}, &WishError{"secret", "The secret is what the service signs its notices with; it looks like whsec_ and letters."}
	}
	return clean, nil
}

// Site is the site of a service by its address: the name that was registered (Public Suffix List). The pages that
// visitors pay on are below it. It is empty where there is none.
func Site(service string) string {
	parsed, err := url.Parse(service)
	if err != nil {
		return ""
	}
	site, err := publicsuffix.EffectiveTLDPlusOne(parsed.Hostname())
	if err != nil {
		return ""
	}
	return site
}

// IsOn tells whether an address is on a site.
func IsOn(site, address string) bool {
	parsed, err := url.Parse(address)
	return err == nil && site != "" && (parsed.Hostname() == site || strings.HasSuffix(parsed.Hostname(), "."+site))
}
