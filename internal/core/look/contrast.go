package look

import (
	"math"

	"jundle/internal/core/colour"
)

// Figure is the contrast of one pair of colours on a page.
type Figure struct {
	Where  string  `json:"where" doc:"The setting it is about, such as text or buttons/edge, or blocks/{key}/style/buttons/text."`
	Says   string  `json:"says" doc:"What it is, in words."`
	Ratio  float64 `json:"ratio" doc:"WCAG 2.2 contrast against the worst point under it, rounded down to two places."`
	Need   float64 `json:"need" doc:"4.5 for text, 3 for the edge of a button."`
	Passes bool    `json:"passes"`
	Better string  `json:"better,omitempty" doc:"The nearest colour of the same hue and chroma that passes; black or white where none does."`
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
	figure := Figure{Where: where, Says: says, Ratio: roundDown(worst), Need: need, Passes: worst >= need}
	if !figure.Passes {
		better, _ := colour.Repair(c, points, need)
		figure.Better = better.Hex()
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
