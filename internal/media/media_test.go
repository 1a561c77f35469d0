package media_test

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/media"
)

func filled(width, height int, c color.Color) image.Image {
	picture := image.NewNRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			picture.Set(x, y, c)
		}
	}
	return picture
}

func encodePNG(t testing.TB, picture image.Image) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, picture))
	return out.Bytes()
}

// Bomb is a PNG whose head promises so many pixels in a few bytes.
func bomb(width, height uint32) []byte {
	var out bytes.Buffer
	out.WriteString("\x89PNG\r\n\x1a\n")
	chunk := func(kind string, data []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(data)))
		body := append([]byte(kind), data...)
		out.Write(body)
		_ = binary.Write(&out, binary.BigEndian, crc32.ChecksumIEEE(body))
	}
	head := binary.BigEndian.AppendUint32(nil, width)
	head = binary.BigEndian.AppendUint32(head, height)
	chunk("IHDR", append(head, 8, 0, 0, 0, 0))
	var packed bytes.Buffer
	writer := zlib.NewWriter(&packed)
	_, _ = writer.Write(make([]byte, 1<<20))
	_ = writer.Close()
	chunk("IDAT", packed.Bytes())
	chunk("IEND", nil)
	return out.Bytes()
}

func TestAPictureIsCutToASquareAndScaled(t *testing.T) {
	got, err := media.Square(encodePNG(t, filled(900, 600, color.NRGBA{200, 30, 30, 255})), media.Portrait)
	require.NoError(t, err)
	assert.Equal(t, 312, got.Width)
	assert.Equal(t, 312, got.Height)
	assert.Regexp(t, `^[0-9a-f]{64}\.jpg$`, got.Name)
	decoded, err := jpeg.Decode(bytes.NewReader(got.Bytes))
	require.NoError(t, err)
	red, _, _, _ := decoded.At(150, 150).RGBA()
	assert.InDelta(t, 200, red>>8, 3)
}

func TestASmallPictureIsNotBlownUpAndSeeThroughStaysSo(t *testing.T) {
	got, err := media.Square(encodePNG(t, filled(40, 50, color.NRGBA{0, 0, 0, 100})), media.Thumbnail)
	require.NoError(t, err)
	assert.Equal(t, 40, got.Width)
	assert.Regexp(t, `\.png$`, got.Name)
}

func TestNoMetadataOfTheOriginalIsKept(t *testing.T) {
	var original bytes.Buffer
	require.NoError(t, jpeg.Encode(&original, filled(50, 50, color.Black), nil))
	secret := []byte("GPS 52.5200 N 13.4050 E")
	segment := append([]byte{0xff, 0xe1, 0, byte(len(secret) + 8)}, append([]byte("Exif\x00\x00"), secret...)...)
	tagged := append(append(append([]byte(nil), original.Bytes()[:2]...), segment...), original.Bytes()[2:]...)
	got, err := media.Square(tagged, media.Portrait)
	require.NoError(t, err)
	assert.NotContains(t, string(got.Bytes), "GPS")
	assert.NotContains(t, string(got.Bytes), "Exif")
}

func TestABombIsRefusedBeforeItIsUnpacked(t *testing.T) {
	for _, size := range [][2]uint32{{10_000, 10_000}, {30_000, 30_000}, {40_000_001, 1}} {
		_, err := media.Square(bomb(size[0], size[1]), media.Portrait)
		var tooMany *media.TooManyPixelsError
		if assert.ErrorAs(t, err, &tooMany, "%v", size) && size[0] == 10_000 {
			assert.Contains(t, err.Error(), "100 megapixels and the limit is 40")
		}
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	whole := encodePNG(t, filled(10, 10, color.Black))
	for name, bytes := range map[string][]byte{"nothing": nil, "text": []byte("not a picture"), "drawing": []byte("<svg onload=alert(1)>"), "cut off": whole[:len(whole)/2], "empty": bomb(0, 5)} {
		_, err := media.Square(bytes, media.Portrait)
		assert.ErrorIs(t, err, media.ErrNoPicture, name)
	}
}

func FuzzSquare(f *testing.F) {
	f.Add(encodePNG(f, filled(3, 2, color.White)))
	f.Add(bomb(100, 100))
	f.Fuzz(func(_ *testing.T, data []byte) { _, _ = media.Square(data, media.Thumbnail) })
}
