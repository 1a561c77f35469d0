// Package media turns what somebody uploaded, or a site offered, into files of
// our own: pictures decoded, turned upright, cut, scaled to the sizes a page
// shows, and encoded anew, so that no byte of the original file and none of its
// metadata is kept; drawings with all but their shapes taken out; films and
// files to download checked for what they are.
package media

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"slices"

	"jundle/internal/core/colour"
	"jundle/internal/core/picture"
)

// The longer side an original is kept at, in pixels. One with transparency becomes a PNG, which takes three times as long
// to pack as a JPEG and is several times as large, so it is kept no larger than a picture in the column is shown.
const (
	maxOriginal    = 2400
	maxSeenThrough = 1120
)

// widths are those a cut is kept at, as far as it has the pixels: from a small
// picture beside a title to a wide one on a dense screen.
var widths = []int{144, 288, 480, 720, 1120, 1680}

// quickBeyond is the width of pictures with transparency, in pixels, beyond which they are packed quickly and not as
// small as can be, which takes a second for the largest. Signs and portraits are narrower.
const quickBeyond = 480

// Use says how large a picture is shown, so that no size is kept for nothing.
type Use string

// The uses of pictures, with the widest each is kept at.
var uses = map[Use]int{"portrait": 480, "small": 288, "column": 1120, "ground": 1680}

// ErrNoPicture is answered for bytes that are no picture we can read.
var ErrNoPicture = errors.New("this file is not a picture we can read. PNG, JPEG, GIF and WebP work")

// ErrNoCut is answered for a cut that lies outside its picture.
var ErrNoCut = errors.New("this cut lies outside the picture")

// File is a file of ours.
type File struct {
	// Name is the SHA-256 of the bytes in hex, with their ending.
	Name   string
	Bytes  []byte
	Width  int // in pixels; 0 where it has none
	Height int
	// LeftOut are the names of elements of a drawing that are not in it any more.
	LeftOut []string
}

func newFile(data []byte, ending string, size image.Point) File {
	sum := sha256.Sum256(data)
	return File{Name: hex.EncodeToString(sum[:]) + ending, Bytes: data, Width: size.X, Height: size.Y}
}

// Original makes the picture that is kept whole out of what was uploaded. It
// answers ErrNoPicture or a *TooManyPixelsError.
func (t Turn) Original(upload []byte) (File, error) {
	whole, err := t.whole(upload)
	if err != nil {
		return File{}, err
	}
	return encode(whole)
}

// whole unpacks what was uploaded, no larger than originals are kept, and turns it upright.
func (t Turn) whole(upload []byte) (*image.NRGBA, error) {
	decoded, err := t.Decode(upload)
	if err != nil {
		return nil, err
	}
	most := maxOriginal
	if known, says := decoded.(interface{ Opaque() bool }); says && !known.Opaque() {
		most = maxSeenThrough
	}
	return upright(fit(decoded, most, reduce), orientation(upload)), nil
}

// Square is the middle of what was uploaded, as large as its use wants. It answers ErrNoPicture or a
// *TooManyPixelsError.
func (t Turn) Square(upload []byte, use Use) (File, error) {
	whole, err := t.whole(upload)
	if err != nil {
		return File{}, err
	}
	size := whole.Bounds().Size()
	side := min(size.X, size.Y)
	corner := image.Pt((size.X-side)/2, (size.Y-side)/2)
	shown := min(side, uses[use])
	square := crop(whole, image.Rectangle{Min: corner, Max: corner.Add(image.Pt(side, side))})
	return encode(resize(halved(square, shown, shown, 2), shown, shown))
}

// Whole is the cut that shows all of an original.
func Whole(original File) picture.Cut {
	return picture.Cut{Width: original.Width, Height: original.Height}
}

// Cut cuts an original and scales the cut to every size its use wants. It returns
// the picture as pages know it and the files it is made of. It ends with ctx.
func (t Turn) Cut(ctx context.Context, original File, cut picture.Cut, use Use) (picture.Picture, []File, error) {
	widest, known := uses[use]
	if !known {
		return picture.Picture{}, nil, fmt.Errorf("%q is no use of pictures", use)
	}
	decoded, err := t.Decode(original.Bytes)
	if err != nil {
		return picture.Picture{}, nil, err
	}
	turned := turn(fit(decoded, maxOriginal, reduce), cut)
	size := turned.Bounds().Size()
	if cut.X < 0 || cut.Y < 0 || cut.Width < 1 || cut.Height < 1 || cut.Width > size.X-cut.X || cut.Height > size.Y-cut.Y {
		return picture.Picture{}, nil, ErrNoCut
	}
	shown := crop(turned, image.Rect(cut.X, cut.Y, cut.X+cut.Width, cut.Y+cut.Height))
	var files []File
	var from image.Image = shown
	for _, width := range slices.Backward(ladder(cut.Width, widest)) {
		if err := ctx.Err(); err != nil {
			return picture.Picture{}, nil, err
		}
		height := (cut.Height*width + cut.Width/2) / cut.Width
		from = halved(from, width, height, 2) // what is halved for one size is for the narrower too
		file, err := encode(resize(from, width, height))
		if err != nil {
			return picture.Picture{}, nil, err
		}
		files = append(files, file)
	}
	slices.Reverse(files)
	largest := files[len(files)-1]
	made := picture.Picture{Media: largest.Name, Width: largest.Width, Height: largest.Height, Original: original.Name, Cut: &cut}
	for _, file := range files[:len(files)-1] {
		made.Sizes = append(made.Sizes, picture.Size{Media: file.Name, Width: file.Width})
	}
	describe(&made, shown)
	return made, files, nil
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
	small := fit(shown, 96, average)
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
		packer := png.Encoder{}
		if picture.Bounds().Dx() > quickBeyond {
			packer.CompressionLevel = png.BestSpeed
		}
		err = packer.Encode(&out, picture)
	}
	if err != nil {
		return File{}, fmt.Errorf("encode picture: %w", err)
	}
	return newFile(out.Bytes(), ending, picture.Bounds().Size()), nil
}
