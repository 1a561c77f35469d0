package standin

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
)

// Where the tiles of the made-up map are, and whose they are.
const (
	Tiles   = "https://tiles.example/{z}/{x}/{y}.png"
	TilesBy = "Map by the surveyors of tiles.example"
)

// tile answers for one tile of the made-up map; false for all else.
func (s *Server) tile(c *gin.Context, host, path string) bool {
	if host != "tiles.example" {
		return false
	}
	parts := strings.Split(strings.Trim(strings.TrimSuffix(path, ".png"), "/"), "/")
	numbers := make([]int, 0, 3)
	for _, part := range parts {
		n, err := strconv.Atoi(part)
		if err != nil || n < 0 {
			break
		}
		numbers = append(numbers, n)
	}
	if len(numbers) != 3 || numbers[0] > 18 || numbers[1] >= 1<<numbers[0] || numbers[2] >= 1<<numbers[0] {
		c.AbortWithStatus(http.StatusNotFound)
		return true
	}
	c.Data(http.StatusOK, "image/png", DrawTile(numbers[0], numbers[1], numbers[2]))
	return true
}

// DrawTile draws a tile of a made-up country as PNG: its river, its roads, its parks. The
// same ground looks the same on every tile that shows it.
func DrawTile(zoom, x, y int) []byte {
	const side = 256
	drawn := image.NewPaletted(image.Rect(0, 0, side, side), color.Palette{ground, street, road, edge, water, park})
	scale := math.Pow(2, float64(16-zoom)) / 64 // blocks of houses a pixel
	for py := range side {
		for px := range side {
			drawn.Set(px, py, groundAt(float64(x*side+px)*scale, float64(y*side+py)*scale, scale))
		}
	}
	var out bytes.Buffer
	_ = png.Encode(&out, drawn)
	return out.Bytes()
}

var (
	ground = color.RGBA{0xf1, 0xec, 0xe2, 255}
	street = color.RGBA{0xff, 0xff, 0xff, 255}
	road   = color.RGBA{0xf7, 0xd9, 0x9a, 255}
	edge   = color.RGBA{0xd8, 0xc9, 0xae, 255}
	water  = color.RGBA{0xa9, 0xcd, 0xd8, 255}
	park   = color.RGBA{0xcf, 0xe0, 0xbf, 255}
)

// groundAt is what lies at a point, in blocks of houses; pixel is how many of them a pixel is.
func groundAt(u, v, pixel float64) color.Color {
	bend := 3*math.Sin(u/17) + 1.3*math.Sin(u/5.3)
	fromRiver := math.Abs(math.Mod(v+bend+6000, 60) - 30)
	// Roads bend a little, and streets end where a park is.
	a, b := u+0.5*math.Sin(v/7), v+0.4*math.Sin(u/9)
	near := func(at, every float64) float64 { return math.Abs(math.Mod(at+every*1e6, every) - every/2) }
	toRoad, toStreet := math.Min(near(a, 7), near(b, 9)), math.Min(near(a, 1.4), near(b, 1))
	isPark := math.Mod(math.Floor(a/7+0.5)*13+math.Floor(b/9+0.5)*29+4000, 11) < 1.5
	switch {
	case toRoad < math.Max(0.09, pixel):
		return road
	case toRoad < math.Max(0.09, pixel)+math.Min(0.03, pixel*1.5):
		return edge
	case fromRiver < 1.1:
		return water
	case isPark:
		return park
	case pixel < 0.06 && toStreet < 0.06:
		return street
	}
	return ground
}
