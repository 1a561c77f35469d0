// Package contact makes the addresses by which somebody can be reached, and the
// contact card: mailto (RFC 6068), tel (RFC 3966), sms (RFC 5724), address
// patterns of messaging apps, and vCard 4.0 (RFC 6350).
package contact

import (
	"errors"
	"net/url"
	"strings"

	"jundle/internal/core/address"
)

// Mail is the address that begins an e-mail, with its subject and text filled
// in. Source: RFC 6068; line breaks become %0D%0A (its section 5).
func Mail(mailbox, subject, text string) (string, error) {
	link, err := address.ParseLink("mailto:" + escapeMailbox(strings.TrimSpace(mailbox)))
	if err != nil {
		return "", err
	}
	var fields []string
	if subject != "" {
		fields = append(fields, "subject="+escape(subject))
	}
	if text != "" {
		fields = append(fields, "body="+escape(text))
	}
	return withFields(link.URL, fields), nil
}

// escapeMailbox encodes what RFC 6068 section 2 says has to be in an addr-spec:
// all but the characters a local part or domain may show as they are.
func escapeMailbox(mailbox string) string {
	var out strings.Builder
	for i := range len(mailbox) {
		c := mailbox[i]
		if isUnreserved(c) || strings.IndexByte("!$'*+@,", c) >= 0 {
			out.WriteByte(c)
		} else {
			writeEscaped(&out, c)
		}
	}
	return out.String()
}

// Call is the address that dials a number (RFC 3966).
func Call(number string) (string, error) { return numbered("tel", number) }

// TextMessage is the address that begins a text message (RFC 5724).
func TextMessage(number, text string) (string, error) {
	link, err := numbered("sms", number)
	if err != nil || text == "" {
		return link, err
	}
	return withFields(link, []string{"body=" + escape(text)}), nil
}

func numbered(scheme, number string) (string, error) {
	number = strings.TrimSpace(number)
	number = strings.TrimPrefix(strings.TrimPrefix(number, "tel:"), "sms:")
	link, err := address.ParseLink(scheme + ":" + number)
	return link.URL, err
}

// ErrNoPlace is answered for a pattern that has no place for the number.
var ErrNoPlace = errors.New(
	"the address of the app has no {number} in it. Copy its pattern, like https://chat.example/{number}?text={text}",
)

// App is the address that begins a message in an app, out of its pattern: in it
// {number} stands for the digits of the number with country code, and {text} for
// the text.
func App(pattern, number, text string) (string, error) {
	if !strings.Contains(pattern, "{number}") {
		return "", ErrNoPlace
	}
	call, err := Call(number)
	if err != nil {
		return "", err
	}
	digits := strings.Map(func(r rune) rune {
		if r < '0' || r > '9' {
			return -1
		}
		return r
	}, call)
	filled := strings.NewReplacer("{number}", digits, "{text}", escape(text)).Replace(pattern)
	link, err := address.ParseLink(filled)
	if err == nil && !link.IsWeb() {
		err = ErrNoPlace
	}
	return link.URL, err
}

func withFields(link string, fields []string) string {
	if len(fields) == 0 {
		return link
	}
	separator := "?"
	if strings.Contains(link, "?") {
		separator = "&"
	}
	return link + separator + strings.Join(fields, "&")
}

// escape encodes all but the unreserved characters of RFC 3986, a blank as %20
// and a line break as %0D%0A.
func escape(text string) string {
	text = strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\n", "\r\n")
	var out strings.Builder
	for i := range len(text) {
		if isUnreserved(text[i]) {
			out.WriteByte(text[i])
		} else {
			writeEscaped(&out, text[i])
		}
	}
	return out.String()
}

func isUnreserved(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || strings.IndexByte("-._~", c) >= 0
}

func writeEscaped(out *strings.Builder, c byte) {
	const digits = "0123456789ABCDEF"
	out.WriteByte('%')
	out.WriteByte(digits[c>>4])
	out.WriteByte(digits[c&15])
}

// Shown is a number or mailbox for people to read, out of its address.
func Shown(link string) string {
	_, target, _ := strings.Cut(link, ":")
	target, _, _ = strings.Cut(target, "?")
	if plain, err := url.PathUnescape(target); err == nil {
		return plain
	}
	return target
}
