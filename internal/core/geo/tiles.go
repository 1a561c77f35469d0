package geo

import (
	"math"
	"strconv"
	"strings"
)

// TileSize is the side of a tile of a map, in pixels.
const TileSize = 256

// MaxZoom is the closest zoom of a map that is drawn.
const MaxZoom = 18

// maxLat is where the square of Web Mercator ends. Source: OGC 17-083r4, annex D.1,
// WebMercatorQuad.
const maxLat = 85.0511287798

// Tile is one square picture of a map, and where its corner lies in the picture that is put
// together, in pixels.
type Tile struct{ Zoom, X, Y, Left, Top int }

// Tiles are those of which a map of width by height pixels around a point is put together,
// row by row. Zoom is 0 to MaxZoom; tiles are numbered as in OGC 17-083r4, annex D.1: from
// the west at 180 degrees, and from the north. Beyond its north and south there is nothing.
func Tiles(at Point, zoom, width, height int) []Tile {
	zoom = min(max(zoom, 0), MaxZoom)
	count := 1 << zoom
	x, y := mercator(at, float64(count*TileSize))
	left, top := int(math.Floor(x))-width/2, int(math.Floor(y))-height/2
	var tiles []Tile
	for row := floorDiv(top, TileSize); row*TileSize < top+height; row++ {
		if row < 0 || row >= count {
			continue
		}
		for column := floorDiv(left, TileSize); column*TileSize < left+width; column++ {
			around := (column%count + count) % count // the world goes on in the east
			tiles = append(tiles, Tile{zoom, around, row, column*TileSize - left, row*TileSize - top})
		}
	}
	return tiles
}

// mercator is where a point lies on a map of the world as wide as it is high, in the same
// unit as its side.
func mercator(at Point, side float64) (x, y float64) {
	lat := math.Min(math.Max(at.Lat, -maxLat), maxLat) * math.Pi / 180
	return (at.Lon + 180) / 360 * side, (1 - math.Asinh(math.Tan(lat))/math.Pi) / 2 * side
}

func floorDiv(a, b int) int { return int(math.Floor(float64(a) / float64(b))) }

// TileAddress is where a tile is, by a pattern with {z}, {x} and {y} in it.
func TileAddress(pattern string, tile Tile) string {
	return strings.NewReplacer(
		"{z}", strconv.Itoa(tile.Zoom), "{x}", strconv.Itoa(tile.X), "{y}", strconv.Itoa(tile.Y),
	).Replace(pattern)
}
