// Package signup holds the rules for what visitors and creators give where people leave
// their e-mail address: which address can be one, and where it can be handed on to.
package signup

import (
	"errors"
	"fmt"
	"net/url"
	"regexp"
	"strings"

	"golang.org/x/net/idna"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
)

// MaxAddress is how long an e-mail address may be, in bytes. Source: RFC 5321 s4.5.3.1.3,
// a path of 256 with its brackets.
const MaxAddress = 254

// ErrAddress is answered for what is no e-mail address.
var ErrAddress = errors.New("this is not an e-mail address")

// valid is what browsers take for an e-mail address. Source: HTML Living Standard, valid
// e-mail address (input type=email); here with a point in the host, which every address on
// the internet has.
var valid = regexp.MustCompile(
	"^[a-zA-Z0-9.!#$%&'*+\\/=?^_`{|}~-]{1,64}@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?" +
		"(?:\\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)+$",
)

// Address reads what a visitor typed: the address as it is written to, its host in small
// letters and punycode, and the key by which one person is there once, whatever the case.
// It answers ErrAddress.
func Address(typed string) (written, key string, err error) {
	typed = invalid.OneLine(typed)
	at := strings.LastIndexByte(typed, '@')
	if at < 1 || len(typed) > MaxAddress {
		return "", "", ErrAddress
	}
	host, err := idna.Lookup.ToASCII(typed[at+1:])
	if err != nil {
		return "", "", ErrAddress
	}
	written = typed[:at] + "@" + strings.ToLower(host)
	if !valid.MatchString(written) || len(written) > MaxAddress {
		return "", "", ErrAddress
	}
	return written, strings.ToLower(written), nil
}

// ListWish is where a creator wants sign-ups handed on to.
type ListWish struct {
	// Address is that of the service's interface; https only.
	Address string
	// List is which of its lists.
	List string
	// Token is what it lets in by.
	Token string
}

// Error says in words what is wrong with a field of a wish.
type Error struct{ Field, Reason string }

func (e *Error) Error() string { return e.Reason }

var (
	listName  = regexp.MustCompile(`^[A-Za-z0-9._~-]{1,100}$`)
	tokenText = regexp.MustCompile(`^[\x21-\x7e]{1,500}$`)
)

// Clean holds a wish against the rules; *Error.
func (w ListWish) Clean() (ListWish, error) {
	link, err := address.ParseLink(w.Address)
	if err != nil {
		return ListWish{}, &Error{"address", err.Error()}
	}
	parsed, err := url.Parse(link.URL)
	if err != nil || parsed.Scheme != "https" || parsed.RawQuery != "" || parsed.Fragment != "" {
		return ListWish{}, &Error{"address", "The service is reached at an address that begins with https:// and has no ? or # in it."}
	}
	clean := ListWish{strings.TrimRight(link.URL, "/"), strings.TrimSpace(w.List), strings.TrimSpace(w.Token)}
	if !listName.MatchString(clean.List) || strings.Trim(clean.List, ".") == "" {
		return ListWish{}, &Error{"list", "The list is named by letters, figures, points and hyphens, as its service shows it; 100 at most."}
	}
	if !tokenText.MatchString(clean.Token) {
		return ListWish{}, &Error{"token", "The token is one word, as the service shows it; at most 500 characters."}
	}
	return clean, nil
}

// Member is the address of one person on the list.
func (w ListWish) Member(id string) string {
	return fmt.Sprintf("%s/lists/%s/members/%s", w.Address, url.PathEscape(w.List), url.PathEscape(id))
}
