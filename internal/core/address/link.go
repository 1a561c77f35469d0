// Package address holds the rules for the three kinds of address a creator
// types: where a button leads (Link), what the page itself is called
// (PageAddress) and the short code that tells sources apart (Tag).
//
// It parses and refuses; it never looks anything up.
package address

import (
	"errors"
	"fmt"
	"strings"
	"unicode"

	"github.com/nlnwa/whatwg-url/url"
	"golang.org/x/net/idna"
)

// MaxLinkLength is the longest address that may be linked. It counts characters.
const MaxLinkLength = 2048

// Link is an address that may be put behind a button. The zero value is not a
// link; make one with ParseLink.
type Link struct {
	// URL is the address as it is stored and handed to the visitor: host in
	// punycode, query order, case and fragment as the creator wrote them.
	URL string
	// Scheme is one of https, http, mailto, tel and sms.
	Scheme string
	// Host is the ASCII host of a web address, without port; empty otherwise.
	Host string
}

// IsWeb tells whether the link leads to a web page, so that a title can be
// fetched for it.
func (l Link) IsWeb() bool { return l.Scheme == "https" || l.Scheme == "http" }

// ErrRefused is what every refusal of an address wraps.
var ErrRefused = errors.New("address refused")

// RefusedError says why an address may not be linked. It is worded for the
// creator.
type RefusedError struct{ Reason string }

func (e *RefusedError) Error() string { return e.Reason }

// Unwrap lets errors.Is(err, ErrRefused) hold for every refusal.
func (e *RefusedError) Unwrap() error { return ErrRefused }

func refuse(format string, args ...any) error {
	return &RefusedError{Reason: fmt.Sprintf(format, args...)}
}

// whichSchemesWork closes every refusal of a scheme: a creator who pasted the
// wrong thing has to learn what would have been right.
const whichSchemesWork = "Addresses that work begin with https, http, mailto, tel or sms."

// hostCharacters are those of a name in ASCII, and of an IPv6 address.
const hostCharacters = "abcdefghijklmnopqrstuvwxyz0123456789.-_[:]"

var linkParser = url.NewParser()

// ParseLink reads an address as a creator pastes it. White space and zero-width
// characters around and within it are dropped, a bare host gets https://, and a
// web address is parsed as the WHATWG URL standard says. The schemes are those
// of RFC 6068 (mailto), RFC 3966 (tel), RFC 5724 (sms) and the web's two; any
// other, user information before the host, and more than MaxLinkLength
// characters are refused with a *RefusedError.
func ParseLink(text string) (Link, error) {
	text = clean(text)
	switch {
	case text == "":
		return Link{}, refuse("There is no address here yet. Paste one, for example https://kiln.example.")
	case len([]rune(text)) > MaxLinkLength:
		return Link{}, refuse("This address is longer than %d characters. Shorten it, or paste the plain page address without its extras.",
			MaxLinkLength)
	}
	scheme, rest := splitScheme(text)
	switch scheme {
	case "":
		if strings.HasPrefix(text, "//") {
			return parseWeb("https:" + text)
		}
		return parseWeb("https://" + text)
	case "https", "http":
		return parseWeb(text)
	case "mailto", "tel", "sms":
		return parseContact(scheme, rest)
	}
	return Link{}, refuse("“%s:” addresses cannot be linked, because they could run or open something on your visitors' phones. %s",
		shorten(scheme, 20), whichSchemesWork)
}

// clean drops what copying out of a chat or a document leaves behind: white
// space at the ends, line breaks and tabs anywhere (as the WHATWG parser does),
// and zero-width or other invisible format characters.
func clean(text string) string {
	text = strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Cf, r) || unicode.IsControl(r) || r == unicode.ReplacementChar {
			return -1
		}
		return r
	}, text)
	return strings.TrimSpace(text)
}

// splitScheme finds a leading scheme. "kiln.example:8443/x" is a host with a
// port and "localhost:80" too, so a name counts as a scheme only when no digit
// follows its colon, or when it is one we know.
func splitScheme(text string) (scheme, rest string) {
	before, after, found := strings.Cut(text, ":")
	if !found || !isSchemeName(before) {
		return "", text
	}
	name := strings.ToLower(before)
	switch name {
	case "https", "http", "mailto", "tel", "sms":
		return name, after
	}
	startsWithDigit := after != "" && after[0] >= '0' && after[0] <= '9'
	if startsWithDigit && !strings.Contains(after, ",") && !strings.Contains(name, "+") && looksLikeHost(name) {
		return "", text
	}
	return name, after
}

func looksLikeHost(name string) bool { return strings.Contains(name, ".") || name == "localhost" }

func isSchemeName(name string) bool {
	for i, r := range name {
		letter := r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z'
		if !letter && (i == 0 || !(r >= '0' && r <= '9' || r == '+' || r == '-' || r == '.')) {
			return false
		}
	}
	return name != ""
}

func parseWeb(text string) (Link, error) {
	parsed, err := linkParser.Parse(text)
	if err != nil {
		return Link{}, refuse("“%s” is not an address a browser can open. Check it for missing or stray characters. %s", shorten(text, 60),
			whichSchemesWork)
	}
	if parsed.Username() != "" || parsed.Password() != "" {
		return Link{}, refuse(
			"This address carries a user name or password before the host. Everybody could read it on your page: take it out and paste the rest.",
		)
	}
	host := parsed.Hostname()
	if host == "" || !strings.Contains(host, ".") && !strings.HasPrefix(host, "[") && host != "localhost" {
		return Link{}, refuse("“%s” has no full host name. An address looks like https://kiln.example/dates.", shorten(text, 60))
	}
	// The standard lets a quotation mark stand in a host. No registered name has
	// one, and nothing that could close an attribute shall be stored.
	if strings.Trim(host, hostCharacters) != "" {
		return Link{}, refuse("“%s” has a host name with characters no host has. Check it for stray ones.", shorten(text, 60))
	}
	href := parsed.Href(false)
	if len(href) > MaxLinkLength {
		return Link{}, refuse(
			"This address is longer than %d characters once encoded. Shorten it, or paste the plain page address without its extras.",
			MaxLinkLength,
		)
	}
	return Link{URL: href, Scheme: strings.TrimSuffix(parsed.Protocol(), ":"), Host: host}, nil
}

// Readable is an address as people read it: an internationalised host in its own
// letters (RFC 5891), all else as it is stored.
func Readable(address string) string {
	scheme, rest, web := strings.Cut(address, "://")
	if !web {
		return address
	}
	end := len(rest)
	if at := strings.IndexAny(rest, "/?#"); at >= 0 {
		end = at
	}
	return scheme + "://" + ReadableHost(rest[:end]) + rest[end:]
}

// ReadableHost shows a host in its own letters where those are of one alphabet;
// letters of several, which may be there to deceive, stay encoded.
func ReadableHost(host string) string {
	readable, err := idna.Display.ToUnicode(host)
	if err != nil {
		return host
	}
	for _, label := range strings.Split(readable, ".") {
		alphabets := 0
		for _, alphabet := range []*unicode.RangeTable{unicode.Latin, unicode.Greek, unicode.Cyrillic} {
			if strings.ContainsFunc(label, func(r rune) bool { return unicode.Is(alphabet, r) }) {
				alphabets++
			}
		}
		if alphabets > 1 {
			return host
		}
	}
	return readable
}

// shorten keeps a message readable when what it quotes is long.
func shorten(text string, limit int) string {
	runes := []rune(text)
	if len(runes) <= limit {
		return text
	}
	return string(runes[:limit]) + "…"
}

// Name is what to call a link before anybody has said: the host without "www."
// for a web address, the mailbox or number for the others.
func (l Link) Name() string {
	if l.IsWeb() {
		return strings.TrimPrefix(ReadableHost(l.Host), "www.")
	}
	target := strings.TrimPrefix(l.URL, l.Scheme+":")
	target, _, _ = strings.Cut(target, "?")
	return target
}
