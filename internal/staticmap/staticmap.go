// Package staticmap puts the picture of a map together out of tiles, with a mark where
// something is. Tiles come from a server that is not ours: what is no picture, or not of a
// tile's size, is refused.
package staticmap

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	_ "image/jpeg" // tiles may be any of these
	"image/png"

	"golang.org/x/image/draw"
	"golang.org/x/image/vector"
	_ "golang.org/x/image/webp"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/geo"
)

// Size of the picture in pixels.
const (
	Width  = 720
	Height = 405
)

// MaxTile is the largest tile that is read, in bytes.
const MaxTile = 512 << 10

// atOnce is how many tiles of one map are fetched at a time.
const atOnce = 4

// ErrNoTile is answered for what came in place of a tile.
var ErrNoTile = errors.New("this is no tile of a map")

// Draw draws the map around a point as PNG. get fetches a tile.
func Draw(ctx context.Context, at geo.Point, zoom int, get func(ctx context.Context, tile geo.Tile) ([]byte, error)) ([]byte, error) {
	tiles := geo.Tiles(at, zoom, Width, Height)
	drawn := make([]image.Image, len(tiles))
	fetching, ctx := errgroup.WithContext(ctx)
	fetching.SetLimit(atOnce)
	for i, tile := range tiles {
		fetching.Go(func() error {
			data, err := get(ctx, tile)
			if err != nil {
				return fmt.Errorf("fetch tile %d/%d/%d: %w", tile.Zoom, tile.X, tile.Y, err)
			}
			drawn[i], err = decode(data)
			return err
		})
	}
	if err := fetching.Wait(); err != nil {
		return nil, err
	}
	canvas := image.NewRGBA(image.Rect(0, 0, Width, Height))
	draw.Draw(canvas, canvas.Bounds(), image.NewUniform(color.RGBA{0xdd, 0xdd, 0xdd, 255}), image.Point{}, draw.Src)
	for i, tile := range tiles {
		into := image.Rect(tile.Left, tile.Top, tile.Left+geo.TileSize, tile.Top+geo.TileSize)
		draw.ApproxBiLinear.Scale(canvas, into, drawn[i], drawn[i].Bounds(), draw.Over, nil)
	}
	pin(canvas, Width/2, Height/2)
	var out bytes.Buffer
	if err := png.Encode(&out, canvas); err != nil {
		return nil, fmt.Errorf("encode a map: %w", err)
	}
	return out.Bytes(), nil
}

// decode reads a tile: a square picture of the usual size, or of twice that for fine
// screens. Its size is known before it is unpacked.
func decode(data []byte) (image.Image, error) {
	about, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || about.Width != about.Height || about.Width != geo.TileSize && about.Width != 2*geo.TileSize {
		return nil, ErrNoTile
	}
	read, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, ErrNoTile
	}
	return read, nil
}

// pin draws a mark whose point is at x and y: dark, with a light edge, so that it is seen on
// any map.
func pin(on draw.Image, x, y float32) {
	for _, layer := range []struct {
		radius float32
		fill   color.Color
	}{{25, color.White}, {21, color.RGBA{0x14, 0x4f, 0x57, 255}}, {8, color.White}} {
		shape := vector.NewRasterizer(Width, Height)
		middle := y - 52
		circle(shape, x, middle, layer.radius)
		if layer.radius > 10 {
			// The tail, from the sides of the head to the point.
			shape.MoveTo(x-layer.radius*0.86, middle+layer.radius*0.5)
			shape.LineTo(x+layer.radius*0.86, middle+layer.radius*0.5)
			shape.LineTo(x, y-(25-layer.radius)*1.6)
			shape.ClosePath()
		}
		shape.Draw(on, on.Bounds(), image.NewUniform(layer.fill), image.Point{})
	}
}

// circle adds a circle of four Bézier curves.
func circle(shape *vector.Rasterizer, x, y, r float32) {
	const bend = 0.5523 // of a curve that is nearly a quarter of a circle
	shape.MoveTo(x+r, y)
	shape.CubeTo(x+r, y+bend*r, x+bend*r, y+r, x, y+r)
	shape.CubeTo(x-bend*r, y+r, x-r, y+bend*r, x-r, y)
	shape.CubeTo(x-r, y-bend*r, x-bend*r, y-r, x, y-r)
	shape.CubeTo(x+bend*r, y-r, x+r, y-bend*r, x+r, y)
	shape.ClosePath()
}
