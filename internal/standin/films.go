package standin

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"
)

// filmHosts are the networks that play films, and the shape of their players.
var filmHosts = map[string]struct {
	name          string
	width, height int
}{
	"wavecastle.example": {"Wavecastle", 640, 360},
	"reelpond.example":   {"Reelpond", 360, 640},
}

// Film is the address of the film on a page; empty for a page without one.
func (s Site) Film() string {
	if _, plays := filmHosts[s.Host]; plays && strings.HasPrefix(s.Path, "/watch/") {
		return "https://" + s.Host + s.Path
	}
	return ""
}

// film answers for what a network that plays films has beside its pages: its oEmbed
// endpoint, its player, its stills. It is false for all else.
func (s *Server) film(c *gin.Context, host, path string) bool {
	if player, ok := strings.CutPrefix(host, "player."); ok && filmHosts[player].name != "" {
		c.Header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
		answer(c, "player", inventTitle(host, path))
		return true
	}
	network, plays := filmHosts[host]
	switch {
	case !plays:
		return false
	case strings.HasPrefix(path, "/stills/"):
		c.Data(http.StatusOK, "image/png", DrawFire())
		return true
	case path != "/oembed":
		return false
	}
	asked, err := url.Parse(c.Query("url"))
	if err != nil || !strings.HasPrefix(asked.Path, "/watch/") {
		c.AbortWithStatus(http.StatusNotFound)
		return true
	}
	name := strings.TrimPrefix(asked.EscapedPath(), "/watch/")
	title := inventTitle(host, "/"+name)
	for _, site := range sites {
		if site.Host == host && site.Path == asked.Path {
			title = site.Title
		}
	}
	c.JSON(http.StatusOK, gin.H{
		"version": "1.0", "type": "video", "title": title, "provider_name": network.name,
		"width": network.width, "height": network.height, "thumbnail_url": "https://" + host + "/stills/" + name + ".png",
		"html": `<iframe src="https://player.` + host + "/" + name + `" allowfullscreen></iframe>`,
	})
	return true
}

// DrawFire draws the mouth of a kiln at night as PNG, in the shape of a wide film.
func DrawFire() []byte {
	const width, height = 960, 540
	drawn := image.NewNRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			u, v := (float64(x)-width/2)/height, float64(y)/height
			drawn.SetNRGBA(x, y, fireAt(u, v))
		}
	}
	var out bytes.Buffer
	_ = png.Encode(&out, drawn)
	return out.Bytes()
}

// fireAt is the colour of one point: u runs across from the middle, v from 0 to 1 down,
// both in heights.
func fireAt(u, v float64) color.NRGBA {
	const floor, top, half = 0.86, 0.30, 0.30
	// An arch: straight below, round above.
	side := math.Abs(u)
	inMouth := v < floor && side < half && (v > top+half || math.Hypot(u, v-top-half) < half)
	if inMouth {
		flame := 0.55 + 0.25*math.Sin(u*21+v*5) + 0.2*math.Sin(u*47-v*13)
		heat := math.Min(1, math.Max(0, (v-top)/(floor-top)*1.1+flame*0.35-side))
		return color.NRGBA{uint8(120 + 135*heat), uint8(30 + 165*heat*heat), uint8(10 + 90*heat*heat*heat), 255}
	}
	if v >= floor {
		glow := math.Exp(-side * 2.4)
		return color.NRGBA{uint8(24 + 110*glow), uint8(20 + 50*glow), uint8(18 + 14*glow), 255}
	}
	// Bricks, lit by the mouth.
	row := math.Floor(v * 18)
	joint := math.Mod(v*18, 1) < 0.09 || math.Mod(u*9+row*0.5+100, 1) < 0.05
	glow := math.Exp(-math.Max(0, math.Hypot(u, v-0.55)-half) * 3.2)
	if joint {
		glow *= 0.55
	}
	return color.NRGBA{uint8(22 + 120*glow), uint8(20 + 58*glow), uint8(22 + 30*glow), 255}
}
