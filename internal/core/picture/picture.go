// Package picture holds what a page knows of a picture: the cut that is shown,
// the sizes it is kept in, and what its colours are.
package picture

import (
	"regexp"

	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
)

// Limits of a picture.
const (
	MaxSide    = 8192 // pixels
	MaxAlt     = 300  // characters
	maxSizes   = 8
	maxPalette = colour.MaxPalette
)

// Picture is an uploaded or fetched picture, kept re-encoded under the digest of
// its bytes.
type Picture struct {
	Media  string `json:"media" doc:"File name below /media/ of the largest size: a SHA-256 in hex with its ending."`
	Width  int    `json:"width" doc:"In pixels."`
	Height int    `json:"height" doc:"In pixels."`
	// Sizes are smaller ones of the same cut, smallest first.
	Sizes []Size `json:"sizes,omitempty" doc:"Smaller sizes of the same cut, smallest first."`
	// Original is the whole picture that was uploaded, to be cut anew.
	Original string `json:"original,omitempty" doc:"File name of the whole picture it was cut from."`
	Cut      *Cut   `json:"cut,omitempty"`
	// Darkest and Lightest bound the colours anywhere in it.
	Darkest  string   `json:"darkest,omitempty" doc:"Colour of its darkest point."`
	Lightest string   `json:"lightest,omitempty" doc:"Colour of its lightest point."`
	Palette  []string `json:"palette,omitempty" doc:"Up to six colours out of it, largest first."`
}

// Size is one rendition.
type Size struct {
	Media string `json:"media"`
	Width int    `json:"width" doc:"In pixels."`
}

// Cut says which part of the original is shown: it is flipped, then turned, and
// the rectangle is cut out of the result.
type Cut struct {
	X      int  `json:"x" doc:"In pixels of the turned original."`
	Y      int  `json:"y"`
	Width  int  `json:"width"`
	Height int  `json:"height"`
	Turn   int  `json:"turn" doc:"Clockwise: 0, 90, 180 or 270 degrees."`
	FlipX  bool `json:"flipX" doc:"Left and right changed over."`
	FlipY  bool `json:"flipY" doc:"Top and bottom changed over."`
}

var (
	pictureName = regexp.MustCompile(`^[0-9a-f]{64}\.(png|jpg|svg)$`)
	fileName    = regexp.MustCompile(`^[0-9a-f]{64}\.(png|jpg|svg|mp4|webm|bin)$`)
)

// IsName tells whether a name could be that of a picture kept by us.
func IsName(name string) bool { return pictureName.MatchString(name) }

// IsFileName tells whether a name could be that of any file kept by us.
func IsFileName(name string) bool { return fileName.MatchString(name) }

// Names lists every file the picture is made of.
func (p *Picture) Names() []string {
	if p == nil {
		return nil
	}
	names := []string{p.Media}
	for _, size := range p.Sizes {
		names = append(names, size.Media)
	}
	if p.Original != "" {
		names = append(names, p.Original)
	}
	return names
}

// Tidy notes when the picture is none that was made here. A nil one is fine.
func (p *Picture) Tidy(problems *invalid.List, where string) {
	if p == nil {
		return
	}
	ok := inside(p.Width) && inside(p.Height) && len(p.Sizes) <= maxSizes && len(p.Palette) <= maxPalette
	for _, name := range p.Names() {
		ok = ok && IsName(name)
	}
	for _, size := range p.Sizes {
		ok = ok && inside(size.Width)
	}
	for _, code := range append([]string{p.Darkest, p.Lightest}, p.Palette...) {
		if code != "" {
			_, err := colour.Parse(code)
			ok = ok && err == nil && len(code) == 7
		}
	}
	if !ok {
		problems.Add(where, "This picture is not one that was uploaded here.")
	}
}

func inside(side int) bool { return side >= 1 && side <= MaxSide }

// Points are the colours that may lie anywhere under what stands on the
// picture: from its darkest to its lightest.
func (p *Picture) Points() []colour.RGB {
	darkest, lightest := colour.RGB{}, colour.RGB{R: 255, G: 255, B: 255}
	if p != nil {
		if c, err := colour.Parse(p.Darkest); err == nil {
			darkest = c
		}
		if c, err := colour.Parse(p.Lightest); err == nil {
			lightest = c
		}
	}
	return colour.Between(darkest, lightest, 17)
}
