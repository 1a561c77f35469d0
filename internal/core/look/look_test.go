package look_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
	"jundle/internal/core/look"
	"jundle/internal/core/picture"
)

func tidied(t *testing.T, l look.Look) (look.Look, []invalid.Problem) {
	t.Helper()
	var problems invalid.List
	l.Tidy(&problems, "look")
	return l, problems
}

func TestEveryShippedThemePassesInEveryPairOfColours(t *testing.T) {
	themes := look.Themes()
	require.GreaterOrEqual(t, len(themes), 10)
	darkOnes := 0
	for _, theme := range themes {
		for _, figure := range look.Figures(theme.Look) {
			assert.True(t, figure.Passes, "%s: %s has %.2f of %.1f, %s would do", theme.Name, figure.Description,
				figure.Ratio, figure.Need, figure.Better)
		}
		tidy, problems := tidied(t, theme.Look)
		assert.Empty(t, problems, theme.Name)
		assert.Equal(t, theme.Look, tidy, "%s is stored as it ships", theme.Name)
		if theme.Dark {
			darkOnes++
		}
	}
	assert.Greater(t, darkOnes, 3)
	assert.Less(t, darkOnes, len(themes)-3)
}

func TestALookThatSaysNothingIsTheFirstTheme(t *testing.T) {
	tidy, problems := tidied(t, look.Look{})
	assert.Empty(t, problems)
	assert.Equal(t, look.Themes()[0].Look, tidy)
}

func TestNothingButAColourIsStoredAsOne(t *testing.T) {
	for _, code := range []string{"red;}body{display:none", "#fff}", "url(x)", "#12", "", "rgb(1,2,3)", "#gggggg"} {
		l := look.Default()
		l.Text = code
		_, problems := tidied(t, l)
		require.Len(t, problems, 1, code)
		assert.Equal(t, "look/text", problems[0].Where)
	}
	l := look.Default()
	l.Text = " FFF "
	tidy, problems := tidied(t, l)
	assert.Empty(t, problems)
	assert.Equal(t, "#ffffff", tidy.Text)
}

func TestWhatIsNoChoiceIsRefusedByName(t *testing.T) {
	for where, change := range map[string]func(*look.Look){
		"look/type/pair":               func(l *look.Look) { l.Type.Pair = "x; } * { color: red" },
		"look/type/step":               func(l *look.Look) { l.Type.Step = 9 },
		"look/buttons/fill":            func(l *look.Look) { l.Buttons.Fill = "shiny" },
		"look/buttons/corners":         func(l *look.Look) { l.Buttons.Corners = "99px" },
		"look/ground/kind":             func(l *look.Look) { l.Ground.Kind = "hologram" },
		"look/ground/gradient/colours": func(l *look.Look) { l.Ground.Gradient = &look.Gradient{Colours: []string{"#000000"}} },
		"look/ground/gradient/angle": func(l *look.Look) {
			l.Ground.Gradient = &look.Gradient{Colours: []string{"#000000", "#ffffff"}, Angle: 400}
		},
		"look/ground/pattern/name": func(l *look.Look) {
			l.Ground.Pattern = &look.Pattern{Name: "../x", Ink: "#000000", Scale: 100}
		},
		"look/ground/picture/blur": func(l *look.Look) {
			l.Ground.Picture = &look.Backdrop{Blur: 41, Veil: look.Veil{Colour: "#000000"}}
		},
		"look/ground/picture/picture": func(l *look.Look) {
			l.Ground.Picture = &look.Backdrop{
				Picture: &picture.Picture{Media: "../../etc/passwd", Width: 1, Height: 1},
				Veil:    look.Veil{Colour: "#000000"},
			}
		},
		"look/ground/film/media": func(l *look.Look) {
			l.Ground.Film = &look.Film{Media: "film.mp4", Veil: look.Veil{Colour: "#000000"}}
		},
	} {
		l := look.Default()
		change(&l)
		_, problems := tidied(t, l)
		if assert.Len(t, problems, 1, where) {
			assert.Equal(t, where, problems[0].Where)
		}
	}
}

func TestTheWorstPointUnderTheTextCounts(t *testing.T) {
	shot := &picture.Picture{Darkest: "#202020", Lightest: "#f0f0f0"}
	black := look.Veil{Colour: "#000000"}
	strong := look.Veil{Colour: "#000000", Strength: 80}
	l := look.Default()
	l.Text = "#ffffff"
	white := colour.MustParse("#ffffff")
	for _, c := range []struct {
		name   string
		ground look.Ground
		worst  string
	}{
		{"a plain colour", look.Ground{Kind: "colour", Colour: "#767676"}, "#767676"},
		{"the lightest end of a gradient", look.Ground{
			Kind: "gradient", Colour: "#000000",
			Gradient: &look.Gradient{Colours: []string{"#000000", "#999999", "#222222"}},
		}, "#999999"},
		{"the ink of a pattern", look.Ground{Kind: "pattern", Colour: "#000000", Pattern: &look.Pattern{Ink: "#888888"}}, "#888888"},
		{
			"the lightest point of a picture",
			look.Ground{Kind: "picture", Colour: "#000000", Picture: &look.Backdrop{Picture: shot, Veil: black}},
			"#f0f0f0",
		},
		{
			"the same under a veil",
			look.Ground{Kind: "picture", Colour: "#000000", Picture: &look.Backdrop{Picture: shot, Veil: strong}},
			"#303030",
		},
		{"white, in a film under a veil", look.Ground{Kind: "film", Colour: "#000000", Film: &look.Film{Media: "x", Veil: strong}}, "#333333"},
	} {
		l.Ground = c.ground
		figure := look.Figures(l)[0]
		assert.InDelta(t, colour.Contrast(white, colour.MustParse(c.worst)), figure.Ratio, 0.01, c.name)
		assert.Equal(t, figure.Ratio >= 4.5, figure.Passes, c.name)
	}
}

func TestATextThatCannotBeReadAnywhereOnAPictureIsToldSo(t *testing.T) {
	l := look.Default()
	l.Ground = look.Ground{Kind: "picture", Colour: "#000000", Picture: &look.Backdrop{Picture: &picture.Picture{
		Darkest:  "#000000",
		Lightest: "#ffffff",
	}, Veil: look.Veil{Colour: "#000000"}}}
	l.Text = "#777777"
	assert.Less(t, look.Figures(l)[0].Ratio, 1.2, "some point of the picture is as grey as the text")
}

func TestAButtonIsToldFromThePageByItsColourOrItsEdge(t *testing.T) {
	points := []colour.RGB{colour.MustParse("#ffffff")}
	edgeOf := func(b look.Buttons) look.Figure {
		for _, figure := range b.Figures("", points) {
			if figure.Where == "buttons/edge" {
				return figure
			}
		}
		return look.Figure{Passes: true}
	}
	assert.True(t, edgeOf(look.Buttons{Fill: "filled", Ground: "#000000", Text: "#ffffff", Edge: "#ffffff"}).Passes)
	assert.True(t, edgeOf(look.Buttons{Fill: "filled", Ground: "#ffffff", Text: "#000000", Edge: "#000000"}).Passes)
	faint := edgeOf(look.Buttons{Fill: "filled", Ground: "#ffffff", Text: "#000000", Edge: "#eeeeee"})
	assert.False(t, faint.Passes)
	assert.NotEmpty(t, faint.Better)
	assert.False(t, edgeOf(look.Buttons{Fill: "outlined", Ground: "#000000", Text: "#000000", Edge: "#eeeeee"}).Passes)
	assert.True(t, edgeOf(look.Buttons{Fill: "bare", Ground: "#ffffff", Text: "#000000", Edge: "#ffffff"}).Passes,
		"a bare button has no edge to see")
}

func TestWhatCouldNotBeStoredIsNeverDrawn(t *testing.T) {
	l := look.Default()
	l.Ground.Gradient = &look.Gradient{Colours: []string{" FFF ", "#000000"}, Angle: 10}
	sound := l.Sound()
	assert.Equal(t, "#ffffff", sound.Ground.Gradient.Colours[0])
	assert.Equal(t, " FFF ", l.Ground.Gradient.Colours[0], "the look handed in is left alone")
	l.Soft = "expression(alert(1))"
	assert.Equal(t, look.Default(), l.Sound())
	style := &look.Override{Buttons: look.Default().Buttons, Pair: "almanac"}
	assert.Equal(t, style, style.Sound())
	style.Pair = "x;}"
	assert.Nil(t, style.Sound())
	var none *look.Override
	assert.Nil(t, none.Sound())
}

func TestNoRepairIsOfferedThatDoesNotPass(t *testing.T) {
	l := look.Default()
	l.Ground = look.Ground{Kind: look.GradientGround, Colour: "#ffffff", Gradient: &look.Gradient{Colours: []string{"#ffffff", "#000000"}}}
	for _, figure := range look.Figures(l) {
		if figure.Where == "text" || figure.Where == "soft" {
			assert.False(t, figure.Passes)
			assert.Empty(t, figure.Better, "no one colour can be read on white and on black")
		}
	}
}

func TestWhereNoColourCanBeReadAnotherBackgroundIsOffered(t *testing.T) {
	picked := func(codes ...string) *picture.Picture { return &picture.Picture{Palette: codes} }
	for name, ground := range map[string]look.Ground{
		"a gradient from white to black": {Kind: look.GradientGround, Gradient: &look.Gradient{Colours: []string{"#ffffff", "#000000"}}},
		"a pattern of grey on black": {
			Kind: look.PatternGround, Colour: "#000000", Pattern: &look.Pattern{Name: "dots", Ink: "#949494", Scale: 100},
		},
		"a picture of everything": {Kind: look.PictureGround, Picture: &look.Backdrop{
			Picture: picked("#ffffff", "#000000"), Veil: look.Veil{Colour: "#ffffff"},
		}},
		"a picture under a grey veil": {Kind: look.PictureGround, Picture: &look.Backdrop{
			Picture: picked("#ffffff", "#000000"), Veil: look.Veil{Colour: "#777777", Strength: 10},
		}},
		"a film": {Kind: look.FilmGround, Film: &look.Film{Media: "a.webm", Veil: look.Veil{Colour: "#000000", Strength: 5}}},
	} {
		if ground.Colour == "" {
			ground.Colour = "#ffffff"
		}
		l := look.Default()
		l.Ground = ground
		remedy := look.GroundRemedy(l)
		require.NotNil(t, remedy, name)
		l.Ground = remedy.Ground
		assert.Nil(t, look.GroundRemedy(l), name)
		for _, figure := range look.Figures(l) {
			if figure.Where == "text" || figure.Where == "soft" {
				assert.True(t, figure.Passes || figure.Better != "", "%s: then a colour is found for %s", name, figure.Description)
			}
		}
	}
	for _, theme := range look.Themes() {
		assert.Nil(t, look.GroundRemedy(theme.Look), theme.Name)
	}
}
