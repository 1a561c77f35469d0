package public

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/address"
	"jundle/internal/ownmark"
)

// own answers /-/own/{mark}, which the studio leads a member's browser through:
// it sets the cookie by which their own visits are known, and goes on to the
// page when ?page= names one. Visitors never come here.
func (s *Server) own(c *gin.Context) {
	workspace, ok := ownmark.Read(s.OwnKey, c.Param("mark"), s.Now())
	if !ok {
		s.message(c, http.StatusForbidden, "This link is over", "Open the page from the studio again.")
		return
	}
	secure := strings.HasPrefix(s.Origin, "https:")
	c.SetSameSite(http.SameSiteLaxMode)
	c.SetCookie(ownmark.Cookie, ownmark.Make(s.OwnKey, workspace, s.Now().Add(ownmark.LastsFor)), int(ownmark.LastsFor.Seconds()), "/", "", secure, true)
	c.Header("Cache-Control", "no-store")
	if name, err := address.ParsePageAddress(c.Query("page")); err == nil {
		c.Redirect(http.StatusSeeOther, "/"+name)
		return
	}
	c.Status(http.StatusNoContent)
}

// isOwn tells whether a browser is marked as one of the page's own members.
func (s *Server) isOwn(request *http.Request, live *livePage) bool {
	cookie, err := request.Cookie(ownmark.Cookie)
	if err != nil {
		return false
	}
	workspace, ok := ownmark.Read(s.OwnKey, cookie.Value, s.Now())
	return ok && workspace == live.WorkspaceID
}
