// Package sharing draws the picture that networks show with a post that leads to a page:
// its name and its line in the page's own look, at the size that they ask for.
package sharing

import (
	"bytes"
	"cmp"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
	"strings"

	"golang.org/x/image/math/fixed"
	"golang.org/x/image/vector"

	xdraw "golang.org/x/image/draw"

	"jundle/internal/core/colour"
	"jundle/internal/core/look"
)

// Width and Height are those of the picture, in pixels: 1.91 to 1, what networks cut to.
// Common practice; no single source.
const (
	Width  = 1200
	Height = 630
)

const (
	margin   = 96
	portrait = 208
	nameSize = 84 // in pixels, where the name is short
	nameLow  = 46 // and at least
	lineSize = 36
)

// Card is what the picture shows.
type Card struct {
	Look look.Look
	// Name and Line are written on it, as far as its fonts have the letters.
	Name, Line string
	// Portrait is drawn above, in a shape as the page has it: circle, rounded, square or none;
	// nil for none.
	Portrait image.Image
	Shape    string
	// Ground is the picture behind the page; nil for none.
	Ground image.Image
	// Left: everything stands at the left edge, not in the middle.
	Left bool
}

// PNG draws the card.
func PNG(card Card) ([]byte, error) {
	card.Look = card.Look.Sound()
	canvas := image.NewRGBA(image.Rect(0, 0, Width, Height))
	card.ground(canvas)
	faces, err := facesOf(card.Look.Type.Pair)
	if err != nil {
		return nil, err
	}
	name := faces.head.fitted(card.Name, nameSize, nameLow, Width-2*margin, 2)
	line := faces.text.fitted(card.Line, lineSize, lineSize, Width-2*margin, 3)
	high := name.height() + line.height()
	if line.height() > 0 {
		high += lineSize / 2
	}
	pictured := card.Portrait != nil && card.Shape != "none"
	if pictured {
		high += portrait + margin/3
	}
	y := max((Height-high)/2, margin/3)
	if pictured {
		x := (Width - portrait) / 2
		if card.Left {
			x = margin
		}
		drawPortrait(canvas, card.Portrait, card.Shape, image.Pt(x, y))
		y += portrait + margin/3
	}
	y = name.draw(canvas, y, rgba(card.Look.Text), card.Left)
	line.draw(canvas, y+lineSize/2, rgba(card.Look.Soft), card.Left)
	var out bytes.Buffer
	err = png.Encode(&out, canvas)
	return out.Bytes(), err
}

func (c Card) ground(canvas *image.RGBA) {
	ground := c.Look.Ground
	draw.Draw(canvas, canvas.Bounds(), image.NewUniform(rgba(ground.Colour)), image.Point{}, draw.Src)
	switch {
	case ground.Kind == look.GradientGround && ground.Gradient != nil:
		drawGradient(canvas, *ground.Gradient)
	case c.Ground != nil:
		xdraw.CatmullRom.Scale(canvas, canvas.Bounds(), c.Ground, covering(c.Ground.Bounds()), xdraw.Src, nil)
		veil := look.Veil{}
		if ground.Picture != nil {
			veil = ground.Picture.Veil
		}
		over := rgba(cmp.Or(veil.Colour, ground.Colour))
		over.A = uint8(255 * veil.Strength / 100) //nolint:gosec // 0 to 95 per cent
		draw.Draw(canvas, canvas.Bounds(), image.NewUniform(color.NRGBA(over)), image.Point{}, draw.Over)
	}
}

// covering is the middle part of a picture in the shape of the card.
func covering(of image.Rectangle) image.Rectangle {
	wide, high := of.Dx(), of.Dx()*Height/Width
	if high > of.Dy() {
		wide, high = of.Dy()*Width/Height, of.Dy()
	}
	at := of.Min.Add(image.Pt((of.Dx()-wide)/2, (of.Dy()-high)/2))
	return image.Rectangle{at, at.Add(image.Pt(max(wide, 1), max(high, 1)))}
}

// drawGradient fills with colours along a line, as CSS draws them: 0 degrees runs upwards
// (CSS Images 3, s3.1).
func drawGradient(canvas *image.RGBA, gradient look.Gradient) {
	stops := make([]colour.RGB, len(gradient.Colours))
	for i, code := range gradient.Colours {
		stops[i] = colour.MustParse(code)
	}
	sin, cos := math.Sincos(float64(gradient.Angle) * math.Pi / 180)
	length := math.Abs(Width*sin) + math.Abs(Height*cos)
	for y := range Height {
		for x := range Width {
			along := ((float64(x)-Width/2)*sin-(float64(y)-Height/2)*cos)/length + 0.5
			canvas.SetRGBA(x, y, between(stops, along))
		}
	}
}

// between is the colour so far along stops, from 0 to 1.
func between(stops []colour.RGB, along float64) color.RGBA {
	at := min(max(along, 0), 1) * float64(len(stops)-1)
	i := min(int(at), len(stops)-2)
	share := at - float64(i)
	mix := func(a, b uint8) uint8 { return uint8(math.Round(float64(a)*(1-share) + float64(b)*share)) }
	a, b := stops[i], stops[i+1]
	return color.RGBA{mix(a.R, b.R), mix(a.G, b.G), mix(a.B, b.B), 255}
}

func drawPortrait(canvas *image.RGBA, of image.Image, shape string, at image.Point) {
	box := image.Rectangle{at, at.Add(image.Pt(portrait, portrait))}
	scaled := image.NewRGBA(image.Rect(0, 0, portrait, portrait))
	bounds := of.Bounds()
	side := min(bounds.Dx(), bounds.Dy())
	from := bounds.Min.Add(image.Pt((bounds.Dx()-side)/2, (bounds.Dy()-side)/2))
	xdraw.CatmullRom.Scale(scaled, scaled.Bounds(), of, image.Rectangle{from, from.Add(image.Pt(side, side))}, xdraw.Src, nil)
	radius := map[string]float32{"circle": portrait / 2, "rounded": portrait / 5}[shape]
	draw.DrawMask(canvas, box, scaled, image.Point{}, roundedMask(radius), image.Point{}, draw.Over)
}

// roundedMask lets a square through whose corners are round.
func roundedMask(radius float32) *image.Alpha {
	const side = float32(portrait)
	const bow = 0.5523 // how far a cubic's handles are, for a quarter of a circle
	path := vector.NewRasterizer(portrait, portrait)
	k := radius * bow
	path.MoveTo(radius, 0)
	path.LineTo(side-radius, 0)
	path.CubeTo(side-radius+k, 0, side, radius-k, side, radius)
	path.LineTo(side, side-radius)
	path.CubeTo(side, side-radius+k, side-radius+k, side, side-radius, side)
	path.LineTo(radius, side)
	path.CubeTo(radius-k, side, 0, side-radius+k, 0, side-radius)
	path.LineTo(0, radius)
	path.CubeTo(0, radius-k, radius-k, 0, radius, 0)
	path.ClosePath()
	mask := image.NewAlpha(image.Rect(0, 0, portrait, portrait))
	path.Draw(mask, mask.Bounds(), image.Opaque, image.Point{})
	return mask
}

func rgba(code string) color.RGBA {
	c := colour.MustParse(code)
	return color.RGBA{c.R, c.G, c.B, 255}
}

// lines are a text in one size, broken to fit.
type lines struct {
	face  *face
	lines []string
}

func (l lines) height() int { return len(l.lines) * l.face.lead() }

// draw writes the lines below a height, and returns the height below them.
func (l lines) draw(canvas *image.RGBA, y int, ink color.RGBA, left bool) int {
	for _, line := range l.lines {
		x := margin
		if !left {
			x = (Width - l.face.measure(line).Ceil()) / 2
		}
		l.face.write(canvas, line, fixed.P(x, y+l.face.ascent()), ink)
		y += l.face.lead()
	}
	return y
}

// broken breaks a text into lines no wider than so many pixels.
func broken(text string, width int, measure func(string) fixed.Int26_6) []string {
	var found []string
	line := ""
	for _, word := range strings.Fields(text) {
		longer := strings.TrimSpace(line + " " + word)
		if line != "" && measure(longer).Ceil() > width {
			found = append(found, line)
			longer = word
		}
		line = longer
	}
	if line != "" {
		found = append(found, line)
	}
	return found
}
