// Package paste understands what a creator pastes into the one line above the
// page: one or several addresses, numbers and mailboxes, with or without titles,
// in the forms that lists of links are kept in.
package paste

import (
	"fmt"
	"html"
	"net/url"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"jundle/internal/core/address"
	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
)

// MaxLines is how many lines are understood at once.
const MaxLines = 100

// Kind is what an entry was understood to be.
type Kind string

// The kinds of entry.
const (
	Web    Kind = "web"
	File   Kind = "file"
	Phone  Kind = "phone"
	Mail   Kind = "mail"
	Nobody Kind = "not understood"
)

// Entry is what was made of one line.
type Entry struct {
	// Given is the line as it was pasted.
	Given string
	Kind  Kind
	// Title is empty where none was given.
	Title string
	// Link is where it leads; the zero value where it was not understood.
	Link address.Link
	// Message is why it was not understood, or why it is unsure, for the creator.
	Message string
	// Unsure is set where it may be something else than an address: it is shown, and
	// not added unless it is asked for.
	Unsure bool
}

// Read understands pasted text. Empty lines are left out. A line without an
// address is the title of the address on the next line; where none follows, it
// is answered as not understood. A line with several addresses is several entries.
// What leads where an entry before it leads is unsure. More than MaxLines entries
// are cut off with one that says so.
func Read(text string) []Entry {
	var entries []Entry
	var waiting string // a line that may be the title of the next
	notUnderstood := func() {
		if waiting == "" {
			return
		}
		_, err := address.ParseLink(waiting)
		says := "There is no address on this line, and none on the next."
		if err != nil && !strings.Contains(waiting, " ") {
			says = err.Error()
		}
		entries = append(entries, Entry{Given: waiting, Kind: Nobody, Message: says})
		waiting = ""
	}
	for _, line := range strings.FieldsFunc(text, func(r rune) bool { return r == '\n' || r == '\r' || r == '\u2028' || r == '\u2029' }) {
		line = strings.TrimSpace(listMark.ReplaceAllString(strings.TrimSpace(strings.ToValidUTF8(line, "")), ""))
		if line == "" {
			continue
		}
		if len(entries) >= MaxLines {
			entries = append(entries, Entry{
				Given: line, Kind: Nobody,
				Message: "These are more than 100 lines. The first 100 were read; paste the rest after them.",
			})
			return entries
		}
		found := readLine(line)
		found = found[:min(len(found), MaxLines-len(entries))]
		if len(found) == 0 {
			notUnderstood()
			waiting = line
			continue
		}
		if found[0].Title == "" && waiting != "" {
			found[0].Title, waiting = invalid.OneLine(waiting), ""
		}
		notUnderstood()
		entries = append(entries, found...)
	}
	notUnderstood()
	markRepeated(entries)
	return entries
}

// markRepeated makes unsure what leads where an entry before it leads.
func markRepeated(entries []Entry) {
	first := map[string]string{}
	for i := range entries {
		entry := &entries[i]
		if entry.Kind == Nobody {
			continue
		}
		if before, again := first[address.Key(entry.Link.URL)]; again {
			entry.Unsure, entry.Message = true, fmt.Sprintf("“%s” above leads to the same.", before)
			continue
		}
		first[address.Key(entry.Link.URL)] = entry.Name()
	}
}

var (
	// listMark is what lists are written with.
	listMark = regexp.MustCompile(`^(?:[-*•·–]\s+|\d{1,3}[.)]\s+)`)
	// markdown is a link in Markdown.
	markdown = regexp.MustCompile(`^\[([^\]]{0,200})\]\(\s*<?([^\s)>]+)>?\s*\)$`)
	// anchor is a link in HTML.
	anchor = regexp.MustCompile(`(?i)<a\s[^<>]*?href\s*=\s*["']?([^"'\s<>]+)[^<>]*>([^<]*)`)
	// withScheme finds an address that says what it is, anywhere on a line.
	withScheme = regexp.MustCompile(`(?i)(?:https?://|mailto:|tel:|sms:)\S+`)
	// bareHost is an address somebody typed: a host with a letters-only end.
	bareHost = regexp.MustCompile(
		`(?i)(?:^|[\s(])((?:[\p{L}\p{N}](?:[\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+\p{L}{2,24}(?::\d{2,5})?(?:[/?#]\S*)?)[).,;!]*$`,
	)
	mailbox = regexp.MustCompile(`(?:^|[\s<(])([^\s<>()@,;:]+@[^\s<>()@,;:]+\.[^\s<>()@,;:.]{2,})[>).,;!]*$`)
	number  = regexp.MustCompile(`(?:^|\s)(\+?\(?\d[\d\s().\-/]{5,24}\d)[).,;]*$`)
	// date is a day, written in any of the usual orders.
	date = regexp.MustCompile(`^(?:\d{1,2}[./-]\s?\d{1,2}[./-]\s?\d{2,4}|\d{4}[./-]\d{1,2}[./-]\d{1,2})\b`)
	// dialled is how a number begins that is certainly one to dial: with the sign for
	// the country code, or with the zero that stands for it or for the area.
	dialled = regexp.MustCompile(`^(?:\+|\(?0)`)
	// registered names numbers that nobody dials. Common practice; no single source.
	registered = regexp.MustCompile(`(?i)\b(?:vat|tax|iban|bic|isbn|ean|no|nr|number|invoice|order|ust|steuer|tva|siret|nif|cif|reg)\b[^\d]*$`)
)

// readLine understands a line that holds addresses: with the title before or
// behind one that is alone.
func readLine(line string) []Entry {
	if found := markdown.FindStringSubmatch(line); found != nil {
		if entry, ok := entryOf(line, found[2], found[1]); ok {
			return []Entry{entry}
		}
	}
	if found := anchor.FindAllStringSubmatch(line, MaxLines); found != nil {
		var entries []Entry
		for _, one := range found {
			if entry, ok := entryOf(line, html.UnescapeString(one[1]), html.UnescapeString(one[2])); ok {
				entries = append(entries, entry)
			}
		}
		return entries
	}
	if found := withScheme.FindAllStringIndex(line, MaxLines); found != nil {
		return severalOf(line, found)
	}
	if words := strings.Fields(line); len(words) > 1 && allAddresses(words) {
		var entries []Entry
		for _, word := range words {
			entries = append(entries, readLine(strings.Trim(word, ",;"))...)
		}
		return entries
	}
	for _, one := range []struct {
		pattern *regexp.Regexp
		scheme  string
	}{{mailbox, "mailto:"}, {bareHost, ""}, {number, "tel:"}} {
		at := one.pattern.FindStringSubmatchIndex(line)
		if at == nil {
			continue
		}
		given, before := withoutEnd(line[at[2]:at[3]]), line[:at[2]]
		if one.scheme == "tel:" && (countDigits(given) < 7 || date.MatchString(given)) {
			continue
		}
		entry, ok := entryOf(line, one.scheme+dialable(one.scheme, given), before)
		if !ok {
			continue
		}
		if one.scheme == "tel:" && (registered.MatchString(before) || !dialled.MatchString(given)) {
			entry.Unsure, entry.Message = true, "This may be a number that nobody dials. One to dial begins with + and the country code."
		}
		return []Entry{entry}
	}
	// An address alone on its line is told what is wrong with it.
	if !strings.ContainsFunc(line, unicode.IsSpace) && strings.ContainsAny(line, ":/") {
		if _, err := address.ParseLink(line); err != nil {
			return []Entry{{Given: line, Kind: Nobody, Message: err.Error()}}
		}
		if entry, ok := entryOf(line, line, ""); ok {
			return []Entry{entry}
		}
	}
	return nil
}

// severalOf makes an entry of each address on a line. One that is alone has its
// title before or behind it, several have each what stands before it.
func severalOf(line string, found [][]int) []Entry {
	var entries []Entry
	from := 0
	for _, at := range found {
		title := line[from:at[0]]
		if len(found) == 1 && strings.TrimSpace(title) == "" {
			title = line[at[1]:]
		}
		from = at[1]
		if entry, ok := entryOf(line, withoutEnd(line[at[0]:at[1]]), title); ok {
			entries = append(entries, entry)
		}
	}
	return entries
}

// withoutEnd cuts off what ends a sentence and not an address: stops, quotation
// marks, and a bracket that was not opened in it.
func withoutEnd(given string) string {
	for {
		cut := strings.TrimRight(given, `,;.!"'”’>`)
		for _, pair := range []string{"()", "[]"} {
			if strings.HasSuffix(cut, pair[1:]) && strings.Count(cut, pair[:1]) < strings.Count(cut, pair[1:]) {
				cut = cut[:len(cut)-1]
			}
		}
		if cut == given {
			return cut
		}
		given = cut
	}
}

// allAddresses tells whether a line is nothing but mailboxes and hosts.
func allAddresses(words []string) bool {
	for _, word := range words {
		word = strings.Trim(word, ",;")
		if !mailbox.MatchString(word) && !bareHost.MatchString(word) {
			return false
		}
	}
	return true
}

func dialable(scheme, given string) string {
	if scheme == "tel:" {
		return strings.ReplaceAll(given, "/", " ")
	}
	return given
}

func entryOf(line, given, title string) (Entry, bool) {
	link, err := address.ParseLink(given)
	if err != nil {
		return Entry{Given: line, Kind: Nobody, Message: err.Error()}, strings.Contains(given, ":")
	}
	title = strings.Trim(invalid.OneLine(title), " \t:|,;–—-=→>\"“”<(")
	return Entry{Given: line, Kind: kindOf(link), Title: title, Link: link}, true
}

// fileEndings are those of what people hand out on a page rather than show.
// Common practice; no single source.
var fileEndings = map[string]bool{
	"pdf": true, "zip": true, "epub": true, "mobi": true, "doc": true, "docx": true, "odt": true, "rtf": true, "xls": true, "xlsx": true,
	"ods": true,
	"csv": true, "ppt": true, "pptx": true, "odp": true, "key": true, "ics": true, "vcf": true, "gpx": true, "stl": true, "svg": true,
	"wav": true, "flac": true,
}

func kindOf(link address.Link) Kind {
	switch link.Scheme {
	case "mailto":
		return Mail
	case "tel", "sms":
		return Phone
	}
	path, _, _ := strings.Cut(strings.TrimPrefix(link.URL, link.Scheme+"://"), "?")
	path, _, _ = strings.Cut(path, "#")
	if _, rest, ok := strings.Cut(path, "/"); ok {
		if dot := strings.LastIndexByte(rest, '.'); dot >= 0 && fileEndings[strings.ToLower(rest[dot+1:])] {
			return File
		}
	}
	return Web
}

// Name is what to call an entry that came without a title.
func (e Entry) Name() string {
	switch {
	case e.Title != "":
		return e.Title
	case e.Kind == File:
		path, _, _ := strings.Cut(e.Link.URL, "?")
		name := path[strings.LastIndexByte(path, '/')+1:]
		if dot := strings.LastIndexByte(name, '.'); dot > 0 {
			name = name[:dot]
		}
		if decoded, err := url.PathUnescape(name); err == nil && utf8.ValidString(decoded) {
			name = decoded
		}
		first, size := utf8.DecodeRuneInString(name)
		return string(unicode.ToUpper(first)) + strings.NewReplacer("-", " ", "_", " ").Replace(name[size:])
	case e.Kind == Phone || e.Kind == Mail:
		return contact.Shown(e.Link.URL)
	}
	return e.Link.Name()
}

func countDigits(text string) int {
	n := 0
	for _, r := range text {
		if r >= '0' && r <= '9' {
			n++
		}
	}
	return n
}
