package public

import (
	"maps"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/traffic"
)

// lookup finds what the address of a request leads to, or answers the request
// itself.
func (s *Server) lookup(c *gin.Context) (found led, ok bool) {
	found, err := s.pages.find(c.Request.Context(), strings.ToLower(c.Param("page")))
	switch {
	case err == nil:
		return found, true
	case notFound(err):
		s.nothingHere(c)
	default:
		s.failed(c, err)
	}
	return led{}, false
}

// lookupPage is lookup where only a page will do.
func (s *Server) lookupPage(c *gin.Context) *livePage {
	found, ok := s.lookup(c)
	if ok && found.page == nil {
		s.nothingHere(c)
	}
	return found.page
}

// open answers /{address}: a page, or a short link.
func (s *Server) open(c *gin.Context) {
	switch found, ok := s.lookup(c); {
	case !ok:
	case found.link != nil:
		s.follow(c, found.link)
	default:
		s.page(c, found.page)
	}
}

// openTagged answers /{page}/{tag}.
func (s *Server) openTagged(c *gin.Context) {
	if live := s.lookupPage(c); live != nil {
		s.page(c, live)
	}
}

func (s *Server) page(c *gin.Context, live *livePage) {
	tag := tagAsGiven(c.Param("tag"))
	if asked := c.Param("page"); asked != live.Address {
		s.moved(c, live, tag)
		return
	}
	hit := s.hit(c, live.PageID, live.WorkspaceID, live.book)
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
