// Package campaign knows the five campaign tags that the trade shares
// (utm_source, utm_medium, utm_campaign, utm_term, utm_content; common practice,
// no single source): how they are read, written alike and put on an address.
package campaign

import (
	"net/url"
	"strings"
	"unicode"
	"unicode/utf8"
)

// MaxValue is how long a value may be, in characters.
const MaxValue = 100

// Tags are the five tags with their values; an empty value is not written.
type Tags struct {
	Source   string `json:"source,omitempty"`
	Medium   string `json:"medium,omitempty"`
	Campaign string `json:"campaign,omitempty"`
	Term     string `json:"term,omitempty"`
	Content  string `json:"content,omitempty"`
}

// Names are the tags as they stand in an address, in the order in which they are
// written.
var Names = [...]string{"utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content"}

// values points to the values in the order of Names.
func (t *Tags) values() [len(Names)]*string {
	return [...]*string{&t.Source, &t.Medium, &t.Campaign, &t.Term, &t.Content}
}

// Normalise writes a value the one way it is kept: without white space around,
// in lower case, runs of white space as one underscore, at most MaxValue
// characters. Control characters and broken UTF-8 fall away.
func Normalise(value string) string {
	value = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) && !unicode.IsSpace(r) || r == utf8.RuneError {
			return -1
		}
		return unicode.ToLower(r)
	}, value)
	value = strings.Join(strings.Fields(value), "_")
	if utf8.RuneCountInString(value) > MaxValue {
		value = string([]rune(value)[:MaxValue])
	}
	return value
}

// Normalised returns the tags with every value normalised.
func (t Tags) Normalised() Tags {
	for _, value := range t.values() {
		*value = Normalise(*value)
	}
	return t
}

// ByName returns the values that are not empty by the names of their tags.
func (t Tags) ByName() map[string]string {
	named := make(map[string]string)
	for i, value := range t.values() {
		if *value != "" {
			named[Names[i]] = *value
		}
	}
	return named
}

// Read takes the tags out of the query of an address, normalised. Where a tag
// is given twice the first counts; what is no tag is passed over.
func Read(query string) Tags {
	var tags Tags
	if !strings.Contains(query, "utm_") {
		return tags
	}
	given, _ := url.ParseQuery(query) // what can be read is read; a broken pair is passed over
	for i, value := range tags.values() {
		*value = Normalise(given.Get(Names[i]))
	}
	return tags
}
