// Package fonts holds the fonts that ship with the application, in slices, so
// that a page loads only what its own text needs: the plain characters of
// English, the accents of western Europe, and the rest of the Latin script.
// What is in none of them is drawn in the fonts of the visitor's device.
package fonts

import (
	"embed"
	"fmt"
	"io/fs"
	"strings"

	"jundle/internal/core/look"
)

//go:embed libdata/*.woff2
var files embed.FS

// part is a part of a font with the characters in it, kept in step with
// scripts/libdata/vendor.mjs.
type part struct {
	name   string
	ranges [][2]rune
}

var parts = []part{
	{"plain", [][2]rune{
		{0x20, 0x7e},
		{0xa0, 0xa0},
		{0xa3, 0xa3},
		{0xb7, 0xb7},
		{0x2013, 0x2014},
		{0x2018, 0x2019},
		{0x201c, 0x201d},
		{0x2022, 0x2022},
		{0x2026, 0x2026},
		{0x20ac, 0x20ac},
	}},
	{"accents", [][2]rune{
		{0xa1, 0xa2},
		{0xa4, 0xb6},
		{0xb8, 0xff},
		{0x131, 0x131},
		{0x152, 0x153},
		{0x2c6, 0x2c6},
		{0x2dc, 0x2dc},
		{0x201a, 0x201a},
		{0x201e, 0x201e},
		{0x2039, 0x203a},
		{0x2122, 0x2122},
		{0x2212, 0x2212},
	}},
	{"ext", [][2]rune{{0x100, 0x130}, {0x132, 0x151}, {0x154, 0x24f}, {0x1e00, 0x1eff}, {0x20a0, 0x20ab}, {0x20ad, 0x20c0}}},
}

func (p part) holds(r rune) bool {
	for _, each := range p.ranges {
		if r >= each[0] && r <= each[1] {
			return true
		}
	}
	return false
}

// css is the slice as the value of unicode-range (CSS Fonts 4, section 4.5).
func (p part) css() string {
	ranges := make([]string, len(p.ranges))
	for i, each := range p.ranges {
		ranges[i] = fmt.Sprintf("U+%X", each[0])
		if each[1] != each[0] {
			ranges[i] += fmt.Sprintf("-%X", each[1])
		}
	}
	return strings.Join(ranges, ",")
}

// Slice is one slice of one weight of a font.
type Slice struct {
	// Family is what a style sheet calls it.
	Family string `json:"family"`
	Weight int    `json:"weight"`
	// Path is where both listeners serve it.
	Path string `json:"path"`
	// Range is the value of unicode-range.
	Range string `json:"range"`
}

// Needed lists the slices that a text needs in a pair of fonts: of the heading
// font for what is in headings, of the text font for all else.
func Needed(pair look.Pair, headings, text string) []Slice {
	var needed []Slice
	needed = append(needed, slicesOf(pair.Head, pair.Head.Weight, headings)...)
	needed = append(needed, slicesOf(pair.Text, pair.Text.Weight, text)...)
	if pair.Text.Bold > 0 && (pair.Text.Family != pair.Head.Family || pair.Text.Bold != pair.Head.Weight) {
		needed = append(needed, slicesOf(pair.Text, pair.Text.Bold, text)...)
	}
	return needed
}

func slicesOf(face look.Face, weight int, text string) []Slice {
	if face.Family == "" {
		return nil
	}
	var found []Slice
	for _, part := range parts {
		if strings.ContainsFunc(text, part.holds) {
			found = append(found, Slice{
				Family: face.Family, Weight: weight, Range: part.css(),
				Path: fmt.Sprintf("/fonts/%s-%d-%s.woff2", face.Family, weight, part.name),
			})
		}
	}
	return found
}

// Bytes returns a slice by its file name; fs.ErrNotExist when there is none.
func Bytes(name string) ([]byte, error) {
	if strings.ContainsAny(name, "/\\") {
		return nil, fs.ErrNotExist
	}
	return files.ReadFile("libdata/" + name)
}
