package qr_test

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/kovidgoyal/imaging"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/invalid"
	"jundle/internal/qr"
)

// portrait is a picture as busy as a photograph.
func portrait() image.Image {
	random := rand.New(rand.NewPCG(1, 2))
	small := imaging.New(9, 9, color.Black)
	for i := range small.Pix {
		small.Pix[i] = byte(random.UintN(256)) | byte(255*(i%4/3))
	}
	return imaging.Resize(small, 300, 400, imaging.Linear)
}

// looks are pairs of colours and levels that are drawn in turn.
var looks = []qr.Options{
	{},
	{Level: qr.Low},
	{Level: qr.Quartile, Ink: "#0b5d6c", Ground: "#fffdf6"},
	{Level: qr.High, Ink: "#7a1f3d", Ground: "#ffe9c9"},
	{Mark: portrait()},
	{Level: qr.Low, Ink: "#1d2a6b", Mark: portrait()},
}

// randomAddress is an address as page addresses, tags and campaign tags make
// them.
func randomAddress(random *rand.Rand) string {
	word := func(most int) string {
		const letters = "abcdefghijklmnopqrstuvwxyz0123456789-"
		text := make([]byte, 1+random.IntN(most))
		for i := range text {
			text[i] = letters[random.IntN(len(letters))]
		}
		return string(text)
	}
	address := "https://" + word(20) + ".example/" + word(40) + "/" + word(20)
	if random.IntN(3) == 0 {
		address += "?utm_source=" + word(20) + "&utm_campaign=T%C3%B6pfe+" + word(60)
	}
	return address
}

// Two decoders that know nothing of each other or of us: jsQR, from npm, and
// zbarimg, from Debian's package zbar-tools.
func TestFiveHundredCodesAreReadBackByTwoDecoders(t *testing.T) {
	random, dir := rand.New(rand.NewPCG(20260601, 1)), t.TempDir()
	var addresses, files []string
	for i := range 500 {
		look, address := looks[i%len(looks)], randomAddress(random)
		for look.Mark != nil && len(address) > qr.MaxMarked {
			address = randomAddress(random)
		}
		code, err := qr.New(address, look)
		require.NoError(t, err)
		drawn, err := code.PNG(240 + random.IntN(300))
		require.NoError(t, err)
		file := filepath.Join(dir, fmt.Sprintf("%03d.png", i))
		require.NoError(t, os.WriteFile(file, drawn, 0o600))
		addresses, files = append(addresses, address), append(files, file)
	}
	for name, read := range map[string]func(*testing.T, []string) []string{"jsQR": readByJSQR, "zbarimg": readByZBar} {
		for i, said := range read(t, files) {
			assert.Equal(t, addresses[i], said, "%s, %+v", name, looks[i%len(looks)].Level)
		}
	}
}

func readByJSQR(t *testing.T, files []string) []string {
	t.Helper()
	command := exec.Command("node", append([]string{"support/decode-qr.mjs"}, files...)...)
	command.Dir = "../../e2e"
	out, err := command.Output()
	require.NoError(t, err, "node and the packages of e2e: run `make install-tests`")
	var read []*string
	require.NoError(t, json.Unmarshal(out, &read))
	said := make([]string, len(read))
	for i, each := range read {
		if each != nil {
			said[i] = *each
		}
	}
	return said
}

func readByZBar(t *testing.T, files []string) []string {
	t.Helper()
	out, err := exec.Command("zbarimg", append([]string{"--quiet", "--xml", "-Sdisable", "-Sqrcode.enable"}, files...)...).Output()
	if code := new(exec.ExitError); !errors.As(err, &code) { // it ends with a code when one cannot be read
		require.NoError(t, err, "zbar-tools: run `make install-tests`")
	}
	var read struct {
		Sources []struct {
			Href string   `xml:"href,attr"`
			Data []string `xml:"index>symbol>data"`
		} `xml:"source"`
	}
	require.NoError(t, xml.Unmarshal(out, &read))
	said := make([]string, len(files))
	for _, source := range read.Sources {
		for i, file := range files {
			if file == source.Href && len(source.Data) == 1 {
				said[i] = source.Data[0]
			}
		}
	}
	return said
}

func TestTheDrawingsHaveTheQuietZoneAndTheColoursThatWereAsked(t *testing.T) {
	code, err := qr.New("https://quarrow.example/card", qr.Options{Ink: "#0b5d6c", Ground: "#fffdf6"})
	require.NoError(t, err)
	drawn, err := code.PNG(400)
	require.NoError(t, err)
	picture, err := png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	side := picture.Bounds().Dx()
	assert.LessOrEqual(t, side, 400)
	scale := side / 37 // version 3 has 29 modules, and four clear ones on each side
	require.Equal(t, side, scale*37)
	ground, ink := color.RGBA{255, 253, 246, 255}, color.RGBA{11, 93, 108, 255}
	for i := range side {
		for edge := range 4 * scale {
			require.Equal(t, ground, picture.At(i, edge))
			require.Equal(t, ground, picture.At(side-1-edge, i))
		}
	}
	assert.Equal(t, ink, picture.At(4*scale, 4*scale), "the corner of the finder pattern")

	svg, err := code.SVG()
	require.NoError(t, err)
	assert.Contains(t, string(svg), `viewBox="0 0 37 37"`)
	assert.Contains(t, string(svg), `fill="#0b5d6c" d="M4 4h7v1h-7z`)
	require.NoError(t, xml.Unmarshal(svg, new(struct{})))
}

func TestAMarkRaisesTheLevelToTheHighest(t *testing.T) {
	code, err := qr.New("https://quarrow.example/card", qr.Options{Level: qr.Low, Mark: portrait()})
	require.NoError(t, err)
	assert.Equal(t, qr.High, code.Level)
	svg, err := code.SVG()
	require.NoError(t, err)
	assert.Contains(t, string(svg), `href="data:image/png;base64,`)
}

func TestColoursThatCamerasCannotTellApartAreRefused(t *testing.T) {
	for name, c := range map[string]struct {
		options qr.Options
		says    string
	}{
		"too pale":     {qr.Options{Ink: "#999999"}, "The contrast is 2.8 to 1"},
		"light on ink": {qr.Options{Ink: "#ffffff", Ground: "#000000"}, "darker than its ground"},
		"no colour":    {qr.Options{Ground: `"><script>`}, "not a colour code"},
		"no level":     {qr.Options{Level: "Z"}, "no error correction level"},
	} {
		_, err := qr.New("https://quarrow.example/card", c.options)
		var refused *invalid.Error
		require.ErrorAs(t, err, &refused, name)
		assert.ErrorContains(t, err, c.says)
	}
	_, err := qr.New("https://quarrow.example/"+strings.Repeat("x", 4000), qr.Options{})
	assert.ErrorContains(t, err, "encode 4024 bytes")
	_, err = qr.New("https://quarrow.example/"+strings.Repeat("x", 60), qr.Options{Mark: portrait()})
	assert.ErrorContains(t, err, "too long for a code with a picture")
}
