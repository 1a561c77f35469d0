package sharing_test

import (
	"bytes"
	"image"
	"image/png"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/colour"
	"jundle/internal/core/look"
	"jundle/internal/sharing"
)

func drawn(t testing.TB, card sharing.Card) image.Image {
	t.Helper()
	data, err := sharing.PNG(card)
	require.NoError(t, err)
	if to := os.Getenv("SHARING_PNG"); to != "" {
		require.NoError(t, os.WriteFile(to, data, 0o600))
	}
	picture, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 1200, 630), picture.Bounds())
	return picture
}

// inked is how many pixels are nearly of a colour.
func inked(picture image.Image, code string) (count int) {
	want := colour.MustParse(code)
	for y := range 630 {
		for x := range 1200 {
			r, g, b, _ := picture.At(x, y).RGBA()
			if int(r>>8) == int(want.R) && int(g>>8) == int(want.G) && int(b>>8) == int(want.B) {
				count++
			}
		}
	}
	return count
}

func TestEveryThemeDrawsItsNameInItsOwnInkAndFont(t *testing.T) {
	for _, theme := range look.Themes() {
		card := sharing.Card{Look: theme.Look, Name: "Quarrow Clay", Line: "Wood-fired pots from a small studio"}
		assert.Greater(t, inked(drawn(t, card), theme.Look.Text), 2000, theme.Name)
	}
}

func TestLettersThatTheFontsDoNotHaveLeaveTheLookAlone(t *testing.T) {
	plain := look.Default()
	for name, written := range map[string]bool{
		"Zażółć gęślą jaźń": true, "Quarrow — Ægir’s œuvre": true, "窯元クォーロウ": false, "طين": false,
	} {
		count := inked(drawn(t, sharing.Card{Look: plain, Name: name}), plain.Text)
		assert.Equal(t, written, count > 0, name)
	}
}

func TestALongNameStaysOnTheCard(t *testing.T) {
	plain := look.Default()
	for _, left := range []bool{false, true} {
		picture := drawn(t, sharing.Card{
			Look: plain, Name: strings.Repeat("Quarrow Clay and Daughters ", 3), Line: strings.Repeat("pots ", 80), Left: left, Shape: "circle",
			Portrait: image.NewGray(image.Rect(0, 0, 400, 300)),
		})
		ground := picture.At(2, 2)
		for y := range 630 {
			for _, x := range []int{0, 40, 1160, 1199} {
				require.Equal(t, ground, picture.At(x, y), "nothing runs over the edge at %d, %d", x, y)
			}
		}
		for x := range 1200 {
			require.Equal(t, ground, picture.At(x, 0))
			require.Equal(t, ground, picture.At(x, 629))
		}
	}
}

func TestGradientsRunAsInCSS(t *testing.T) {
	wearing := look.Default()
	wearing.Ground = look.Ground{
		Kind: look.GradientGround, Colour: "#000000", Gradient: &look.Gradient{Colours: []string{"#000000", "#ffffff"}, Angle: 90},
	}
	picture := drawn(t, sharing.Card{Look: wearing})
	light := func(x, y int) int { r, _, _, _ := picture.At(x, y).RGBA(); return int(r >> 8) }
	assert.Less(t, light(0, 300), 3, "90 degrees begin at the left")
	assert.Greater(t, light(1199, 300), 252)
	assert.InDelta(t, 128, light(600, 10), 2)
}

func BenchmarkPNG(b *testing.B) {
	for b.Loop() {
		drawn(b, sharing.Card{Look: look.Default(), Name: "Quarrow Clay", Line: "Wood-fired pots"})
	}
}
