package colour_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/colour"
	"jundle/internal/fuzzing"
)

var white = colour.RGB{R: 255, G: 255, B: 255}

func TestCodesAreReadInBothLengthsAndNothingElseIs(t *testing.T) {
	for code, want := range map[string]string{"#0b5d6c": "#0b5d6c", "0B5D6C": "#0b5d6c", " #fff ": "#ffffff", "1a2": "#11aa22"} {
		got, err := colour.Parse(code)
		require.NoError(t, err, code)
		assert.Equal(t, want, got.Hex())
	}
	for _, code := range []string{"", "#", "#12345", "#1234567", "red", "#ggg", "#+1-2+3", "#fff}", "0x0000"} {
		_, err := colour.Parse(code)
		assert.ErrorIs(t, err, colour.ErrNotAColour, code)
	}
}

// Source: WCAG 2.2, success criterion 1.4.3 and its definition of contrast
// ratio; the values are those the accessibility trade quotes for these greys.
func TestContrastAgainstWhite(t *testing.T) {
	for code, want := range map[string]float64{"#767676": 4.54, "#777777": 4.48, "#0000ff": 8.59, "#000000": 21, "#ffffff": 1} {
		assert.InDelta(t, want, colour.Contrast(colour.MustParse(code), white), 0.005, code)
	}
}

// Source: CSS Color 4, section 9.4 and its examples of conversions: #ff0000,
// #00ff00 and #0000ff in OKLCH (rounded there to three places).
func TestOKLCHOfThePrimaries(t *testing.T) {
	for code, want := range map[string][3]float64{
		"#ff0000": {0.628, 0.258, 29.23}, "#00ff00": {0.866, 0.295, 142.5}, "#0000ff": {0.452, 0.313, 264.05}, "#ffffff": {1, 0, math.NaN()},
	} {
		got := colour.MustParse(code).OKLCH()
		assert.InDelta(t, want[0], got.L, 0.001, code)
		assert.InDelta(t, want[1], got.C, 0.001, code)
		if !math.IsNaN(want[2]) {
			assert.InDelta(t, want[2], math.Mod(got.H*180/math.Pi+360, 360), 0.1, code)
		}
	}
}

// go-colorful is a reference of its own: it converts by the same definitions in
// code of others.
func TestOKLCHAgreesWithAReferenceLibrary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := anyColour(t, "colour")
		l, chroma, hue := colorful.Color{R: float64(c.R) / 255, G: float64(c.G) / 255, B: float64(c.B) / 255}.OkLch()
		got := c.OKLCH()
		if math.Abs(got.L-l) > 0.001 || math.Abs(got.C-chroma) > 0.001 {
			t.Fatalf("%s is %.4f %.4f here and %.4f %.4f there", c.Hex(), got.L, got.C, l, chroma)
		}
		if chroma > 0.02 && math.Abs(math.Remainder(got.H-hue*math.Pi/180, 2*math.Pi)) > 0.02 {
			t.Fatalf("%s has hue %.3f here and %.3f there", c.Hex(), got.H, hue*math.Pi/180)
		}
	})
}

func anyColour(t *rapid.T, name string) colour.RGB {
	return colour.RGB{R: rapid.Uint8().Draw(t, name+" red"), G: rapid.Uint8().Draw(t, name+" green"), B: rapid.Uint8().Draw(t, name+" blue")}
}

func TestEveryColourComesBackFromOKLCH(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := anyColour(t, "colour")
		if back := c.OKLCH().RGB(); back != c {
			t.Fatalf("%s became %s", c.Hex(), back.Hex())
		}
	})
}

func TestARepairPassesAndKeepsTheHue(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c, ground := anyColour(t, "text"), anyColour(t, "ground")
		repaired, ok := colour.Repair(c, []colour.RGB{ground}, colour.NeedText)
		if !ok {
			t.Fatalf("on one colour black or white always passes: %s on %s", c.Hex(), ground.Hex())
		}
		if colour.Contrast(repaired, ground) < colour.NeedText {
			t.Fatalf("%s on %s has %.2f", repaired.Hex(), ground.Hex(), colour.Contrast(repaired, ground))
		}
		from, to := c.OKLCH(), repaired.OKLCH()
		if from.C > 0.05 && to.C > 0.05 {
			turn := math.Abs(math.Remainder(from.H-to.H, 2*math.Pi))
			if turn > 0.12 {
				t.Fatalf("%s became %s, another hue", c.Hex(), repaired.Hex())
			}
		}
	})
}

func TestARepairIsTheNearestThatPasses(t *testing.T) {
	repaired, ok := colour.Repair(colour.MustParse("#777777"), []colour.RGB{white}, colour.NeedText)
	assert.True(t, ok)
	assert.Equal(t, "#767676", repaired.Hex(), "one step darker is enough, so it is no darker than that")
	same, ok := colour.Repair(colour.MustParse("#0000ff"), []colour.RGB{white}, colour.NeedText)
	assert.True(t, ok)
	assert.Equal(t, "#0000ff", same.Hex(), "what passes is left alone")
	_, ok = colour.Repair(colour.MustParse("#777777"), colour.Between(colour.RGB{}, white, 9), colour.NeedText)
	assert.False(t, ok, "nothing passes on everything from black to white at once")
}

func TestAPaletteIsFewColoursLargestFirst(t *testing.T) {
	var pixels []colour.RGB
	add := func(n int, code string) {
		for range n {
			pixels = append(pixels, colour.MustParse(code))
		}
	}
	add(500, "#f3eee4")
	add(300, "#0b5d6c")
	add(100, "#0c5e6d") // a near-duplicate
	add(50, "#c9771b")
	var got []string
	for _, c := range colour.Palette(pixels) {
		got = append(got, c.Hex())
	}
	require.Len(t, got, 3)
	assert.Equal(t, "#f3eee4", got[0])
	assert.Equal(t, "#c9771b", got[2])
	assert.Empty(t, colour.Palette(nil))
}

func TestAPaletteNeverHoldsMoreThanSixNorTwoThatAreAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var pixels []colour.RGB
		for range rapid.IntRange(0, 200).Draw(t, "pixels") {
			pixels = append(pixels, anyColour(t, "pixel"))
		}
		palette := colour.Palette(pixels)
		if len(palette) > colour.MaxPalette || (len(pixels) > 0 && len(palette) == 0) {
			t.Fatalf("%d colours", len(palette))
		}
		for i, a := range palette {
			for _, b := range palette[:i] {
				if a.OKLab().Distance(b.OKLab()) < 0.05 {
					t.Fatalf("%s and %s are one", a.Hex(), b.Hex())
				}
			}
		}
	})
}

func ExampleRepair() {
	better, _ := colour.Repair(colour.MustParse("#c9771b"), []colour.RGB{colour.MustParse("#fffdf8")}, colour.NeedText)
	fmt.Println(better.Hex())
	// Output: #ae6300
}

func FuzzParse(f *testing.F) {
	f.Add("#0b5d6c")
	f.Fuzz(func(t *testing.T, code string) {
		fuzzing.Bounded(t, func() {
			if c, err := colour.Parse(code); err == nil {
				if again, err := colour.Parse(c.Hex()); err != nil || again != c {
					t.Fatalf("%q", code)
				}
			}
		})
	})
}
