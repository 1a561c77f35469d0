package public

import (
	"mime"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/contact"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/ingest"
	"jundle/internal/render"
)

// click answers /{page}/-/{edition}/{block} and the same with a tag: it sends
// the visitor on to where the block leads, or hands out what it holds. Where a
// block has several targets, the one pressed stands behind a point.
func (s *Server) click(c *gin.Context) {
	live, target, hit, ok := s.pressed(c)
	if !ok {
		return
	}
	key := hit.Block
	// A tab opened before the last publishing shows an older edition. Where its
	// block is still on the page, it leads to where the block leads now.
	if now, _, ok := live.Document.Target(key, hit.Item); ok {
		target = now
	}
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	from, _ := live.book.Find(event.Source)
	target.Address = live.Document.Tagging.Tag(target.Address, from.Tag, from.Medium, key)

	// A stored answer would freeze the destination and stop the count.
	c.Header("Cache-Control", "no-store")
	c.Header("X-Robots-Tag", "noindex, nofollow")
	s.lead(c, target)
}

// pressed finds what was pressed, or answers the request itself.
func (s *Server) pressed(c *gin.Context) (live *livePage, target page.Target, hit ingest.Hit, ok bool) {
	if live = s.lookupPage(c); live == nil {
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
	key, item, _ := strings.Cut(c.Param("block"), ".")
	target, place, ok := edition.Document.Target(key, item)
	if !ok {
		s.nothingHere(c)
		return
	}
	hit = s.hit(c, live.PageID, live.WorkspaceID, live.book)
	hit.Kind, hit.Edition, hit.Block, hit.Item, hit.Place = traffic.Click, number, key, item, place
	return live, target, hit, true
}

// told answers what a browser tells of a click on a plain address, by ping (HTML,
// hyperlink auditing) or beacon (W3C): it is counted, and there is nothing to say.
func (s *Server) told(c *gin.Context) {
	_, target, hit, ok := s.pressed(c)
	switch {
	case !ok:
	case !target.Plain:
		s.nothingHere(c)
	default:
		s.Recorder.Record(s.Recorder.Decide(hit))
		c.Status(http.StatusNoContent)
	}
}

// lead takes the visitor to a target.
func (s *Server) lead(c *gin.Context, target page.Target) {
	if target.Card != nil {
		handOutCard(c, *target.Card)
		return
	}
	parsed, err := url.Parse(target.Address)
	if err == nil && (parsed.Scheme == "tel" || parsed.Scheme == "sms") && !isPhone(c.Request.UserAgent()) {
		does := "Call"
		if parsed.Scheme == "sms" {
			does = "Send a text message to"
		}
		s.message(c, http.StatusOK, render.Notice{
			Title: target.Name, Says: does + " this number from your phone:", Told: contact.Shown(target.Address), Link: target.Address,
		})
		return
	}
	destination := target.Address
	if s.Reroute != nil {
		destination = s.Reroute(destination)
	}
	c.Header("Location", destination)
	c.Status(http.StatusFound)
}

// isPhone tells whether a browser says that it runs on a phone. Source: MDN's
// guide to browser detection by user agent, which recommends this one mark.
func isPhone(userAgent string) bool { return strings.Contains(userAgent, "Mobi") }

func handOutCard(c *gin.Context, card contact.Card) {
	c.Header("Content-Disposition", attachment(card.Name+".vcf"))
	c.Data(http.StatusOK, "text/vcard; charset=utf-8", []byte(card.VCard()))
}

// attachment is the header that saves an answer under a name (RFC 6266).
func attachment(name string) string {
	if value := mime.FormatMediaType("attachment", map[string]string{"filename": name}); value != "" {
		return value
	}
	return "attachment"
}
