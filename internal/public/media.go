package public

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/store"
)

// ServeMedia answers with a picture by its name, on whichever listener it is
// asked for. The name is the digest of the bytes, so they never change.
func ServeMedia(c *gin.Context, pictures *store.Store) {
	name := c.Param("name")
	bytes, err := pictures.MediaBytes(c.Request.Context(), name)
	switch {
	case notFound(err):
		c.String(http.StatusNotFound, "There is no such picture.")
		return
	case err != nil:
		c.String(http.StatusServiceUnavailable, "The picture could not be loaded.")
		return
	}
	kind := "image/png"
	if strings.HasSuffix(name, ".jpg") {
		kind = "image/jpeg"
	}
	c.Header("Cache-Control", "public, max-age=31536000, immutable")
	c.Header("Cross-Origin-Resource-Policy", "cross-origin")
	c.Data(http.StatusOK, kind, bytes)
}
