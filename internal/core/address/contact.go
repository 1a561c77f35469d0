package address

import (
	"net/mail"
	"net/url"
	"regexp"
	"strings"
)

// telNumber is the global-number and local-number of RFC 3966 once its visual
// separators are gone, parameters left out.
var telNumber = regexp.MustCompile(`^\+?[*#]*[0-9][0-9*#]{1,39}$`)

// separators are for the eye only (RFC 3966 s5.1.1); blanks, which people type,
// are not allowed in a URI at all.
var separators = strings.NewReplacer(" ", "", "(", "", ")", "", ".", "", "-", "")

// parseContact reads what follows mailto:, tel: or sms:.
func parseContact(scheme, rest string) (Link, error) {
	target, query, hasQuery := strings.Cut(rest, "?")
	if scheme == "mailto" {
		if err := checkMailboxes(target); err != nil {
			return Link{}, err
		}
		target = strings.ReplaceAll(target, " ", "")
	} else {
		number, err := url.PathUnescape(target)
		number = separators.Replace(number)
		if err != nil || !telNumber.MatchString(number) {
			return Link{}, refuse("“%s” is not a phone number. Write it with country code, for example tel:+44-20-7946-0018.",
				shorten(target, 40))
		}
		target = strings.ReplaceAll(number, "#", "%23")
	}
	link := Link{URL: scheme + ":" + target, Scheme: scheme}
	if hasQuery {
		if strings.ContainsAny(query, "\"<>` ") {
			query = strings.NewReplacer(`"`, "%22", "<", "%3C", ">", "%3E", "`", "%60", " ", "%20").Replace(query)
		}
		link.URL += "?" + query
	}
	return link, nil
}

var (
	// bareMailbox is a mailbox somebody typed without saying that it is one.
	bareMailbox = regexp.MustCompile(`^[^\s<>()@,;:/]+@[^\s<>()@,;:/]+\.[^\s<>()@,;:/.]{2,}$`)
	// bareNumber is a number to dial: with the sign for the country code, or with the
	// zero that stands for it or for the area.
	bareNumber = regexp.MustCompile(`^(?:\+|\(?0)[\d\s().\-/]{6,30}$`)
)

// ParseTyped is ParseLink for a field that somebody types into: a mailbox and a number
// are taken there without their schemes.
func ParseTyped(text string) (Link, error) {
	switch typed := clean(text); {
	case bareMailbox.MatchString(typed):
		return ParseLink("mailto:" + typed)
	case bareNumber.MatchString(typed):
		return ParseLink("tel:" + strings.ReplaceAll(typed, "/", " "))
	}
	return ParseLink(text)
}

// checkMailboxes accepts the "to" part of RFC 6068: one or more addr-spec with
// commas between, percent-encoded where needed.
func checkMailboxes(list string) error {
	for _, box := range strings.Split(list, ",") {
		plain, err := url.PathUnescape(strings.TrimSpace(box))
		if err == nil {
			var parsed *mail.Address
			parsed, err = mail.ParseAddress(plain)
			if err == nil && parsed.Address == plain && !strings.ContainsAny(box, "\"<> ") {
				continue
			}
		}
		return refuse("“%s” is not an e-mail address. It looks like mailto:studio@kiln.example.", shorten(box, 60))
	}
	return nil
}
