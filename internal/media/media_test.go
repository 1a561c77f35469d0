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

	"github.com/kovidgoyal/imaging"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/colour"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
	"jundle/internal/fuzzing"
	"jundle/internal/media"
)

func filled(width, height int, c color.Color) *image.NRGBA {
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

// turn is taken for the length of a call: what is tested comes one at a time.
func turn(t testing.TB) media.Turn {
	taken, err := media.TakeTurn(t.Context())
	require.NoError(t, err)
	taken.Done()
	return taken
}

func original(t testing.TB, upload []byte) media.File {
	t.Helper()
	kept, err := turn(t).Original(upload)
	require.NoError(t, err)
	return kept
}

func cut(t testing.TB, of media.File, how picture.Cut, use media.Use) (picture.Picture, []media.File) {
	t.Helper()
	made, files, err := turn(t).Cut(t.Context(), of, how, use)
	require.NoError(t, err)
	return made, files
}

func TestAPictureIsCutAndKeptInTheSizesItIsShownIn(t *testing.T) {
	kept := original(t, encodePNG(t, filled(900, 600, color.NRGBA{200, 30, 30, 255})))
	made, files := cut(t, kept, picture.Cut{X: 150, Width: 600, Height: 600}, "portrait")
	assert.Equal(t, [2]int{480, 480}, [2]int{made.Width, made.Height})
	require.Len(t, files, 3)
	assert.Equal(t, []picture.Size{{Media: files[0].Name, Width: 144}, {Media: files[1].Name, Width: 288}}, made.Sizes)
	assert.Equal(t, kept.Name, made.Original)
	assert.Regexp(t, `^[0-9a-f]{64}\.jpg$`, made.Media)
	decoded, err := jpeg.Decode(bytes.NewReader(files[2].Bytes))
	require.NoError(t, err)
	red, _, _, _ := decoded.At(150, 150).RGBA()
	assert.InDelta(t, 200, red>>8, 3)
	var problems invalid.List
	made.Tidy(&problems, "picture")
	assert.Empty(t, problems, "a page takes what is made here")
}

// Four quarters of one colour each tell which way a picture was turned.
func TestACutIsFlippedThenTurnedThenCut(t *testing.T) {
	red, green, blue, white := color.NRGBA{255, 0, 0, 255}, color.NRGBA{0, 255, 0, 255}, color.NRGBA{0, 0, 255, 255}, color.NRGBA{
		255, 255,
		255, 255,
	}
	quarters := image.NewNRGBA(image.Rect(0, 0, 400, 200))
	for y := range 200 {
		for x := range 400 {
			quarters.Set(x, y, [2][2]color.NRGBA{{red, green}, {blue, white}}[y/100][x/200])
		}
	}
	kept := original(t, encodePNG(t, quarters))
	for name, c := range map[string]struct {
		cut     picture.Cut
		topLeft color.NRGBA
	}{
		"as it is":              {picture.Cut{Width: 400, Height: 200}, red},
		"flipped across":        {picture.Cut{Width: 400, Height: 200, FlipX: true}, green},
		"flipped over":          {picture.Cut{Width: 400, Height: 200, FlipY: true}, blue},
		"turned clockwise":      {picture.Cut{Width: 200, Height: 400, Turn: 90}, blue},
		"turned half":           {picture.Cut{Width: 400, Height: 200, Turn: 180}, white},
		"turned back":           {picture.Cut{Width: 200, Height: 400, Turn: 270}, green},
		"flipped, then turned":  {picture.Cut{Width: 200, Height: 400, FlipX: true, Turn: 90}, white},
		"a quarter, cut out":    {picture.Cut{X: 200, Width: 200, Height: 100}, green},
		"a quarter of a turned": {picture.Cut{X: 100, Y: 200, Width: 100, Height: 200, Turn: 90}, green},
	} {
		made, files := cut(t, kept, c.cut, "column")
		decoded, _, err := image.Decode(bytes.NewReader(files[len(files)-1].Bytes))
		require.NoError(t, err)
		assert.Equal(t, made.Width, decoded.Bounds().Dx())
		r, g, b, _ := decoded.At(made.Width/8, made.Height/8).RGBA()
		assert.InDeltaSlice(t, []int{int(c.topLeft.R), int(c.topLeft.G), int(c.topLeft.B)}, []int{int(r >> 8), int(g >> 8), int(b >> 8)}, 8, name)
	}
	for _, outside := range []picture.Cut{
		{},
		{Width: 401, Height: 10},
		{X: -1, Width: 10, Height: 10},
		{Width: 300, Height: 300},
		{X: 1 << 62, Width: 1 << 62, Height: 1},
	} {
		_, _, err := turn(t).Cut(t.Context(), kept, outside, "column")
		assert.ErrorIs(t, err, media.ErrNoCut, "%v", outside)
	}
}

func TestTheColoursOfAPictureAreNoted(t *testing.T) {
	both := filled(200, 100, color.NRGBA{0xf3, 0xee, 0xe4, 255})
	for y := range 100 {
		for x := range 40 {
			both.Set(x, y, color.NRGBA{0x0b, 0x5d, 0x6c, 255})
		}
	}
	kept := original(t, encodePNG(t, both))
	made, _ := cut(t, kept, media.Whole(kept), "ground")
	require.GreaterOrEqual(t, len(made.Palette), 2)
	near := func(want, got string) {
		a, b := colour.MustParse(want), colour.MustParse(got)
		assert.Less(t, a.OKLab().Distance(b.OKLab()), 0.02, "%s is not %s", got, want)
	}
	near("#f3eee4", made.Palette[0])
	near("#0b5d6c", made.Palette[1])
	near("#f3eee4", made.Lightest)
	near("#0b5d6c", made.Darkest)
}

func TestASmallPictureIsNotBlownUpAndSeeThroughStaysSo(t *testing.T) {
	kept := original(t, encodePNG(t, filled(40, 50, color.NRGBA{0, 0, 0, 100})))
	made, files := cut(t, kept, picture.Cut{Y: 5, Width: 40, Height: 40}, "small")
	assert.Equal(t, 40, made.Width)
	assert.Len(t, files, 1)
	assert.Regexp(t, `\.png$`, made.Media)
}

func TestALargePictureIsKeptWithinLimits(t *testing.T) {
	kept := original(t, encodePNG(t, filled(3000, 300, color.Black)))
	assert.Equal(t, [2]int{2400, 240}, [2]int{kept.Width, kept.Height})
	seenThrough := original(t, encodePNG(t, filled(3000, 300, color.NRGBA{0, 0, 0, 100})))
	assert.Equal(t, [2]int{1120, 112}, [2]int{seenThrough.Width, seenThrough.Height}, "which is larger as a PNG")
}

func TestASquareIsTheMiddleOfWhatWasUploaded(t *testing.T) {
	wide := filled(900, 600, color.NRGBA{200, 30, 30, 255})
	for y := range 600 {
		for x := range 150 {
			wide.Set(x, y, color.Black)
			wide.Set(750+x, y, color.Black)
		}
	}
	for _, c := range []struct{ upload, side int }{{900, 288}, {120, 80}} {
		sent := imaging.Resize(wide, c.upload, 0, imaging.Box)
		made, err := turn(t).Square(encodePNG(t, sent), "small")
		require.NoError(t, err)
		assert.Equal(t, [2]int{c.side, c.side}, [2]int{made.Width, made.Height}, "and no small one is blown up")
		drawn, err := jpeg.Decode(bytes.NewReader(made.Bytes))
		require.NoError(t, err)
		for _, x := range []int{1, c.side / 2, c.side - 2} {
			red, _, _, _ := drawn.At(x, c.side/2).RGBA()
			assert.Greater(t, red>>8, uint32(150), "the sides are cut off: %d", x)
		}
	}
}

func exif(t testing.TB, picture image.Image, body string) []byte {
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, picture, nil))
	segment := append([]byte{0xff, 0xe1, 0, byte(len(body) + 8)}, append([]byte("Exif\x00\x00"), body...)...)
	return append(append(append([]byte(nil), out.Bytes()[:2]...), segment...), out.Bytes()[2:]...)
}

func TestNoMetadataOfTheOriginalIsKept(t *testing.T) {
	kept := original(t, exif(t, filled(50, 50, color.Black), "GPS 52.5200 N 13.4050 E"))
	assert.NotContains(t, string(kept.Bytes), "GPS")
	assert.NotContains(t, string(kept.Bytes), "Exif")
}

// Source: Exif 2.3, tag 0x0112; 6 is what phones held upright write.
func TestAPhotographIsTurnedUpright(t *testing.T) {
	tiff := "MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00"
	kept := original(t, exif(t, filled(60, 30, color.Black), tiff))
	assert.Equal(t, [2]int{30, 60}, [2]int{kept.Width, kept.Height})
}

func TestABombIsRefusedBeforeItIsUnpacked(t *testing.T) {
	for _, size := range [][2]uint32{{10_000, 10_000}, {30_000, 30_000}, {8_000_001, 1}} {
		_, err := turn(t).Original(bomb(size[0], size[1]))
		var tooMany *media.TooManyPixelsError
		if assert.ErrorAs(t, err, &tooMany, "%v", size) && size[0] == 10_000 {
			assert.Contains(t, err.Error(), "100 megapixels and the limit is 8")
		}
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	whole := encodePNG(t, filled(10, 10, color.Black))
	for name, bytes := range map[string][]byte{
		"nothing": nil, "text": []byte("not a picture"), "drawing": []byte("<svg onload=alert(1)>"),
		"cut off": whole[:len(whole)/2], "empty": bomb(0, 5),
	} {
		_, err := turn(t).Original(bytes)
		assert.ErrorIs(t, err, media.ErrNoPicture, name)
	}
}

func FuzzOriginal(f *testing.F) {
	f.Add(encodePNG(f, filled(3, 2, color.White)))
	f.Add(bomb(100, 100))
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() { _, _ = turn(t).Original(data) })
	})
}
