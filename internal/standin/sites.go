package standin

import (
	"bytes"
	"hash/fnv"
	"image"
	"image/color"
	"image/png"
	"math"
	"net/http"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
	"golang.org/x/image/draw"
)

// Site is one page of the made-up web.
type Site struct {
	Host, Path, Title, Text string
	// Pictured sites offer a picture of themselves.
	Pictured bool
}

var sites = []Site{
	{
		"quarrow.example", "/kiln-openings", "Kiln opening dates",
		"The kiln is opened four times a year. Come at ten, the bricks are still warm.", true,
	},
	{
		"seats.quarrow.example", "/throwing", "Book a seat: throwing weekend", "Two days at the wheel, six seats, clay and lunch included.",
		true,
	},
	{
		"seats.quarrow.example", "/handbuilding", "Book a seat: hand-building evening", "Pinch, coil and slab; eight seats round the big table.",
		true,
	},
	{"seats.quarrow.example", "/gift", "A seat as a gift", "A card to give away; the date is chosen later.", false},
	{"quarrow.example", "/files/glaze-recipes.pdf", "Glaze recipes (PDF, 12 pages)", "Ash, celadon and a tenmoku that behaves.", true},
	{"shop.quarrow.example", "/seconds", "Seconds sale", "Small faults, half the price.", true},
	{
		"wavecastle.example", "/watch/forty-hours", "Forty hours of fire", "A film about a wood firing, from the first log to the last brick.",
		true,
	},
	{"quarrow.example", "/stockists", "Where to find our pots: a map", "Eleven shops and two museums.", false},
	{"tips.example", "/kiln-fund", "A tip for the kiln fund", "The arch wants new bricks.", false},
	{"letter.quarrow.example", "/join", "The studio letter", "Four times a year, before each kiln opening.", false},
}

func (s *Server) site(c *gin.Context) {
	host, path := c.Param("host"), c.Param("path")
	if s.film(c, host, path) || s.tile(c, host, path) || s.journal(c, host, path) || s.stats(c, host, path) {
		return
	}
	if path == "/picture.png" {
		c.Data(http.StatusOK, "image/png", DrawPot(host+c.Query("of")))
		return
	}
	for _, site := range sites {
		if site.Host == host && site.Path == path {
			answer(c, "site", site)
			return
		}
	}
	answer(c, "site", Site{Host: host, Path: path, Title: inventTitle(host, path), Text: "A made-up page of the demo."})
}

// inventTitle makes a title for an address nobody described.
func inventTitle(host, path string) string {
	words := strings.FieldsFunc(path, func(r rune) bool { return r == '/' || r == '-' || r == '_' })
	if len(words) == 0 {
		words = strings.Split(strings.TrimSuffix(host, ".example"), ".")
	}
	title := strings.Join(words, " ")
	first, size := utf8.DecodeRuneInString(title)
	if size == 0 {
		return title
	}
	return string(unicode.ToUpper(first)) + title[size:]
}

// glazes are pairs of a ground and a pot that go together.
var glazes = [][2]color.NRGBA{
	{{0xe8, 0xdc, 0xc6, 255}, {0x8a, 0x4b, 0x2a, 255}},
	{{0xd8, 0xe0, 0xdc, 255}, {0x2f, 0x5d, 0x62, 255}},
	{{0xef, 0xe3, 0xd0, 255}, {0x3b, 0x33, 0x2c, 255}},
	{{0xdf, 0xd9, 0xe0, 255}, {0x6a, 0x6d, 0x3e, 255}},
	{{0xf0, 0xdf, 0xcf, 255}, {0xb0, 0x6a, 0x2c, 255}},
	{{0xdc, 0xe3, 0xea, 255}, {0x2c, 0x4a, 0x6e, 255}},
}

// DrawPot draws a vessel as PNG, whose shape and glaze follow from a name, so that every
// site has a picture of its own and always the same.
func DrawPot(name string) []byte {
	form := potForm(name)
	const size, fine = 360, 540
	large := image.NewNRGBA(image.Rect(0, 0, fine, fine))
	for y := range fine {
		for x := range fine {
			u, v := float64(x)/fine-0.5, float64(y)/fine
			large.SetNRGBA(x, y, form.colour(u, v))
		}
	}
	small := image.NewNRGBA(image.Rect(0, 0, size, size))
	draw.ApproxBiLinear.Scale(small, small.Bounds(), large, large.Bounds(), draw.Src, nil)
	var out bytes.Buffer
	_ = png.Encode(&out, small)
	return out.Bytes()
}

// DrawShelf draws vessels in a row on a board as PNG, wide enough for a cover.
func DrawShelf(name string) []byte {
	const width, height, pot, count = 1240, 400, 250, 5
	wall, board := color.NRGBA{0xd3, 0xe2, 0xd8, 255}, color.NRGBA{0x8a, 0x6a, 0x4b, 255}
	shelf := image.NewNRGBA(image.Rect(0, 0, width, height))
	draw.Draw(shelf, shelf.Bounds(), image.NewUniform(wall), image.Point{}, draw.Src)
	draw.Draw(shelf, image.Rect(0, height*5/6, width, height), image.NewUniform(board), image.Point{}, draw.Src)
	for i := range count {
		if i == count/2 {
			continue // where a portrait stands before it
		}
		form := potForm(name + strings.Repeat("!", i))
		left := i*width/count + (width/count-pot)/2
		for y := range pot {
			for x := range pot {
				c := form.colour(float64(x)/pot-0.5, float64(y)/pot)
				if c != form.glaze[0] {
					// The foot of a vessel stands at 0.82 of its square.
					shelf.SetNRGBA(left+x, height*5/6-pot*82/100+y, c)
				}
			}
		}
	}
	var out bytes.Buffer
	_ = png.Encode(&out, shelf)
	return out.Bytes()
}

// form is the shape and glaze of a vessel.
type form struct {
	belly, neck, shoulder float64
	glaze                 [2]color.NRGBA
}

func potForm(name string) form {
	hash := fnv.New32a()
	_, _ = hash.Write([]byte(name))
	seed := hash.Sum32()
	return form{
		belly: 0.24 + float64(seed>>4%8)/60, neck: 0.08 + float64(seed>>8%8)/80, shoulder: 0.35 + float64(seed>>12%8)/40,
		glaze: glazes[seed%uint32(len(glazes))],
	}
}

// colour is that of one point of a vessel's square: u runs from -0.5 to 0.5
// across, v from 0 to 1 down.
func (f form) colour(u, v float64) color.NRGBA {
	belly, neck, shoulder, glaze := f.belly, f.neck, f.shoulder, f.glaze
	const top, foot = 0.2, 0.82
	t := (v - top) / (foot - top)
	if t < 0 || t > 1 {
		return glaze[0]
	}
	width := neck + (belly-neck)*math.Sin(math.Pi*math.Pow(t, 0.6+shoulder))*1.05 + 0.03*t
	if t < 0.06 {
		width = neck * 1.25
	}
	if math.Abs(u) > width {
		return glaze[0]
	}
	// A dipped band above, bare clay below, and light from the left.
	shade := 1 - 0.35*(u/width+0.3)
	body := glaze[1]
	if t > 0.72+0.03*math.Sin(u*30) {
		body = color.NRGBA{0xb9, 0x93, 0x6c, 255}
	}
	lit := func(c uint8) uint8 { return uint8(math.Max(0, math.Min(255, float64(c)*shade))) }
	return color.NRGBA{lit(body.R), lit(body.G), lit(body.B), 255}
}
