package public

import (
	"maps"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/traffic"
)

// lookup finds the page of a request, or answers the request itself.
func (s *Server) lookup(c *gin.Context) *livePage {
	live, err := s.pages.page(c.Request.Context(), strings.ToLower(c.Param("page")))
	switch {
	case err == nil:
		return live
	case notFound(err):
		s.nothingHere(c)
	default:
		s.failed(c, err)
	}
	return nil
}

// page answers /{page} and /{page}/{tag}.
func (s *Server) page(c *gin.Context) {
	live := s.lookup(c)
	if live == nil {
		return
	}
	tag := tagAsGiven(c.Param("tag"))
	if asked := c.Param("page"); asked != live.Address {
		s.moved(c, live, tag)
		return
	}
	hit := s.hit(c, live)
	hit.Kind, hit.Edition = traffic.View, live.Edition
	event := s.Recorder.Decide(hit)
	if from, known := live.book.Find(event.Source); known && !live.tags[tag] {
		// However it was found out where the visit came from: what is pressed on the
		// page carries it on.
		tag = from.Tag
	}
	drawn, err := live.draw(s.Origin, tag)
	if err != nil {
		s.failed(c, err)
		return
	}
	s.Recorder.Record(event)

	body, headers := drawn.plain, drawn.headers
	if strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
		body, headers = drawn.packed, drawn.packedHeaders
	}
	maps.Copy(c.Writer.Header(), headers)
	if c.GetHeader("If-None-Match") == drawn.etag {
		c.Writer.Header().Del("Content-Length")
		c.Status(http.StatusNotModified)
		return
	}
	if _, err := c.Writer.Write(body); err != nil {
		_ = c.Error(err) // the visitor has gone
	}
}

// moved sends a past address, or one in capitals, to the present one for good
// (RFC 9110 s15.4.9). The visit is counted where it arrives.
func (s *Server) moved(c *gin.Context, live *livePage, tag string) {
	path := "/" + live.Address
	if live.tags[tag] {
		path += "/" + tag
	}
	if query := c.Request.URL.RawQuery; query != "" {
		path += "?" + query // campaign tags are counted where the visit arrives
	}
	c.Redirect(http.StatusPermanentRedirect, path)
}
