// Package media turns what somebody uploaded, or a site offered, into a picture
// of our own: decoded, cut to a square, scaled, and encoded anew, so that no
// byte of the original and none of its metadata is kept.
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

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp"
)

// Limits on what is decoded.
const (
	// MaxBytes is the largest upload, in bytes.
	MaxBytes = 8 << 20
	// MaxPixels is the largest picture, in pixels. A small file can unpack into
	// gigabytes, so this is read from its head before anything is unpacked.
	MaxPixels = 40_000_000
)

// Sizes of the squares pages show, at three times their CSS size.
const (
	Portrait  = 312
	Thumbnail = 144
)

// ErrNoPicture is answered for bytes that are no picture we can read.
var ErrNoPicture = errors.New("this file is not a picture we can read. PNG, JPEG, GIF and WebP work")

// TooManyPixelsError is answered for a picture larger than MaxPixels.
type TooManyPixelsError struct{ Width, Height int }

func (e *TooManyPixelsError) Error() string {
	return fmt.Sprintf("this picture has %d megapixels and the limit is %d. Save it smaller, 2,000 pixels wide is plenty",
		e.Width*e.Height/1_000_000, MaxPixels/1_000_000)
}

// Picture is a picture encoded by us.
type Picture struct {
	// Name is the SHA-256 of the bytes in hex, with their ending.
	Name   string
	Bytes  []byte
	Width  int
	Height int
}

// Square makes a square picture of at most side pixels out of the middle of what
// is given. It answers ErrNoPicture or a *TooManyPixelsError.
func Square(original []byte, side int) (Picture, error) {
	config, _, err := image.DecodeConfig(bytes.NewReader(original))
	if err != nil || config.Width < 1 || config.Height < 1 {
		return Picture{}, ErrNoPicture
	}
	if config.Width > MaxPixels/config.Height {
		return Picture{}, &TooManyPixelsError{config.Width, config.Height}
	}
	decoded, _, err := image.Decode(bytes.NewReader(original))
	if err != nil {
		return Picture{}, ErrNoPicture
	}
	middle := middleSquare(decoded.Bounds())
	side = min(side, middle.Dx())
	scaled := image.NewNRGBA(image.Rect(0, 0, side, side))
	draw.CatmullRom.Scale(scaled, scaled.Bounds(), decoded, middle, draw.Src, nil)
	return encode(scaled)
}

func middleSquare(bounds image.Rectangle) image.Rectangle {
	side := min(bounds.Dx(), bounds.Dy())
	corner := bounds.Min.Add(image.Pt((bounds.Dx()-side)/2, (bounds.Dy()-side)/2))
	return image.Rectangle{Min: corner, Max: corner.Add(image.Pt(side, side))}
}

// encode writes JPEG, or PNG where something shines through.
func encode(picture *image.NRGBA) (Picture, error) {
	var out bytes.Buffer
	ending := ".jpg"
	var err error
	if picture.Opaque() {
		err = jpeg.Encode(&out, picture, &jpeg.Options{Quality: 86})
	} else {
		ending = ".png"
		err = (&png.Encoder{CompressionLevel: png.BestCompression}).Encode(&out, picture)
	}
	if err != nil {
		return Picture{}, fmt.Errorf("encode picture: %w", err)
	}
	sum := sha256.Sum256(out.Bytes())
	size := picture.Bounds().Size()
	return Picture{Name: hex.EncodeToString(sum[:]) + ending, Bytes: out.Bytes(), Width: size.X, Height: size.Y}, nil
}
