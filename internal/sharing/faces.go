package sharing

import (
	"cmp"
	"compress/gzip"
	"embed"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"io"
	"strings"
	"sync"

	ximage "golang.org/x/image/font"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"jundle/internal/core/look"
)

// files are the fonts of pages once more, as what draws with them reads them: in two slices.
//
//go:embed libdata/*.ttf.gz
var files embed.FS

// standIn is drawn with where a page uses the fonts of the visitor's device.
const standIn = "libre-franklin"

// typefaces are a heading's and a text's.
type typefaces struct{ head, text *typeface }

// typeface is a font in one weight: its slices, the first that has a letter draws it.
type typeface struct{ slices []*opentype.Font }

var (
	parsedMu sync.Mutex
	parsed   = make(map[string]*typeface)
)

func facesOf(pair string) (typefaces, error) {
	of, ok := look.FindPair(pair)
	if !ok {
		of = look.Pairs[0]
	}
	head, err := typefaceOf(of.Head)
	if err != nil {
		return typefaces{}, err
	}
	text, err := typefaceOf(of.Text)
	return typefaces{head, text}, err
}

// typefaceOf parses a font once.
func typefaceOf(of look.Face) (*typeface, error) {
	if of.Family == "" {
		of = look.Face{Family: standIn, Weight: cmp.Or(min(of.Weight, 600), 400)}
	}
	key := fmt.Sprintf("%s-%d", of.Family, of.Weight)
	parsedMu.Lock()
	defer parsedMu.Unlock()
	if known, ok := parsed[key]; ok {
		return known, nil
	}
	made := new(typeface)
	for _, slice := range []string{"latin", "latin-ext"} {
		read, err := readFont(fmt.Sprintf("libdata/%s-%s.ttf.gz", key, slice))
		if err != nil {
			return nil, fmt.Errorf("read the font %s, %s: %w", key, slice, err)
		}
		made.slices = append(made.slices, read)
	}
	parsed[key] = made
	return made, nil
}

func readFont(name string) (*opentype.Font, error) {
	file, err := files.Open(name)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	packed, err := gzip.NewReader(file)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(packed)
	if err != nil {
		return nil, err
	}
	return opentype.Parse(data)
}

// face is a typeface in one size.
type face struct {
	size   int
	slices []ximage.Face
}

func (t *typeface) sized(size int) *face {
	made := &face{size: size}
	for _, slice := range t.slices {
		// The only errors are those of options, which are constant.
		if sized, err := opentype.NewFace(slice, &opentype.FaceOptions{Size: float64(size), DPI: 72, Hinting: ximage.HintingNone}); err == nil {
			made.slices = append(made.slices, sized)
		}
	}
	return made
}

// fitted breaks a text into so many lines at most, in the largest of two sizes and those
// between in which they fit; what is too long is cut. A text with letters that the font does
// not have is left out whole: half a name is worse than none.
func (t *typeface) fitted(text string, size, least, width, most int) lines {
	text = strings.Join(strings.Fields(text), " ")
	made := lines{face: t.sized(size)}
	if !made.face.has(text) {
		return made
	}
	for ; ; size -= 6 {
		made.face = t.sized(max(size, least))
		made.lines = broken(text, width, made.face.measure)
		fits := len(made.lines) <= most
		for _, line := range made.lines {
			fits = fits && made.face.measure(line).Ceil() <= width
		}
		if fits || size <= least {
			break
		}
	}
	if len(made.lines) > most {
		made.lines = made.lines[:most]
		made.lines[most-1] += "…"
	}
	return made
}

// slice is the one that has a letter; the first where none does.
func (f *face) slice(r rune) (ximage.Face, bool) {
	for _, slice := range f.slices {
		if _, has := slice.GlyphAdvance(r); has {
			return slice, true
		}
	}
	return f.slices[0], false
}

func (f *face) has(text string) bool {
	for _, r := range text {
		if _, has := f.slice(r); !has {
			return false
		}
	}
	return true
}

func (f *face) measure(text string) (width fixed.Int26_6) {
	for _, r := range text {
		slice, _ := f.slice(r)
		advance, _ := slice.GlyphAdvance(r)
		width += advance
	}
	return width
}

// lead is from one line to the next, and ascent from the top of a line to its letters' feet.
func (f *face) lead() int   { return f.size * 6 / 5 }
func (f *face) ascent() int { return f.size * 19 / 20 }

func (f *face) write(canvas *image.RGBA, text string, at fixed.Point26_6, ink color.RGBA) {
	for _, r := range text {
		slice, _ := f.slice(r)
		box, mask, from, advance, ok := slice.Glyph(at, r)
		if ok {
			draw.DrawMask(canvas, box, image.NewUniform(ink), image.Point{}, mask, from, draw.Over)
		}
		at.X += advance
	}
}
