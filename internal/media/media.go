// Package media turns what somebody uploaded, or a site offered, into files of
// our own: pictures decoded, turned upright, cut, scaled to the sizes a page
// shows, and encoded anew, so that no byte of the original file and none of its
// metadata is kept; drawings with all but their shapes taken out; films and
// files to download checked for what they are.
package media

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	_ "image/gif" // decoders are found by the first bytes
	"image/jpeg"
	"image/png"

	"github.com/disintegration/imaging"
	_ "golang.org/x/image/webp"

	"jundle/internal/core/colour"
	"jundle/internal/core/picture"
)

// Limits on what is decoded.
const (
	// MaxBytes is the largest upload, in bytes.
	MaxBytes = 8 << 20
	// MaxPixels is the largest picture, in pixels. A small file can unpack into
	// gigabytes, so this is read from its head before anything is unpacked.
	MaxPixels = 40_000_000
	// maxOriginal is the longer side an original is kept at, in pixels.
	maxOriginal = 2400
)

// widths are those a cut is kept at, as far as it has the pixels: from a small
// picture beside a title to a wide one on a dense screen.
var widths = []int{144, 288, 480, 720, 1120, 1680}

// Use says how large a picture is shown, so that no size is kept for nothing.
type Use string

// The uses of pictures, with the widest each is kept at.
var uses = map[Use]int{"portrait": 480, "small": 288, "column": 1120, "ground": 1680}

// ErrNoPicture is answered for bytes that are no picture we can read.
var ErrNoPicture = errors.New("this file is not a picture we can read. PNG, JPEG, GIF and WebP work")

// ErrNoCut is answered for a cut that lies outside its picture.
var ErrNoCut = errors.New("this cut lies outside the picture")

// TooManyPixelsError is answered for a picture larger than MaxPixels.
type TooManyPixelsError struct{ Width, Height int }

func (e *TooManyPixelsError) Error() string {
	return fmt.Sprintf("this picture has %d megapixels and the limit is %d. Save it smaller, 2,000 pixels wide is plenty",
		e.Width*e.Height/1_000_000, MaxPixels/1_000_000)
}

// File is a file of ours.
type File struct {
	// Name is the SHA-256 of the bytes in hex, with their ending.
	Name   string
	Bytes  []byte
	Width  int // in pixels; 0 where it has none
	Height int
}

func newFile(data []byte, ending string, size image.Point) File {
	sum := sha256.Sum256(data)
	return File{Name: hex.EncodeToString(sum[:]) + ending, Bytes: data, Width: size.X, Height: size.Y}
}

// Original makes the picture that is kept whole out of what was uploaded. It
// answers ErrNoPicture or a *TooManyPixelsError.
func Original(upload []byte) (File, error) {
	decoded, err := decode(upload)
	if err != nil {
		return File{}, err
	}
	if size := decoded.Bounds().Size(); size.X > maxOriginal || size.Y > maxOriginal {
		decoded = imaging.Fit(decoded, maxOriginal, maxOriginal, imaging.Lanczos)
	}
	return encode(imaging.Clone(decoded))
}

func decode(data []byte) (image.Image, error) {
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || config.Width < 1 || config.Height < 1 {
		return nil, ErrNoPicture
	}
	if config.Width > MaxPixels/config.Height {
		return nil, &TooManyPixelsError{config.Width, config.Height}
	}
	decoded, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, ErrNoPicture
	}
	return decoded, nil
}

// Whole is the cut that shows all of an original.
func Whole(original File) picture.Cut {
	return picture.Cut{Width: original.Width, Height: original.Height}
}

// Middle is the cut of the largest square in the middle of an original.
func Middle(original File) picture.Cut {
	side := min(original.Width, original.Height)
	return picture.Cut{X: (original.Width - side) / 2, Y: (original.Height - side) / 2, Width: side, Height: side}
}

// Cut cuts an original and scales the cut to every size its use wants. It
// returns the picture as pages know it and the files it is made of.
func Cut(original File, cut picture.Cut, use Use) (picture.Picture, []File, error) {
	widest, known := uses[use]
	if !known {
		return picture.Picture{}, nil, fmt.Errorf("%q is no use of pictures", use)
	}
	decoded, err := decode(original.Bytes)
	if err != nil {
		return picture.Picture{}, nil, err
	}
	turned := turn(decoded, cut)
	area := image.Rect(cut.X, cut.Y, cut.X+cut.Width, cut.Y+cut.Height)
	if cut.Width < 1 || cut.Height < 1 || !area.In(image.Rectangle{Max: turned.Bounds().Size()}) {
		return picture.Picture{}, nil, ErrNoCut
	}
	shown := imaging.Crop(turned, area)
	var files []File
	for _, width := range ladder(cut.Width, widest) {
		file, err := encode(imaging.Resize(shown, width, 0, imaging.Lanczos))
		if err != nil {
			return picture.Picture{}, nil, err
		}
		files = append(files, file)
	}
	largest := files[len(files)-1]
	made := picture.Picture{Media: largest.Name, Width: largest.Width, Height: largest.Height, Original: original.Name, Cut: &cut}
	for _, file := range files[:len(files)-1] {
		made.Sizes = append(made.Sizes, picture.Size{Media: file.Name, Width: file.Width})
	}
	describe(&made, shown)
	return made, files, nil
}

func turn(decoded image.Image, cut picture.Cut) *image.NRGBA {
	turned := imaging.Clone(decoded)
	if cut.FlipX {
		turned = imaging.FlipH(turned)
	}
	if cut.FlipY {
		turned = imaging.FlipV(turned)
	}
	switch cut.Turn {
	case 90: // the library turns the other way round
		turned = imaging.Rotate270(turned)
	case 180:
		turned = imaging.Rotate180(turned)
	case 270:
		turned = imaging.Rotate90(turned)
	}
	return turned
}

// ladder is the widths a cut of that width is kept at.
func ladder(width, widest int) []int {
	var steps []int
	for _, step := range widths {
		if step < width && step < widest {
			steps = append(steps, step)
		}
	}
	return append(steps, min(width, widest))
}

// describe notes the colours of a picture. It looks at it small: a lone pixel
// is no point that a letter could lie on.
func describe(made *picture.Picture, shown *image.NRGBA) {
	small := imaging.Fit(shown, 96, 96, imaging.Box)
	var pixels []colour.RGB
	for y := range small.Bounds().Dy() {
		for x := range small.Bounds().Dx() {
			if c := small.NRGBAAt(x, y); c.A >= 128 {
				pixels = append(pixels, colour.RGB{R: c.R, G: c.G, B: c.B})
			}
		}
	}
	if len(pixels) == 0 {
		return
	}
	darkest, lightest := pixels[0], pixels[0]
	for _, pixel := range pixels {
		if pixel.Luminance() < darkest.Luminance() {
			darkest = pixel
		}
		if pixel.Luminance() > lightest.Luminance() {
			lightest = pixel
		}
	}
	made.Darkest, made.Lightest = darkest.Hex(), lightest.Hex()
	for _, c := range colour.Palette(pixels) {
		made.Palette = append(made.Palette, c.Hex())
	}
}

// encode writes JPEG, or PNG where something shines through.
func encode(picture *image.NRGBA) (File, error) {
	var out bytes.Buffer
	ending := ".jpg"
	var err error
	if picture.Opaque() {
		err = jpeg.Encode(&out, picture, &jpeg.Options{Quality: 84})
	} else {
		ending = ".png"
		err = (&png.Encoder{CompressionLevel: png.BestCompression}).Encode(&out, picture)
	}
	if err != nil {
		return File{}, fmt.Errorf("encode picture: %w", err)
	}
	return newFile(out.Bytes(), ending, picture.Bounds().Size()), nil
}
