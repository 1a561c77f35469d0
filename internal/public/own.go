package public

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/ownmark"
	"jundle/internal/render"
)

// own answers /-/own/{mark}, which the studio leads a member's browser through:
// it sets the cookie by which their own visits are known, and goes on to the
// page that ?page= names or back to the path of the studio in ?studio=. A phone on
// which nobody is signed in comes by a QR code and is told that it is marked.
// Visitors never come here.
//
// Led through here, a browser is on this host itself, so that it keeps the
// cookie even when it refuses those from other sites.
func (s *Server) own(c *gin.Context) {
	workspace, ok := ownmark.Read(s.OwnKey, c.Param("mark"), s.Now())
	if !ok {
		s.say(c, http.StatusForbidden, render.Notice{Title: "This link is over", Text: "Open the page from the studio again."})
		return
	}
	mark := ownmark.Make(s.OwnKey, workspace, s.Now().Add(ownmark.LastsFor))
	c.SetSameSite(http.SameSiteLaxMode)
	secure := s.hosts.at(c.Request.Host) != nil || strings.HasPrefix(s.Origin, "https:")
	c.SetCookie(ownmark.Cookie, mark, int(ownmark.LastsFor.Seconds()), "/", "", secure, true)
	c.Header("Cache-Control", "no-store")
	if name, err := address.ParsePageAddress(c.Query("page")); err == nil {
		tag, err := address.ParseTag(c.Query("tag"))
		if err != nil {
			tag = ""
		}
		c.Redirect(http.StatusSeeOther, render.EntryAddress(render.Visit{Address: name, Tag: tag, Reads: c.Query("lang")}))
		return
	}
	if path := c.Query("studio"); strings.HasPrefix(path, "/") {
		c.Redirect(http.StatusSeeOther, s.StudioOrigin+path)
		return
	}
	s.say(c, http.StatusOK, render.Notice{
		Title: "This phone is not counted",
		Text:  "What you open and press here is kept apart from your visitors’ from now on, in this browser. You can close this page.",
	})
}

// isOwn tells whether a browser's cookie marks it as that of one of a workspace's
// own members.
func (s *Server) isOwn(cookie string, workspace uuid.UUID) bool {
	if cookie == "" {
		return false
	}
	marked, ok := ownmark.Read(s.OwnKey, cookie, s.Now())
	return ok && marked == workspace
}
