// Package domain knows a workspace's own hosts, such as links.quarrow.example: which may be added,
// what has to be set in the DNS for them, and what follows from what is found there.
package domain

import (
	"errors"
	"net/netip"
	"strings"

	"golang.org/x/net/idna"
	"golang.org/x/net/publicsuffix"
)

// MaxHost is the most bytes of a host's name (RFC 1035 s2.3.4, without the dot at its end).
const MaxHost = 253

// ErrNoHost is answered for what is no name of a host; its text is for the creator.
var ErrNoHost = errors.New("this is no domain of your own; write it like links.quarrow.example")

// ErrSuffix is answered for what nobody can have for themselves, such as com.
var ErrSuffix = errors.New("this is the ending of many domains, and nobody's own; write yours whole, like links.quarrow.example")

// ErrOurs is answered for a host that the service itself is reached under.
var ErrOurs = errors.New("this is the domain of the service itself; add one that is yours")

// ParseHost reads the name of a host as people give it, pasted with https:// and a path too, and
// answers it as it stands in the DNS: in lower case and as IDNA 2008 (RFC 5891) writes it. ours are
// the hosts of the service. Errors: ErrNoHost, ErrSuffix and ErrOurs.
func ParseHost(text string, ours ...string) (string, error) {
	text = strings.TrimSpace(text)
	if _, after, found := strings.Cut(text, "://"); found {
		text = after
	}
	text, _, _ = strings.Cut(text, "/")
	text = strings.TrimSuffix(text, ".")
	if len(text) > 4*MaxHost || !strings.Contains(text, ".") {
		return "", ErrNoHost
	}
	host, err := idna.Lookup.ToASCII(text)
	if err == nil {
		_, err = idna.Lookup.ToASCII(host) // what is no text becomes a name that nobody can have
	}
	if err != nil || len(host) > MaxHost || strings.Contains(host, ":") || isAddress(host) || !isName(host) {
		return "", ErrNoHost
	}
	for _, own := range ours {
		if host == own {
			return "", ErrOurs
		}
	}
	if _, err := publicsuffix.EffectiveTLDPlusOne(host); err != nil {
		return "", ErrSuffix
	}
	return host, nil
}

// isAddress tells whether a name is that of no host but an address: no ending is all digits
// (RFC 3696 s2).
func isAddress(host string) bool {
	if _, err := netip.ParseAddr(host); err == nil {
		return true
	}
	return strings.Trim(host[strings.LastIndexByte(host, '.')+1:], "0123456789") == ""
}

// isName tells whether a name keeps to letters, digits and hyphens (RFC 1123 s2.1).
func isName(host string) bool {
	for label := range strings.SplitSeq(host, ".") {
		if label == "" || len(label) > 63 || strings.Trim(label, "abcdefghijklmnopqrstuvwxyz0123456789-") != "" ||
			label[0] == '-' || label[len(label)-1] == '-' {
			return false
		}
	}
	return true
}

// registered is the part of a host that was registered, by the Public Suffix List.
func registered(host string) string {
	name, err := publicsuffix.EffectiveTLDPlusOne(host)
	if err != nil {
		return host
	}
	return name
}
