// Package icons looks up small signs in the vendored icon libraries: marks of
// networks and brands, and signs for everything else. It can find the mark that
// belongs to the host of a profile's address.
package icons

import (
	"bytes"
	"cmp"
	"compress/gzip"
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode"

	"golang.org/x/net/publicsuffix"
)

// The sets of icons.
const (
	Marks = "marks"
	Signs = "signs"
)

//go:embed libdata/marks.json.gz
var packedMarks []byte

//go:embed libdata/signs.json.gz
var packedSigns []byte

// Entry is one icon on a square of 24 by 24.
type Entry struct {
	Set   string `json:"set" enum:"marks,signs"`
	Name  string `json:"name"`
	Title string `json:"title" doc:"What it is called."`
	// Draws is the d of a path to be filled for a mark, and SVG elements to be
	// stroked for a sign.
	Draws string `json:"draws" doc:"For a mark the d of its path, to be filled; for a sign its SVG elements, to be stroked."`
	// Colour is that of a mark, as #rrggbb.
	Colour string `json:"colour,omitempty" doc:"Colour of a mark, as #rrggbb."`

	words []string // in lower case, what else it may be looked for as
}

type library struct {
	all     []Entry
	byName  map[string]Entry
	byLabel map[string]Entry // marks by the name of the site they may stand for
	bySite  map[string]Entry // marks by the registrable domain of the site they came from
}

var load = sync.OnceValue(func() *library {
	l := &library{byName: map[string]Entry{}, byLabel: map[string]Entry{}, bySite: map[string]Entry{}}
	siteCount := map[string]int{}
	type row struct {
		Name, Title, Hex, Site, Draws string
		Words                         []string
	}
	for _, each := range unpack[row](packedMarks) {
		icon := Entry{
			Set: Marks, Name: each.Name, Title: each.Title, Draws: each.Draws, Colour: "#" + each.Hex,
			words: lower(append(each.Words, each.Title)),
		}
		l.add(icon)
		l.byLabel[each.Name] = icon
		for _, word := range icon.words {
			if label := squeeze(word); label != "" {
				if _, taken := l.byLabel[label]; !taken {
					l.byLabel[label] = icon
				}
			}
		}
		if domain, err := publicsuffix.EffectiveTLDPlusOne(each.Site); err == nil {
			siteCount[domain]++
			l.bySite[domain] = icon
		}
	}
	// A site that many marks came from is an archive of marks, no network.
	for domain, n := range siteCount {
		if n > 1 {
			delete(l.bySite, domain)
		}
	}
	for _, each := range unpack[row](packedSigns) {
		l.add(Entry{Set: Signs, Name: each.Name, Title: each.Title, Draws: each.Draws, words: lower(append(each.Words, each.Title))})
	}
	return l
})

func (l *library) add(icon Entry) {
	l.all = append(l.all, icon)
	l.byName[icon.Set+"/"+icon.Name] = icon
}

// unpack reads data that ships with the program; it cannot be wrong and a
// program with wrong data should not start.
func unpack[T any](packed []byte) []T {
	reader, err := gzip.NewReader(bytes.NewReader(packed))
	var rows []T
	if err == nil {
		err = json.NewDecoder(reader).Decode(&rows)
	}
	if err != nil {
		panic(fmt.Sprintf("icons: %v", err))
	}
	return rows
}

func lower(words []string) []string {
	for i := range words {
		words[i] = strings.ToLower(words[i])
	}
	return words
}

func squeeze(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, text)
}

// Find looks an icon up by set and name.
func Find(set, name string) (Entry, bool) {
	icon, ok := load().byName[set+"/"+name]
	return icon, ok
}

// ForHost finds the mark that belongs to a host: by the name before its public
// suffix, and by the site a mark came from.
func ForHost(host string) (Entry, bool) {
	domain, err := publicsuffix.EffectiveTLDPlusOne(strings.ToLower(strings.TrimSuffix(host, ".")))
	if err != nil {
		return Entry{}, false
	}
	if icon, ok := load().bySite[domain]; ok {
		return icon, true
	}
	label, _, _ := strings.Cut(domain, ".")
	if icon, ok := load().byLabel[squeeze(label)]; ok {
		return icon, true
	}
	// Some networks give each profile a host below their own domain, which the
	// list of public suffixes knows as a suffix.
	if suffix, _ := publicsuffix.PublicSuffix(domain); strings.Contains(suffix, ".") {
		label, _, _ := strings.Cut(suffix, ".")
		icon, ok := load().byLabel[squeeze(label)]
		return icon, ok
	}
	return Entry{}, false
}

// Search lists icons that a query finds, best first, marks before signs, at
// most limit. An empty query finds the signs.
func Search(query string, limit int) []Entry {
	query = strings.ToLower(strings.TrimSpace(query))
	type hit struct {
		icon Entry
		rank int
	}
	var hits []hit
	for _, icon := range load().all {
		if rank := rankOf(icon, query); rank > 0 {
			hits = append(hits, hit{icon, rank})
		}
	}
	slices.SortStableFunc(hits, func(a, b hit) int {
		return cmp.Or(cmp.Compare(a.rank, b.rank), cmp.Compare(len(a.icon.Name), len(b.icon.Name)))
	})
	icons := make([]Entry, 0, min(limit, len(hits)))
	for _, each := range hits[:min(limit, len(hits))] {
		icons = append(icons, each.icon)
	}
	return icons
}

// rankOf is 0 for an icon that is not found, and lower for a better one.
func rankOf(icon Entry, query string) int {
	if query == "" {
		if icon.Set == Signs {
			return 1
		}
		return 0
	}
	rank := 0
	for i, word := range append([]string{icon.Name}, icon.words...) {
		value := 0
		switch {
		case i == 0 && word == query:
			value = 1
		case word == query:
			value = 2
		case strings.HasPrefix(word, query):
			value = 3
		case strings.Contains(word, query):
			value = 4
		}
		if value > 0 && (rank == 0 || value < rank) {
			rank = value
		}
	}
	return rank
}
