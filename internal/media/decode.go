package media

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"io"
	"math"
	"net/http"

	"golang.org/x/image/webp"
	"golang.org/x/sync/semaphore"

	processors "jundle/internal/turns"
)

// Limits on what is decoded.
const (
	// MaxBytes is the largest upload, in bytes.
	MaxBytes = 8 << 20
	// MaxPixels is the largest picture, in pixels: many times what is kept of it, and what unpacks within a second. The
	// studio makes larger ones smaller before they are sent. A small file can unpack into gigabytes, so this is read
	// from its head before anything is unpacked.
	MaxPixels = 8_000_000
	// maxUnpacked is the largest picture in memory, in bytes: MaxPixels of eight
	// bits for each of four colours.
	maxUnpacked = 4 * MaxPixels
)

// DecodedAtOnce is how many pictures are unpacked at one time in the process: two where that leaves a processor to
// visitors.
var DecodedAtOnce = int64(processors.Spare(2))

// turns are taken by whoever unpacks a picture; the others wait.
var turns = semaphore.NewWeighted(DecodedAtOnce)

// Turn is the permission to unpack pictures: they take many times the memory of
// their files. Done gives it back.
type Turn struct{}

// TakeTurn waits for a turn until ctx ends.
func TakeTurn(ctx context.Context) (Turn, error) {
	if err := turns.Acquire(ctx, 1); err != nil {
		return Turn{}, fmt.Errorf("wait for a turn to unpack a picture: %w", err)
	}
	return Turn{}, nil
}

// Done lets the next one have the turn. It is called once.
func (Turn) Done() { turns.Release(1) }

// decoders are those of the four formats that are taken, by what their first bytes
// say (WHATWG MIME Sniffing).
var decoders = map[string]struct {
	config func(io.Reader) (image.Config, error)
	decode func(io.Reader) (image.Image, error)
}{
	"image/png":  {png.DecodeConfig, png.Decode},
	"image/jpeg": {jpeg.DecodeConfig, jpeg.Decode},
	"image/gif":  {gif.DecodeConfig, gif.Decode},
	"image/webp": {webp.DecodeConfig, webp.Decode},
}

// TooManyPixelsError is answered for a picture larger than MaxPixels.
type TooManyPixelsError struct{ Width, Height int }

func (e *TooManyPixelsError) Error() string {
	return fmt.Sprintf("this picture has %d megapixels and the limit is %d. Save it smaller, 2,000 pixels wide is plenty",
		(e.Width*e.Height+999_999)/1_000_000, MaxPixels/1_000_000)
}

// Pixels is how many pixels a picture has, by its head; 0 for what is no picture, or says too much of itself to be one.
func Pixels(from io.Reader) int {
	config, _, err := image.DecodeConfig(from)
	if err != nil || config.Width < 1 || config.Height < 1 || config.Width > math.MaxInt32 || config.Height > math.MaxInt32/config.Width {
		return 0
	}
	return config.Width * config.Height
}

// Decode unpacks a picture of one of the four formats.
func (Turn) Decode(data []byte) (image.Image, error) {
	decoder, known := decoders[http.DetectContentType(data)]
	if !known {
		return nil, ErrNoPicture
	}
	config, err := decoder.config(bytes.NewReader(data))
	if err != nil || config.Width < 1 || config.Height < 1 {
		return nil, ErrNoPicture
	}
	if config.Width > maxUnpacked/bytesPerPixel(config.ColorModel)/config.Height {
		return nil, &TooManyPixelsError{config.Width, config.Height}
	}
	decoded, err := decoder.decode(bytes.NewReader(data))
	if err != nil {
		return nil, ErrNoPicture
	}
	return decoded, nil
}

// bytesPerPixel is what a pixel takes in memory, at least four: it is drawn into
// such a picture next.
func bytesPerPixel(model color.Model) int {
	switch model {
	case color.NRGBA64Model, color.RGBA64Model, color.Gray16Model, color.Alpha16Model:
		return 8
	}
	return 4
}
