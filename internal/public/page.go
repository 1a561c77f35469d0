package public

import (
	"net/http"
	"strconv"
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
	drawn, err := live.draw(s.Origin, tag)
	if err != nil {
		s.failed(c, err)
		return
	}
	hit := s.hit(c, live)
	hit.Kind, hit.Edition = traffic.View, live.Edition
	s.Recorder.Record(hit)

	// Asking again each time keeps the page fresh and the count whole.
	c.Header("Cache-Control", "private, no-cache")
	c.Header("ETag", drawn.etag)
	c.Header("Vary", "Accept-Encoding")
	if c.GetHeader("If-None-Match") == drawn.etag {
		c.Status(http.StatusNotModified)
		return
	}
	body := drawn.plain
	if strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
		body = drawn.packed
		c.Header("Content-Encoding", "gzip")
	}
	c.Header("Content-Length", strconv.Itoa(len(body)))
	c.Data(http.StatusOK, "text/html; charset=utf-8", body)
}

// moved sends a past address, or one in capitals, to the present one for good
// (RFC 9110 s15.4.9). The visit is counted where it arrives.
func (s *Server) moved(c *gin.Context, live *livePage, tag string) {
	path := "/" + live.Address
	if live.tags[tag] {
		path += "/" + tag
	}
	c.Redirect(http.StatusPermanentRedirect, path)
}

// click answers /{page}/-/{edition}/{block} and the same with a tag: it sends
// the visitor on to the block's destination.
func (s *Server) click(c *gin.Context) {
	live := s.lookup(c)
	if live == nil {
		return
	}
	number, err := strconv.Atoi(c.Param("edition"))
	if err != nil {
		s.nothingHere(c)
		return
	}
	edition, err := s.pages.edition(c.Request.Context(), live, number)
	switch {
	case notFound(err):
		s.nothingHere(c)
		return
	case err != nil:
		s.failed(c, err)
		return
	}
	key, place := c.Param("block"), 0
	for _, block := range edition.Document.Visible() {
		if block.Key == key {
			place = block.Place
		}
	}
	block, found := edition.Document.Find(key)
	if !found || place == 0 || block.Button == nil {
		s.nothingHere(c)
		return
	}
	// A tab opened before the last publishing shows an older edition. Where its
	// block is still on the page, it leads to where the block leads now.
	if now, ok := live.Document.Find(key); ok && now.Button != nil {
		block = now
	}
	hit := s.hit(c, live)
	hit.Kind, hit.Edition, hit.Block, hit.Place = traffic.Click, number, key, place
	s.Recorder.Record(hit)

	destination := block.Button.Address
	if s.Reroute != nil {
		destination = s.Reroute(destination)
	}
	// A stored redirect would freeze the destination and stop the count.
	c.Header("Cache-Control", "no-store")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	c.Header("Location", destination)
	c.Status(http.StatusFound)
}
