package media_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/media"
)

// pot is a picture of some colours, see-through in a corner where it is to be.
func pot(seeThrough bool) *image.NRGBA {
	made := image.NewNRGBA(image.Rect(0, 0, 64, 48))
	for y := range 48 {
		for x := range 64 {
			made.SetNRGBA(x, y, color.NRGBA{uint8(x * 4), uint8(y * 5), 90, 255})
		}
	}
	if seeThrough {
		made.SetNRGBA(0, 0, color.NRGBA{})
	}
	return made
}

func TestWhatWasTakenOutComesBackAsItIs(t *testing.T) {
	turn, err := media.TakeTurn(t.Context())
	require.NoError(t, err)
	defer turn.Done()
	for name, seeThrough := range map[string]bool{"a JPEG": false, "a PNG": true} {
		var upload bytes.Buffer
		require.NoError(t, png.Encode(&upload, pot(seeThrough)), name)
		kept, err := turn.Original(upload.Bytes())
		require.NoError(t, err, name)
		again, err := turn.Again(kept.Bytes)
		require.NoError(t, err, name)
		assert.Equal(t, kept, again, name)
	}
	drawing, err := media.Drawing([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>`))
	require.NoError(t, err)
	again, err := turn.Again(drawing.Bytes)
	require.NoError(t, err)
	assert.Equal(t, drawing.Name, again.Name)
}

func TestAPictureWithMoreInItIsEncodedAnew(t *testing.T) {
	turn, err := media.TakeTurn(t.Context())
	require.NoError(t, err)
	defer turn.Done()
	var bare bytes.Buffer
	require.NoError(t, jpeg.Encode(&bare, pot(false), nil))
	kept, err := turn.Again(bare.Bytes())
	require.NoError(t, err)
	assert.Equal(t, bare.Bytes(), kept.Bytes)
	secret := []byte("taken at the kiln")
	comment := append([]byte{0xff, 0xfe, 0, byte(2 + len(secret))}, secret...)
	for what, data := range map[string][]byte{
		"a comment":         append(append([]byte{0xff, 0xd8}, comment...), bare.Bytes()[2:]...),
		"something behind":  append(bytes.Clone(bare.Bytes()), secret...),
		"a second picture":  append(bytes.Clone(bare.Bytes()), bare.Bytes()...),
		"a page in a thumb": append(append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, byte(2 + len(secret))}, secret...), bare.Bytes()[2:]...),
	} {
		again, err := turn.Again(data)
		require.NoError(t, err, what)
		assert.NotEqual(t, data, again.Bytes, what)
		assert.NotContains(t, string(again.Bytes), string(secret), what)
		assert.Equal(t, 64, again.Width, what)
	}
	var large bytes.Buffer
	require.NoError(t, png.Encode(&large, image.NewGray(image.Rect(0, 0, 2401, 10))))
	_, err = turn.Again(large.Bytes())
	require.ErrorIs(t, err, media.ErrNoPicture, "none that was kept is so large")
	_, err = turn.Again([]byte("<script>alert(1)</script>"))
	require.ErrorIs(t, err, media.ErrNoDrawing)
	_, err = turn.Again([]byte("GIF89a"))
	assert.ErrorIs(t, err, media.ErrNoPicture)
}
