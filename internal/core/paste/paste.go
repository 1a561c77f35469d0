// Package paste understands what a creator pastes into the one line above the
// page: one or several addresses, numbers and mailboxes, with or without titles,
// in the forms that lists of links are kept in.
package paste

import (
	"regexp"
	"strings"
	"unicode"

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
	// Says is why it was not understood, for the creator.
	Says string
}

// Read understands pasted text. Empty lines are left out. A line without an
// address is the title of the address on the next line; where none follows, it
// is answered as not understood. More than MaxLines lines are cut off with an
// entry that says so.
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
		entries = append(entries, Entry{Given: waiting, Kind: Nobody, Says: says})
		waiting = ""
	}
	for _, line := range strings.FieldsFunc(text, func(r rune) bool { return r == '\n' || r == '\r' || r == '\u2028' || r == '\u2029' }) {
		line = strings.TrimSpace(listMark.ReplaceAllString(strings.TrimSpace(strings.ToValidUTF8(line, "")), ""))
		if line == "" {
			continue
		}
		if len(entries) >= MaxLines {
			entries = append(entries, Entry{Given: line, Kind: Nobody, Says: "These are more than 100 lines. The first 100 were read; paste the rest after them."})
			return entries
		}
		entry, ok := readLine(line)
		if !ok {
			notUnderstood()
			waiting = line
			continue
		}
		if entry.Title == "" && waiting != "" {
			entry.Title, waiting = invalid.OneLine(waiting), ""
		}
		notUnderstood()
		entries = append(entries, entry)
	}
	notUnderstood()
	return entries
}

var (
	// listMark is what lists are written with.
	listMark = regexp.MustCompile(`^(?:[-*•·–]\s+|\d{1,3}[.)]\s+)`)
	// markdown is a link in Markdown.
	markdown = regexp.MustCompile(`^\[([^\]]{0,200})\]\(\s*<?([^\s)>]+)>?\s*\)$`)
	// withScheme finds an address that says what it is, anywhere on a line.
	withScheme = regexp.MustCompile(`(?i)(?:https?://|mailto:|tel:|sms:)\S+`)
	// bareHost is an address somebody typed: a host with a letters-only end.
	bareHost = regexp.MustCompile(`(?i)(?:^|\s)((?:[\p{L}\p{N}](?:[\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+\p{L}{2,24}(?::\d{2,5})?(?:[/?#]\S*)?)$`)
	mailbox  = regexp.MustCompile(`(?:^|[\s<(])([^\s<>()@,;:]+@[^\s<>()@,;:]+\.[^\s<>()@,;:.]{2,})[>)]?$`)
	number   = regexp.MustCompile(`(?:^|\s)(\+?\(?\d[\d\s().\-/]{5,24}\d)$`)
)

// readLine understands a line that holds an address: with the title before or
// behind it.
func readLine(line string) (Entry, bool) {
	if found := markdown.FindStringSubmatch(line); found != nil {
		if entry, ok := entryOf(line, found[2], found[1]); ok {
			return entry, true
		}
	}
	if at := withScheme.FindStringIndex(line); at != nil {
		given := strings.TrimRight(line[at[0]:at[1]], `,;"'”’>`)
		title := line[:at[0]]
		if strings.TrimSpace(title) == "" {
			title = line[at[1]:]
		}
		return entryOf(line, given, title)
	}
	for _, one := range []struct {
		pattern *regexp.Regexp
		scheme  string
	}{{mailbox, "mailto:"}, {bareHost, ""}, {number, "tel:"}} {
		if at := one.pattern.FindStringSubmatchIndex(line); at != nil {
			given := line[at[2]:at[3]]
			if one.scheme == "tel:" {
				given = strings.ReplaceAll(given, "/", " ")
				if countDigits(given) < 7 {
					continue
				}
			}
			if entry, ok := entryOf(line, one.scheme+given, line[:at[2]]); ok {
				return entry, true
			}
		}
	}
	// An address alone on its line is told what is wrong with it.
	if !strings.ContainsFunc(line, unicode.IsSpace) && strings.ContainsAny(line, ":/") {
		_, err := address.ParseLink(line)
		if err != nil {
			return Entry{Given: line, Kind: Nobody, Says: err.Error()}, true
		}
		return entryOf(line, line, "")
	}
	return Entry{}, false
}

func entryOf(line, given, title string) (Entry, bool) {
	link, err := address.ParseLink(given)
	if err != nil {
		return Entry{Given: line, Kind: Nobody, Says: err.Error()}, strings.Contains(given, ":")
	}
	title = strings.Trim(invalid.OneLine(title), " \t:|,;–—-=→>\"“”<(")
	return Entry{Given: line, Kind: kindOf(link), Title: title, Link: link}, true
}

// fileEndings are those of what people hand out on a page rather than show.
// Common practice; no single source.
var fileEndings = map[string]bool{
	"pdf": true, "zip": true, "epub": true, "mobi": true, "doc": true, "docx": true, "odt": true, "rtf": true, "xls": true, "xlsx": true, "ods": true,
	"csv": true, "ppt": true, "pptx": true, "odp": true, "key": true, "ics": true, "vcf": true, "gpx": true, "stl": true, "svg": true, "wav": true, "flac": true,
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
		return strings.ToUpper(name[:1]) + strings.NewReplacer("-", " ", "_", " ", "%20", " ").Replace(name[1:])
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
