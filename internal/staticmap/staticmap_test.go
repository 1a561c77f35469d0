package staticmap_test

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/geo"
	"jundle/internal/staticmap"
)

var quarrow = geo.Point{Lat: 41.15, Lon: -8.61}

func square(side int, fill color.Color) []byte {
	tile := image.NewRGBA(image.Rect(0, 0, side, side))
	draw.Draw(tile, tile.Bounds(), image.NewUniform(fill), image.Point{}, draw.Src)
	var out bytes.Buffer
	_ = png.Encode(&out, tile)
	return out.Bytes()
}

// chequered are tiles of two colours in turn.
func chequered(_ context.Context, tile geo.Tile) ([]byte, error) {
	return square(geo.TileSize, color.Gray{uint8(100 + 100*((tile.X+tile.Y)%2))}), nil
}

func TestAMapIsPutTogetherOfItsTilesWithAMarkInTheMiddle(t *testing.T) {
	drawn, err := staticmap.Draw(t.Context(), quarrow, 16, chequered)
	require.NoError(t, err)
	read, err := png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, staticmap.Width, staticmap.Height), read.Bounds())
	at := func(x, y int) color.RGBA { return color.RGBAModel.Convert(read.At(x, y)).(color.RGBA) }
	for _, tile := range geo.Tiles(quarrow, 16, staticmap.Width, staticmap.Height) {
		x, y := tile.Left+1, tile.Top+1
		if x < 0 || y < 0 {
			continue
		}
		want := uint8(100 + 100*((tile.X+tile.Y)%2))
		assert.InDelta(t, want, at(x, y).R, 1, "tile %v", tile)
	}
	assert.Equal(t, color.RGBA{0x14, 0x4f, 0x57, 255}, at(staticmap.Width/2, staticmap.Height/2-16))
	_, err = staticmap.Draw(t.Context(), quarrow, 16, func(context.Context, geo.Tile) ([]byte, error) {
		return square(2*geo.TileSize, color.White), nil
	})
	require.NoError(t, err, "tiles for fine screens are twice as large")
}

func TestWhatIsNoTileIsRefused(t *testing.T) {
	for name, data := range map[string][]byte{
		"a page":             []byte("<html>Not found"),
		"nothing":            nil,
		"a picture as large": square(300, color.White),
		"one that unpacks":   []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x7f\xff\xff\xff\x7f\xff\xff\xff\x08\x02" + strings.Repeat("\x00", 40)),
		"half a tile":        square(geo.TileSize, color.White)[:200],
	} {
		_, err := staticmap.Draw(t.Context(), quarrow, 3, func(context.Context, geo.Tile) ([]byte, error) { return data, nil })
		assert.ErrorIs(t, err, staticmap.ErrNoTile, name)
	}
	gone := errors.New("gone")
	_, err := staticmap.Draw(t.Context(), quarrow, 3, func(context.Context, geo.Tile) ([]byte, error) { return nil, gone })
	assert.ErrorIs(t, err, gone)
}
