package picture_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/picture"
)

func TestNothingButAFileOfOursIsAPicture(t *testing.T) {
	digest := strings.Repeat("a", 64)
	for _, name := range []string{digest + ".jpg", digest + ".png", digest + ".svg"} {
		assert.True(t, picture.IsName(name), name)
	}
	for _, name := range []string{
		"", digest, digest + ".mp4", digest + ".html", "../" + digest + ".jpg", strings.ToUpper(digest) + ".jpg",
		digest + ".jpg\n", digest + ".jpg/x",
	} {
		assert.False(t, picture.IsName(name), name)
	}
	assert.True(t, picture.IsFileName(digest+".bin"))
	assert.False(t, picture.IsFileName(digest+".exe"))
}

func TestAPictureThatWasTamperedWithIsRefused(t *testing.T) {
	for name, change := range map[string]func(*picture.Picture){
		"its file":     func(p *picture.Picture) { p.Media = "x" },
		"a size":       func(p *picture.Picture) { p.Sizes[0].Media = `x" onerror="alert(1)` },
		"its original": func(p *picture.Picture) { p.Original = "/etc/passwd" },
		"no width":     func(p *picture.Picture) { p.Width = 0 },
		"too wide":     func(p *picture.Picture) { p.Width = 1 << 40 },
		"many sizes":   func(p *picture.Picture) { p.Sizes = make([]picture.Size, 99) },
		"a colour":     func(p *picture.Picture) { p.Darkest = "red;}" },
		"its palette":  func(p *picture.Picture) { p.Palette = []string{"#fff"} },
	} {
		tampered := pagetest.Picture("a")
		change(tampered)
		var problems invalid.List
		tampered.Tidy(&problems, "picture")
		assert.Len(t, problems, 1, name)
	}
	var problems invalid.List
	var none *picture.Picture
	none.Tidy(&problems, "picture")
	pagetest.Picture("a").Tidy(&problems, "picture")
	assert.Empty(t, problems)
	assert.Empty(t, none.Names())
}

func TestWhatLiesUnderATextOnAPictureRunsFromItsDarkestToItsLightest(t *testing.T) {
	points := (&picture.Picture{Darkest: "#101010", Lightest: "#f0f0f0"}).Points()
	require.NotEmpty(t, points)
	assert.Equal(t, "#101010", points[0].Hex())
	assert.Equal(t, "#f0f0f0", points[len(points)-1].Hex())
	unknown := (&picture.Picture{}).Points()
	assert.Equal(t, "#000000", unknown[0].Hex(), "a picture nothing is known of may hold anything")
	assert.Equal(t, "#ffffff", unknown[len(unknown)-1].Hex())
}
