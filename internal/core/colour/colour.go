// Package colour holds the arithmetic of colours: contrast by WCAG 2.2, the
// OKLab and OKLCH spaces of CSS Color 4, the repair of a text colour that is too
// close to its ground, and palettes out of pictures.
package colour

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Contrast that text and edges need. Source: WCAG 2.2, 1.4.3 and 1.4.11.
const (
	NeedText  = 4.5
	NeedLarge = 3.0
	NeedEdge  = 3.0
)

// RGB is a colour in sRGB, 8 bits a channel, opaque.
type RGB struct{ R, G, B uint8 }

// ErrNotAColour is answered for a text that is no colour code.
var ErrNotAColour = errors.New("this is not a colour code. One looks like #0b5d6c")

// Parse reads #rgb or #rrggbb, in either case and with or without the sign.
func Parse(code string) (RGB, error) {
	digits := strings.TrimPrefix(strings.TrimSpace(code), "#")
	if len(digits) == 3 {
		digits = string([]byte{digits[0], digits[0], digits[1], digits[1], digits[2], digits[2]})
	}
	if len(digits) != 6 {
		return RGB{}, ErrNotAColour
	}
	number, err := strconv.ParseUint(digits, 16, 32)
	if err != nil {
		return RGB{}, ErrNotAColour
	}
	return RGB{uint8(number >> 16), uint8(number >> 8), uint8(number)}, nil
}

// MustParse is Parse for colours written in the program.
func MustParse(code string) RGB {
	c, err := Parse(code)
	if err != nil {
		panic(fmt.Sprintf("%q: %v", code, err))
	}
	return c
}

// Hex is the colour as #rrggbb.
func (c RGB) Hex() string { return fmt.Sprintf("#%02x%02x%02x", c.R, c.G, c.B) }

// Mix lays share (0 to 1) of the colour over ground, in sRGB as CSS does.
func (c RGB) Mix(ground RGB, share float64) RGB {
	mix := func(over, under uint8) uint8 {
		return uint8(math.Round(float64(over)*share + float64(under)*(1-share)))
	}
	return RGB{mix(c.R, ground.R), mix(c.G, ground.G), mix(c.B, ground.B)}
}

// linear undoes the transfer curve of sRGB (IEC 61966-2-1, as in WCAG 2.2 since
// its erratum on 0.04045).
func linear(channel uint8) float64 { return linearTable[channel] }

var linearTable = func() (table [256]float64) {
	for i := range table {
		v := float64(i) / 255
		if v <= 0.04045 {
			table[i] = v / 12.92
		} else {
			table[i] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	return table
}()

// Luminance is the relative luminance of WCAG 2.2, 0 (black) to 1 (white).
func (c RGB) Luminance() float64 {
	return 0.2126*linear(c.R) + 0.7152*linear(c.G) + 0.0722*linear(c.B)
}

// Contrast is the contrast ratio of WCAG 2.2, 1 to 21, whichever is lighter.
func Contrast(a, b RGB) float64 {
	la, lb := a.Luminance(), b.Luminance()
	return (math.Max(la, lb) + 0.05) / (math.Min(la, lb) + 0.05)
}

// Worst is the least contrast of a colour against any of the points under it;
// 21 when there are none.
func Worst(c RGB, points []RGB) float64 {
	worst := 21.0
	for _, point := range points {
		worst = math.Min(worst, Contrast(c, point))
	}
	return worst
}

// Between returns steps colours from a to b, both included, evenly apart in sRGB.
func Between(a, b RGB, steps int) []RGB {
	points := make([]RGB, steps)
	for i := range points {
		points[i] = b.Mix(a, float64(i)/float64(steps-1))
	}
	return points
}
