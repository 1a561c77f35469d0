package studio

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"jundle/internal/apiguide"
)

// addGuide serves the contract as a page that people read, written once.
func (s *Server) addGuide(engine *gin.Engine) error {
	page, err := apiguide.Write(s.api.OpenAPI())
	if err != nil {
		return err
	}
	engine.GET("/api/guide", func(c *gin.Context) {
		c.Header("Content-Security-Policy", "default-src 'none'; style-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'")
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	})
	engine.GET("/api/guide.css", func(c *gin.Context) { c.Data(http.StatusOK, "text/css; charset=utf-8", apiguide.CSS) })
	return nil
}
