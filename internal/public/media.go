package public

import (
	"bytes"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"jundle/internal/fonts"
	"jundle/internal/media"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// AddFiles lets a listener answer with what pages are made of beside their
// HTML: pictures and films, files to download, and fonts. Names are digests of
// the bytes or fixed with the program, so what they stand for never changes.
func AddFiles(engine *gin.Engine, kept *store.Store) {
	methods := []string{http.MethodGet, http.MethodHead}
	engine.Match(methods, "/media/:name", func(c *gin.Context) {
		name := c.Param("name")
		// What was uploaded to be downloaded is handed out in no other way.
		if strings.HasSuffix(name, ".bin") {
			c.String(http.StatusNotFound, "There is no such picture.")
			return
		}
		if data, ok := mediaBytes(c, kept, name); ok {
			serveUnchanging(c, media.ContentType(name), data)
		}
	})
	engine.Match(methods, "/files/:name/:as", func(c *gin.Context) {
		if data, ok := mediaBytes(c, kept, c.Param("name")); ok {
			c.Header("Content-Disposition", attachment(c.Param("as")))
			serveUnchanging(c, "application/octet-stream", data)
		}
	})
	engine.Match(methods, "/fonts/:name", func(c *gin.Context) {
		data, err := fonts.Bytes(c.Param("name"))
		if err != nil {
			c.String(http.StatusNotFound, "There is no such font.")
			return
		}
		serveUnchanging(c, "font/woff2", data)
	})
}

func mediaBytes(c *gin.Context, kept *store.Store, name string) ([]byte, bool) {
	if file, ok := starters.File(name); ok {
		return file.Bytes, true
	}
	data, err := kept.MediaBytes(c.Request.Context(), name)
	switch {
	case notFound(err):
		c.String(http.StatusNotFound, "There is no such file.")
	case err != nil:
		c.String(http.StatusServiceUnavailable, "The file could not be loaded.")
	}
	return data, err == nil
}

// serveUnchanging answers with bytes that may be kept for good, in parts where
// a part is asked for, as films are. Nothing in them may run: a drawing opened
// by itself is a document.
func serveUnchanging(c *gin.Context, kind string, data []byte) {
	header := c.Writer.Header()
	header.Set("Content-Type", kind)
	header.Set("Cache-Control", "public, max-age=31536000, immutable")
	header.Set("Cross-Origin-Resource-Policy", "cross-origin")
	header.Set("Content-Security-Policy", "default-src 'none'; sandbox")
	http.ServeContent(c.Writer, c.Request, "", time.Time{}, bytes.NewReader(data))
}
