package studio

import (
	"bytes"
	"crypto/rand"
	"fmt"
	"io/fs"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
)

// noncePlaceholder stands in the built index.html where each answer puts a
// nonce of its own, by which the component library's style sheets are let in.
const noncePlaceholder = "__CSP_NONCE__"

// addApplication serves the built Vue application: its files as they are, and
// its index for every other path, since it does its own routing.
func (s *Server) addApplication(engine *gin.Engine) error {
	index, err := fs.ReadFile(s.Application, "index.html")
	if err != nil {
		return fmt.Errorf("the studio's application is not built, run `make build`: %w", err)
	}
	files := http.FileServerFS(s.Application)
	atRoot, err := fs.Glob(s.Application, "*.*")
	if err != nil {
		return err
	}
	for i, name := range atRoot {
		atRoot[i] = "/" + name
	}
	atRoot = slices.DeleteFunc(atRoot, func(name string) bool { return name == "/index.html" })
	engine.NoRoute(func(c *gin.Context) {
		path := c.Request.URL.Path
		switch {
		case strings.HasPrefix(path, "/api/") || c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead:
			c.Data(http.StatusNotFound, "application/problem+json",
				[]byte(`{"title":"Not Found","status":404,"detail":"There is no such operation."}`))
		case strings.HasPrefix(path, "/assets/"):
			// Their names hold a digest of what is in them.
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
			files.ServeHTTP(c.Writer, c.Request)
		case slices.Contains(atRoot, path):
			c.Header("Cache-Control", "no-cache")
			c.Header("Content-Security-Policy", "default-src 'none'; connect-src 'self'") // the service worker's own
			files.ServeHTTP(c.Writer, c.Request)
		default:
			nonce := rand.Text()
			c.Header("Cache-Control", "no-store")
			c.Header("Content-Security-Policy", s.policy(nonce))
			c.Data(http.StatusOK, "text/html; charset=utf-8", bytes.ReplaceAll(index, []byte(noncePlaceholder), []byte(nonce)))
		}
	})
	return nil
}

// secure tells whether the studio is served by https.
func (s *Server) secure() bool { return strings.HasPrefix(s.Origin, "https:") }

func (s *Server) policy(nonce string) string {
	return strings.Join([]string{
		"default-src 'none'", "script-src 'self'", "connect-src 'self' " + s.PublicOrigin, "font-src 'self'",
		"img-src 'self' data: blob:", "media-src 'self' blob:", "style-src 'self' 'nonce-" + nonce + "'",
		// Charts and the cropper place things with style attributes.
		"style-src-attr 'unsafe-inline'",
		"base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'", "manifest-src 'self'", "worker-src 'self'",
	}, "; ")
}

func (s *Server) securityHeaders(c *gin.Context) {
	header := c.Writer.Header()
	header.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
	header.Set("X-Content-Type-Options", "nosniff")
	header.Set("Referrer-Policy", "same-origin")
	header.Set("Cross-Origin-Opener-Policy", "same-origin")
	if s.secure() {
		header.Set("Strict-Transport-Security", "max-age=31536000") // RFC 6797
	}
	if strings.HasPrefix(c.Request.URL.Path, "/api/") {
		header.Set("Cache-Control", "no-store")
	}
}
