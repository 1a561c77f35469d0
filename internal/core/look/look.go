// Package look holds how a page looks: its background, colours, buttons and
// type; the themes to begin from; and the contrast figures that say whether it
// can be read.
//
// It knows colours and choices only. What they become in CSS is render's.
package look

import (
	"encoding/json"

	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Look is everything about a page's appearance.
type Look struct {
	Theme   string  `json:"theme" doc:"The theme it was begun from; changes since do not change it."`
	Ground  Ground  `json:"ground"`
	Text    string  `json:"text" doc:"Colour of names, headings and text, as #rrggbb."`
	Soft    string  `json:"soft" doc:"Colour of quieter text."`
	Buttons Buttons `json:"buttons"`
	Type    Type    `json:"type"`
}

// GroundKind names what the background is.
type GroundKind string

// The kinds of background.
const (
	PlainGround    GroundKind = "colour"
	GradientGround GroundKind = "gradient"
	PatternGround  GroundKind = "pattern"
	PictureGround  GroundKind = "picture"
	FilmGround     GroundKind = "film"
)

// Ground is the background of a page. Settings of other kinds than the present
// one are kept, so that trying another loses nothing.
type Ground struct {
	Kind     GroundKind `json:"kind" enum:"colour,gradient,pattern,picture,film"`
	Colour   string     `json:"colour" doc:"The plain colour, and the one under a pattern and around a picture."`
	Gradient *Gradient  `json:"gradient,omitempty"`
	Pattern  *Pattern   `json:"pattern,omitempty"`
	Picture  *Backdrop  `json:"picture,omitempty"`
	Film     *Film      `json:"film,omitempty"`
}

// Gradient runs through two or three colours.
type Gradient struct {
	Colours []string `json:"colours" nullable:"false" doc:"Two or three."`
	Angle   int      `json:"angle" doc:"In degrees as in CSS: 0 runs upwards, 90 to the right."`
}

// Pattern is drawn over the colour of the ground.
type Pattern struct {
	Name  string `json:"name"`
	Ink   string `json:"ink" doc:"Its colour."`
	Scale int    `json:"scale" doc:"50 to 300 per cent."`
}

// Backdrop is a picture behind the page.
type Backdrop struct {
	Picture *picture.Picture `json:"picture,omitempty"`
	X       int              `json:"x" doc:"Which part stays in view: 0 (left) to 100 (right)."`
	Y       int              `json:"y" doc:"0 (top) to 100 (bottom)."`
	Blur    int              `json:"blur" doc:"0 to 40 pixels."`
	Veil    Veil             `json:"veil"`
}

// Veil is a colour laid over a picture or film, to quieten it.
type Veil struct {
	Colour   string `json:"colour"`
	Strength int    `json:"strength" doc:"0 to 95 per cent."`
}

// Film is a short silent film behind the page, played over and over; visitors
// who asked for less motion see its poster.
type Film struct {
	Media  string           `json:"media,omitempty" doc:"File name below /media/."`
	Poster *picture.Picture `json:"poster,omitempty"`
	Veil   Veil             `json:"veil"`
}

// The choices for buttons.
type (
	Fill    string
	Corners string
	Shadow  string
	Width   string
)

// Values of the choices; the first of each is what an empty one becomes.
var (
	Fills    = []Fill{"filled", "outlined", "soft", "bare"}
	Cornerss = []Corners{"rounded", "square", "pill"}
	Shadows  = []Shadow{"none", "soft", "hard"}
	Widths   = []Width{"full", "wide", "narrow"}
)

// Buttons is how buttons, and all that is drawn like them, look.
type Buttons struct {
	Fill    Fill    `json:"fill" enum:"filled,outlined,soft,bare"`
	Corners Corners `json:"corners" enum:"rounded,square,pill"`
	Shadow  Shadow  `json:"shadow" enum:"none,soft,hard"`
	Width   Width   `json:"width" enum:"full,wide,narrow"`
	Ground  string  `json:"ground" doc:"Colour of the button."`
	Text    string  `json:"text" doc:"Colour of what is written on it."`
	Edge    string  `json:"edge" doc:"Colour of its edge and shadow."`
}

// SoftShare is how much of a soft button's colour lies over the background.
const SoftShare = 0.16

// Type is the pair of fonts and their size.
type Type struct {
	Pair string `json:"pair" doc:"Which pair of fonts."`
	Step int    `json:"step" doc:"Size: -1 smaller, 0, 1 or 2 larger."`
}

// Override is what one block has of its own.
type Override struct {
	Buttons Buttons `json:"buttons"`
	Pair    string  `json:"pair" doc:"Which pair of fonts; empty for the page's."`
}

// Seen is the look without what nobody sees of it: the theme it was begun from, and
// settings of backgrounds that were tried and are kept.
func (l Look) Seen() Look {
	l.Theme = ""
	kept := l.Ground
	l.Ground = Ground{Kind: kept.Kind, Colour: kept.Colour}
	switch kept.Kind {
	case GradientGround:
		l.Ground.Gradient = kept.Gradient
	case PatternGround:
		l.Ground.Pattern = kept.Pattern
	case PictureGround:
		l.Ground.Picture = kept.Picture
	case FilmGround:
		l.Ground.Film = kept.Film
	}
	return l
}

// Tidy puts the look into the form it is stored in. A look that says nothing
// becomes the first theme.
func (l *Look) Tidy(problems *invalid.List, where string) {
	if l.Ground.Kind == "" && l.Text == "" {
		*l = Default()
	}
	l.Theme = problems.Line(where+"/theme", "The name of the theme", l.Theme, 60)
	l.Ground.tidy(problems, where+"/ground")
	tidyColour(problems, where+"/text", &l.Text)
	tidyColour(problems, where+"/soft", &l.Soft)
	l.Buttons.Tidy(problems, where+"/buttons")
	tidyPair(problems, where+"/type/pair", &l.Type.Pair)
	problems.Range(where+"/type/step", "The size of type", l.Type.Step, -1, 2)
}

// Sound returns a copy of the look in the form it is stored in, and the first
// theme for one that could not be stored, so that nothing but what Tidy lets
// through is ever drawn.
func (l Look) Sound() Look {
	var copied Look
	data, err := json.Marshal(l)
	if err == nil {
		err = json.Unmarshal(data, &copied)
	}
	var problems invalid.List
	copied.Tidy(&problems, "look")
	if err != nil || len(problems) > 0 {
		return Default()
	}
	return copied
}

// Sound returns a copy of an override that may be drawn; nil for one that could
// not be stored.
func (o *Override) Sound() *Override {
	if o == nil {
		return nil
	}
	copied := *o
	var problems invalid.List
	copied.Tidy(&problems, "style")
	if len(problems) > 0 {
		return nil
	}
	return &copied
}

func (g *Ground) tidy(problems *invalid.List, where string) {
	g.Kind = invalid.Choice(problems, where+"/kind", "kind of background", g.Kind, PlainGround, GradientGround, PatternGround, PictureGround,
		FilmGround)
	tidyColour(problems, where+"/colour", &g.Colour)
	if gradient := g.Gradient; gradient != nil {
		if n := len(gradient.Colours); n < 2 || n > 3 {
			problems.Add(where+"/gradient/colours", "A gradient has two or three colours.")
		}
		for i := range gradient.Colours {
			tidyColour(problems, where+"/gradient/colours", &gradient.Colours[i])
		}
		problems.Range(where+"/gradient/angle", "The angle", gradient.Angle, 0, 360)
	}
	if pattern := g.Pattern; pattern != nil {
		pattern.Name = invalid.Choice(problems, where+"/pattern/name", "pattern", pattern.Name, Patterns...)
		tidyColour(problems, where+"/pattern/ink", &pattern.Ink)
		problems.Range(where+"/pattern/scale", "The size of the pattern", pattern.Scale, 50, 300)
	}
	if backdrop := g.Picture; backdrop != nil {
		backdrop.Picture.Tidy(problems, where+"/picture/picture")
		problems.Range(where+"/picture/x", "The place across", backdrop.X, 0, 100)
		problems.Range(where+"/picture/y", "The place down", backdrop.Y, 0, 100)
		problems.Range(where+"/picture/blur", "The blur", backdrop.Blur, 0, 40)
		backdrop.Veil.tidy(problems, where+"/picture/veil")
	}
	if film := g.Film; film != nil {
		if film.Media != "" && !picture.IsFileName(film.Media) {
			problems.Add(where+"/film/media", "This film is not one that was uploaded here.")
		}
		film.Poster.Tidy(problems, where+"/film/poster")
		film.Veil.tidy(problems, where+"/film/veil")
	}
}

func (v *Veil) tidy(problems *invalid.List, where string) {
	tidyColour(problems, where+"/colour", &v.Colour)
	problems.Range(where+"/strength", "The veil", v.Strength, 0, 95)
}

// Tidy puts the looks of buttons into the form they are stored in.
func (b *Buttons) Tidy(problems *invalid.List, where string) {
	b.Fill = invalid.Choice(problems, where+"/fill", "way to fill a button", b.Fill, Fills...)
	b.Corners = invalid.Choice(problems, where+"/corners", "kind of corners", b.Corners, Cornerss...)
	b.Shadow = invalid.Choice(problems, where+"/shadow", "kind of shadow", b.Shadow, Shadows...)
	b.Width = invalid.Choice(problems, where+"/width", "width", b.Width, Widths...)
	tidyColour(problems, where+"/ground", &b.Ground)
	tidyColour(problems, where+"/text", &b.Text)
	tidyColour(problems, where+"/edge", &b.Edge)
}

// Tidy puts an override into the form it is stored in.
func (o *Override) Tidy(problems *invalid.List, where string) {
	if o == nil {
		return
	}
	o.Buttons.Tidy(problems, where+"/buttons")
	if o.Pair != "" {
		tidyPair(problems, where+"/pair", &o.Pair)
	}
}

// tidyColour stores a colour in one form only, so that nothing but a colour can
// ever reach a style sheet.
func tidyColour(problems *invalid.List, where string, code *string) {
	parsed, err := colour.Parse(*code)
	if err != nil {
		problems.Add(where, "“%s” is not a colour code. One looks like #0b5d6c.", shorten(invalid.OneLine(*code)))
		return
	}
	*code = parsed.Hex()
}

func tidyPair(problems *invalid.List, where string, id *string) {
	if *id == "" {
		*id = Pairs[0].ID
	}
	if _, ok := FindPair(*id); !ok {
		problems.Add(where, "“%s” is no pair of fonts we have.", shorten(invalid.OneLine(*id)))
	}
}

func shorten(text string) string {
	if runes := []rune(text); len(runes) > 40 {
		return string(runes[:40]) + "…"
	}
	return text
}

// Pictures lists the pictures of the look by their place in it.
func (l Look) Pictures() map[string]*picture.Picture {
	pictures := map[string]*picture.Picture{}
	if l.Ground.Picture != nil && l.Ground.Picture.Picture != nil {
		pictures["ground/picture/picture"] = l.Ground.Picture.Picture
	}
	if l.Ground.Film != nil && l.Ground.Film.Poster != nil {
		pictures["ground/film/poster"] = l.Ground.Film.Poster
	}
	return pictures
}
