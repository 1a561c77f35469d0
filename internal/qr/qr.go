// Package qr draws QR codes (ISO/IEC 18004) of addresses, as SVG and as PNG, in
// colour, with an optional mark in the middle. The encoding itself is a
// library's; what is here is the drawing and what keeps a code readable: the
// quiet zone, the contrast, and how much a mark may cover.
package qr

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"strings"

	"github.com/kovidgoyal/imaging"
	"github.com/yeqown/go-qrcode/v2"

	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
)

// Level is how much of a code may be lost, as ISO/IEC 18004 names it.
type Level string

// The four levels, from about 7 % to about 30 %.
const (
	Low      Level = "L"
	Medium   Level = "M"
	Quartile Level = "Q"
	High     Level = "H"
)

var levels = map[Level]qrcode.EncodeOption{
	Low:      qrcode.WithErrorCorrectionLevel(qrcode.ErrorCorrectionLow),
	Medium:   qrcode.WithErrorCorrectionLevel(qrcode.ErrorCorrectionMedium),
	Quartile: qrcode.WithErrorCorrectionLevel(qrcode.ErrorCorrectionQuart),
	High:     qrcode.WithErrorCorrectionLevel(qrcode.ErrorCorrectionHighest),
}

const (
	// QuietZone is the clear border of a code in modules (ISO/IEC 18004, 6.3.8).
	QuietZone = 4
	// NeedContrast is the least contrast of ink to ground: below it cameras in poor
	// light begin to fail (common practice; the standard asks for reflectances).
	NeedContrast = 4.0
	// markShare is how wide a mark is, of the code's width. It covers less than
	// 6 % of the modules, well within what levels Q and H make good.
	markShare = 0.22
)

// Options say how a code looks. The zero value is black on white at level M.
type Options struct {
	Level Level
	// Ink and Ground are colour codes.
	Ink, Ground string
	// Mark is put in the middle, cut round; nil for none. A code with a mark has
	// the highest level that its address allows, Q or H.
	Mark image.Image
}

// Code is an address as a code, ready to be drawn.
type Code struct {
	modules     [][]bool // without quiet zone
	ink, ground colour.RGB
	mark        *image.NRGBA
	Level       Level
}

// MaxMarked is the longest address that may have a mark, in bytes. Longer ones
// take a version from 7 on, which has an alignment pattern in the middle; with it
// covered, some cameras misread what is around (ISO/IEC 18004, tables 7 and E.1).
const (
	MaxMarked     = 74 // version 6 at level Q
	maxMarkedHigh = 58 // version 6 at level H
)

// New encodes an address. Options that would make a code cameras cannot read
// give an *invalid.Error.
func New(address string, options Options) (*Code, error) {
	var wrong invalid.List
	code := &Code{
		Level: invalid.Choice(&wrong, "level", "error correction level", options.Level, Medium, Low, Quartile, High),
		ink:   pick(&wrong, "ink", options.Ink, "#000000"), ground: pick(&wrong, "ground", options.Ground, "#ffffff"),
	}
	if options.Mark != nil {
		code.mark, code.Level = round(options.Mark), High
		switch {
		case len(address) > MaxMarked:
			wrong.Add(
				"mark",
				"This address is too long for a code with a picture in it: %d characters, and %d can be. Leave the picture out, or shorten the "+
					"address.",
				len(address),
				MaxMarked,
			)
		case len(address) > maxMarkedHigh:
			code.Level = Quartile
		}
	}
	if len(wrong) == 0 {
		code.check(&wrong)
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	made, err := qrcode.NewWith(address, levels[code.Level])
	if err == nil {
		err = made.Save((*modules)(code))
	}
	if err != nil {
		return nil, fmt.Errorf("encode %d bytes as a QR code: %w", len(address), err)
	}
	if code.mark != nil {
		code.clearMiddle()
	}
	return code, nil
}

// modules takes over what the library made (qrcode.Writer).
type modules Code

// Write implements qrcode.Writer.
func (m *modules) Write(matrix qrcode.Matrix) error {
	m.modules = matrix.Bitmap()
	return nil
}

// Close implements qrcode.Writer.
func (*modules) Close() error { return nil }

// clearMiddle leaves out whole modules under the mark and around it: half a
// module would be read as either.
func (c *Code) clearMiddle() {
	middle, radius := float64(len(c.modules))/2, c.markSide()/2+0.7
	for y, row := range c.modules {
		for x := range row {
			dx, dy := float64(x)+0.5-middle, float64(y)+0.5-middle
			row[x] = row[x] && dx*dx+dy*dy > radius*radius
		}
	}
}

func pick(wrong *invalid.List, where, code, otherwise string) colour.RGB {
	if code == "" {
		code = otherwise
	}
	picked, err := colour.Parse(code)
	if err != nil {
		wrong.Add(where, "%s.", err)
	}
	return picked
}

// check refuses colours that cameras cannot tell apart, and a code that is
// lighter than its ground, which many do not read.
func (c *Code) check(wrong *invalid.List) {
	switch ratio := c.Contrast(); {
	case c.ink.Luminance() > c.ground.Luminance():
		wrong.Add("ink", "The code must be darker than its ground; many cameras do not read it the other way round. Swap the two colours.")
	case ratio < NeedContrast:
		wrong.Add(
			"ink",
			"The contrast is %.1f to 1, and cameras in poor light need %.0f to 1. Take a darker colour for the code, or a lighter ground.",
			ratio,
			NeedContrast,
		)
	}
}

// Contrast is that of ink to ground, by WCAG 2.2.
func (c *Code) Contrast() float64 { return colour.Contrast(c.ink, c.ground) }

// size is the width of the code with its quiet zone, in modules.
func (c *Code) size() int { return len(c.modules) + 2*QuietZone }

// SVG draws the code as paths, one unit a module.
func (c *Code) SVG() ([]byte, error) {
	var path strings.Builder
	for y, row := range c.modules {
		for x := 0; x < len(row); x++ {
			if !row[x] {
				continue
			}
			run := 1
			for x+run < len(row) && row[x+run] {
				run++
			}
			fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", x+QuietZone, y+QuietZone, run, run)
			x += run - 1
		}
	}
	mark, err := c.svgMark()
	if err != nil {
		return nil, err
	}
	return fmt.Appendf(
		nil,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %[1]d %[1]d" shape-rendering="crispEdges">`+
			`<path fill="%[2]s" d="M0 0h%[1]dv%[1]dH0z"/><path fill="%[3]s" d="%[4]s"/>%[5]s</svg>`,
		c.size(),
		c.ground.Hex(),
		c.ink.Hex(),
		path.String(),
		mark,
	), nil
}

func (c *Code) svgMark() (string, error) {
	if c.mark == nil {
		return "", nil
	}
	var data bytes.Buffer
	if err := png.Encode(&data, c.mark); err != nil {
		return "", fmt.Errorf("draw the mark: %w", err)
	}
	middle, side := float64(c.size())/2, c.markSide()
	return fmt.Sprintf(`<image x="%[1]f" y="%[1]f" width="%[2]f" height="%[2]f" href="data:image/png;base64,%[3]s"/>`,
		middle-side/2, side, base64.StdEncoding.EncodeToString(data.Bytes())), nil
}

func (c *Code) markSide() float64 { return markShare * float64(len(c.modules)) }

// PNG draws the code at the largest whole number of pixels a module that fits
// into that width, at least one.
func (c *Code) PNG(width int) ([]byte, error) {
	scale := max(1, width/c.size())
	var canvas image.Image = c.flat(scale)
	if c.mark != nil {
		canvas = c.withMark(canvas, float64(scale))
	}
	var out bytes.Buffer
	if err := png.Encode(&out, canvas); err != nil {
		return nil, fmt.Errorf("draw a QR code: %w", err)
	}
	return out.Bytes(), nil
}

// flat draws the code without its mark: a byte a pixel, each row of modules once.
func (c *Code) flat(scale int) *image.Paletted {
	side := c.size() * scale
	canvas := image.NewPaletted(image.Rect(0, 0, side, side), color.Palette{opaque(c.ground), opaque(c.ink)})
	for y, row := range c.modules {
		first := (y + QuietZone) * scale * canvas.Stride
		line := canvas.Pix[first : first+side]
		for x, dark := range row {
			if dark {
				for i := range scale {
					line[(x+QuietZone)*scale+i] = 1
				}
			}
		}
		for i := 1; i < scale; i++ {
			copy(canvas.Pix[first+i*canvas.Stride:], line)
		}
	}
	return canvas
}

func (c *Code) withMark(canvas image.Image, scale float64) image.Image {
	middle, side := canvas.Bounds().Dx()/2, int(c.markSide()*scale)
	at := image.Pt(middle-side/2, middle-side/2)
	return imaging.Overlay(canvas, imaging.Resize(c.mark, side, side, imaging.Lanczos), at, 1)
}

func opaque(c colour.RGB) color.NRGBA { return color.NRGBA{c.R, c.G, c.B, 255} }

// round cuts a picture to a circle.
func round(picture image.Image) *image.NRGBA {
	const side = 160
	cut := imaging.AsNRGBA(imaging.Fill(picture, side, side, imaging.Center, imaging.Lanczos))
	for y := range side {
		for x := range side {
			dx, dy := float64(x)-side/2+0.5, float64(y)-side/2+0.5
			if dx*dx+dy*dy > side*side/4 {
				cut.SetNRGBA(x, y, color.NRGBA{})
			}
		}
	}
	return cut
}
