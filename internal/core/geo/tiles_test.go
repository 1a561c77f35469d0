package geo

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestAMapIsAsLargeAsTheStandardSays(t *testing.T) {
	// OGC 17-083r4, annex D.1: the corner of WebMercatorQuad is at 20037508.3427892 m, and a
	// pixel of its matrix 0 is 156543.033928041 m, of matrix 18 0.597164283559817 m.
	const side = 2 * 20037508.3427892
	assert.InDelta(t, 156543.033928041, side/TileSize, 1e-6)
	assert.InDelta(t, 0.597164283559817, side/(TileSize*math.Pow(2, MaxZoom)), 1e-9)
	x, y := mercator(Point{}, side)
	assert.Equal(t, [2]float64{side / 2, side / 2}, [2]float64{x, y}, "zero and zero is the middle")
	x, y = mercator(Point{Lat: maxLat, Lon: -180}, side)
	assert.InDeltaSlice(t, []float64{0, 0}, []float64{x, y}, 0.01, "the corner is in the north west")
}

func TestTheTilesOfAMapLieAroundItsPoint(t *testing.T) {
	assert.Equal(t, []Tile{{0, 0, 0, 0, 0}}, Tiles(Point{}, 0, 256, 256))
	assert.Equal(t, []Tile{{1, 0, 0, -128, -128}, {1, 1, 0, 128, -128}, {1, 0, 1, -128, 128}, {1, 1, 1, 128, 128}},
		Tiles(Point{}, 1, 256, 256))
	assert.Equal(t, "https://tiles.example/3/1/2.png", TileAddress("https://tiles.example/{z}/{x}/{y}.png", Tile{3, 1, 2, 0, 0}))
}

func TestAMapIsCoveredWithTilesThatAreThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := Point{rapid.Float64Range(-90, 90).Draw(t, "lat"), rapid.Float64Range(-180, 180).Draw(t, "lon")}
		zoom := rapid.IntRange(0, MaxZoom).Draw(t, "zoom")
		const width, height = 640, 360
		covered := 0
		for _, tile := range Tiles(at, zoom, width, height) {
			if tile.X < 0 || tile.X >= 1<<zoom || tile.Y < 0 || tile.Y >= 1<<zoom {
				t.Fatalf("there is no tile %v", tile)
			}
			covered += overlap(tile.Left, width) * overlap(tile.Top, height)
		}
		_, y := mercator(at, float64(int(TileSize)<<zoom))
		top := int(math.Floor(y)) - height/2
		there := min(top+height, int(TileSize)<<zoom) - max(top, 0)
		if covered != width*there {
			t.Fatalf("%d of %d pixels are covered", covered, width*there)
		}
	})
}

// overlap is how much of a tile that begins at from lies in a picture of so many pixels.
func overlap(from, size int) int { return max(0, min(from+TileSize, size)-max(from, 0)) }
