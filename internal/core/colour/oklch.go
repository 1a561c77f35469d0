package colour

import "math"

// LCH is a colour in OKLCH (CSS Color 4, section 9): lightness 0 to 1, chroma
// from 0, hue in radians.
type LCH struct{ L, C, H float64 }

// Lab is a colour in OKLab (CSS Color 4, section 9.2).
type Lab struct{ L, A, B float64 }

// OKLab converts from sRGB with the matrices of CSS Color 4, section 20.
func (c RGB) OKLab() Lab {
	r, g, b := linear(c.R), linear(c.G), linear(c.B)
	l := math.Cbrt(0.4122214708*r + 0.5363325363*g + 0.0514459929*b)
	m := math.Cbrt(0.2119034982*r + 0.6806995451*g + 0.1073969566*b)
	s := math.Cbrt(0.0883024619*r + 0.2817188376*g + 0.6299787005*b)
	return Lab{
		0.2104542553*l + 0.7936177850*m - 0.0040720468*s,
		1.9779984951*l - 2.4285922050*m + 0.4505937099*s,
		0.0259040371*l + 0.7827717662*m - 0.8086757660*s,
	}
}

// OKLCH converts from sRGB.
func (c RGB) OKLCH() LCH {
	lab := c.OKLab()
	return LCH{lab.L, math.Hypot(lab.A, lab.B), math.Atan2(lab.B, lab.A)}
}

// Distance is the Euclidean distance of two colours in OKLab.
func (a Lab) Distance(b Lab) float64 {
	return math.Sqrt((a.L-b.L)*(a.L-b.L) + (a.A-b.A)*(a.A-b.A) + (a.B-b.B)*(a.B-b.B))
}

// rgb converts to sRGB, and says whether the colour lies within it.
func (c LCH) rgb() (RGB, bool) {
	a, b := c.C*math.Cos(c.H), c.C*math.Sin(c.H)
	l := cube(c.L + 0.3963377774*a + 0.2158037573*b)
	m := cube(c.L - 0.1055613458*a - 0.0638541728*b)
	s := cube(c.L - 0.0894841775*a - 1.2914855480*b)
	in := true
	channel := func(v float64) uint8 {
		if v <= 0.0031308 {
			v *= 12.92
		} else {
			v = 1.055*math.Pow(v, 1/2.4) - 0.055
		}
		// Half a step of 8 bits is no difference.
		in = in && v > -0.5/255 && v < 1+0.5/255
		return uint8(math.Round(255 * math.Min(1, math.Max(0, v))))
	}
	rgb := RGB{
		channel(4.0767416621*l - 3.3077115913*m + 0.2309699292*s),
		channel(-1.2684380046*l + 2.6097574011*m - 0.3413193965*s),
		channel(-0.0041960863*l - 0.7034186147*m + 1.7076147010*s),
	}
	return rgb, in
}

func cube(v float64) float64 { return v * v * v }

// RGB converts to sRGB. A colour outside it keeps lightness and hue and loses
// as much chroma as it must (CSS Color 4, section 13.2).
func (c LCH) RGB() RGB {
	if rgb, in := c.rgb(); in {
		return rgb
	}
	low, high := 0.0, c.C
	for range 20 {
		middle := (low + high) / 2
		if _, in := (LCH{c.L, middle, c.H}).rgb(); in {
			low = middle
		} else {
			high = middle
		}
	}
	rgb, _ := LCH{c.L, low, c.H}.rgb()
	return rgb
}

// Repair returns the colour nearest in lightness to c, of the same hue and
// chroma in OKLCH, whose contrast against every point under it is at least
// need. When no lightness does, it returns the better of black and white, with
// false if that falls short too.
func Repair(c RGB, points []RGB, need float64) (RGB, bool) {
	if Worst(c, points) >= need {
		return c, true
	}
	const steps = 400
	from := c.OKLCH()
	for i := 1; i <= steps; i++ {
		shift := float64(i) / steps
		for _, l := range [2]float64{from.L - shift, from.L + shift} {
			if l < 0 || l > 1 {
				continue
			}
			if candidate := (LCH{l, from.C, from.H}).RGB(); Worst(candidate, points) >= need {
				return candidate, true
			}
		}
	}
	black, white := RGB{}, RGB{255, 255, 255}
	if Worst(black, points) >= Worst(white, points) {
		return black, Worst(black, points) >= need
	}
	return white, Worst(white, points) >= need
}
