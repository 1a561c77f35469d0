package studio

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/apiguide"
	"jundle/internal/compress"
)

// guideKeptFor is for how long a browser keeps the guide: it changes with the program only.
const guideKeptFor = "public, max-age=3600"

// addGuide serves the contract as a page that people read, written and packed once: whoever asks
// again and again is no work.
func (s *Server) addGuide(engine *gin.Engine) error {
	page, err := apiguide.Write(s.api.OpenAPI())
	if err != nil {
		return err
	}
	packed, err := compress.Gzip(page)
	if err != nil {
		return err
	}
	engine.GET("/api/guide", func(c *gin.Context) {
		c.Header("Content-Security-Policy", "default-src 'none'; style-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'")
		c.Header("Cache-Control", guideKeptFor)
		c.Header("Vary", "Accept-Encoding")
		body := page
		if strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
			c.Header("Content-Encoding", "gzip")
			body = packed
		}
		c.Data(http.StatusOK, "text/html; charset=utf-8", body)
	})
	engine.GET("/api/guide.css", func(c *gin.Context) {
		c.Header("Cache-Control", guideKeptFor)
		c.Data(http.StatusOK, "text/css; charset=utf-8", apiguide.CSS)
	})
	return nil
}
