package look

import (
	"fmt"
	"math"

	"jundle/internal/core/colour"
)

// Figure is the contrast of one pair of colours on a page.
type Figure struct {
	Where       string  `json:"where" doc:"The setting it is about, such as text or buttons/edge, or blocks/{key}/style/buttons/text."`
	Description string  `json:"description" doc:"What it is, in words."`
	Ratio       float64 `json:"ratio" doc:"WCAG 2.2 contrast against the worst point under it, rounded down to two places."`
	Need        float64 `json:"need" doc:"4.5 for text, 3 for the edge of a button."`
	Passes      bool    `json:"passes"`
	Better      string  `json:"better,omitempty" doc:"The nearest colour of its hue and chroma that passes; absent where none does."`
}

// Remedy is a background on which text can be read, where no colour of text can be
// on the present one.
type Remedy struct {
	Description string `json:"description" doc:"What it is, in words."`
	Ground      Ground `json:"ground"`
}

// GroundRemedy is the background nearest to the present one on which a colour for
// text can be found: a stronger veil over a picture or film, one colour of a
// gradient, the ground without its pattern. It is nil where none is needed.
func GroundRemedy(l Look) *Remedy {
	if readable(l.Ground) {
		return nil
	}
	ground := l.Ground
	switch ground.Kind {
	case PictureGround, FilmGround:
		return veiled(ground)
	case GradientGround:
		return &Remedy{Description: "One colour in place of the gradient", Ground: plainest(ground, l.Text)}
	}
	ground.Kind = PlainGround
	return &Remedy{Description: "The background without its pattern", Ground: ground}
}

// readable tells whether some colour can be read on all of a background.
func readable(g Ground) bool {
	_, ok := colour.Repair(colour.RGB{}, g.Points(), colour.NeedText)
	return ok
}

// veiled is a picture or film under the weakest veil of its colour that helps; of
// black or white where none of its own does.
func veiled(g Ground) *Remedy {
	for _, code := range []string{"", "#ffffff", "#000000"} {
		for strength := 5; strength <= 95; strength += 5 {
			next := g
			switch {
			case g.Kind == PictureGround:
				backdrop := *g.Picture
				next.Picture, backdrop.Veil = &backdrop, over(backdrop.Veil, code, strength)
			default:
				film := *g.Film
				next.Film, film.Veil = &film, over(film.Veil, code, strength)
			}
			if readable(next) {
				return &Remedy{Description: fmt.Sprintf("A veil of %d %%", strength), Ground: next}
			}
		}
	}
	g.Kind = PlainGround
	return &Remedy{Description: "The plain colour in place of it", Ground: g}
}

func over(v Veil, code string, strength int) Veil {
	if code != "" {
		v.Colour = code
	}
	v.Strength = strength
	return v
}

// plainest is the colour of a gradient on which the text is read best.
func plainest(g Ground, text string) Ground {
	best := g.Gradient.Colours[0]
	for _, code := range g.Gradient.Colours {
		if colour.Contrast(colour.MustParse(text), colour.MustParse(code)) > colour.Contrast(colour.MustParse(text), colour.MustParse(best)) {
			best = code
		}
	}
	g.Kind, g.Colour = PlainGround, best
	return g
}

// Figures holds every text and edge of a look against the worst point under it.
func Figures(l Look) []Figure {
	points := l.Ground.Points()
	figures := []Figure{
		figure("text", "Text on the background", l.Text, points, colour.NeedText),
		figure("soft", "Quieter text on the background", l.Soft, points, colour.NeedText),
	}
	return append(figures, l.Buttons.Figures("", points)...)
}

// Figures holds the text and the edge of a button against what is under them.
// points are the colours of the page's background.
func (b Buttons) Figures(where string, points []colour.RGB) []Figure {
	figures := []Figure{figure(where+"buttons/text", "Text on a button", b.Text, b.under(points), colour.NeedText)}
	switch b.Fill {
	case "filled":
		// A button is told from the page by its colour or by its edge.
		edge, ground := colour.MustParse(b.Edge), colour.MustParse(b.Ground)
		best := figure(where+"buttons/edge", "Edge of a button", b.Edge, points, colour.NeedEdge)
		if colour.Worst(ground, points) > colour.Worst(edge, points) {
			best.Ratio, best.Passes = roundDown(colour.Worst(ground, points)), colour.Worst(ground, points) >= colour.NeedEdge
			if best.Passes {
				best.Better = ""
			}
		}
		figures = append(figures, best)
	case "outlined":
		figures = append(figures, figure(where+"buttons/edge", "Edge of a button", b.Edge, points, colour.NeedEdge))
	}
	return figures
}

// under is what may lie under the text of a button.
func (b Buttons) under(points []colour.RGB) []colour.RGB {
	ground := colour.MustParse(b.Ground)
	switch b.Fill {
	case "filled":
		return []colour.RGB{ground}
	case "soft":
		mixed := make([]colour.RGB, len(points))
		for i, point := range points {
			mixed[i] = ground.Mix(point, SoftShare)
		}
		return mixed
	}
	return points
}

func figure(where, says, code string, points []colour.RGB, need float64) Figure {
	c := colour.MustParse(code)
	worst := colour.Worst(c, points)
	figure := Figure{Where: where, Description: says, Ratio: roundDown(worst), Need: need, Passes: worst >= need}
	if !figure.Passes {
		if better, ok := colour.Repair(c, points, need); ok {
			figure.Better = better.Hex()
		}
	}
	return figure
}

// roundDown keeps 4.499 from being shown as 4.50 and failing all the same.
func roundDown(ratio float64) float64 { return math.Floor(ratio*100) / 100 }

// Points are the colours that may lie under what stands on the background.
func (g Ground) Points() []colour.RGB {
	plain := []colour.RGB{colour.MustParse(g.Colour)}
	switch {
	case g.Kind == GradientGround && g.Gradient != nil:
		var points []colour.RGB
		for i := 1; i < len(g.Gradient.Colours); i++ {
			points = append(points, colour.Between(colour.MustParse(g.Gradient.Colours[i-1]), colour.MustParse(g.Gradient.Colours[i]), 17)...)
		}
		return points
	case g.Kind == PatternGround && g.Pattern != nil:
		return append(plain, colour.MustParse(g.Pattern.Ink))
	case g.Kind == PictureGround && g.Picture != nil && g.Picture.Picture != nil:
		return g.Picture.Veil.over(g.Picture.Picture.Points())
	case g.Kind == FilmGround && g.Film != nil && g.Film.Media != "":
		// A film may show any colour; its poster does not bound it.
		return g.Film.Veil.over(colour.Between(colour.RGB{}, colour.RGB{R: 255, G: 255, B: 255}, 17))
	}
	return plain
}

func (v Veil) over(points []colour.RGB) []colour.RGB {
	veil := colour.MustParse(v.Colour)
	for i, point := range points {
		points[i] = veil.Mix(point, float64(v.Strength)/100)
	}
	return points
}
