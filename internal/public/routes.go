package public

import (
	"maps"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/filehandler"
	"jundle/internal/render"
)

var reading = []string{http.MethodGet, http.MethodHead}

func (s *Server) addRoutes() {
	s.engine.RedirectTrailingSlash = false
	s.engine.HandleMethodNotAllowed = true
	s.engine.Use(gin.Recovery())
	s.engine.NoRoute(func(c *gin.Context) { s.notice(http.StatusNotFound, nothingHere).write(c) })
	s.engine.NoMethod(s.noMethod)
	s.addCounted()
	others := s.engine.Group("", func(c *gin.Context) { maps.Copy(c.Writer.Header(), s.headers.common) })
	filehandler.Add(others, s.Files)
	// Browsers ask for it unasked; a page names its own icon, if it has one.
	others.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) })
	others.GET("/robots.txt", func(c *gin.Context) { c.String(http.StatusOK, "User-agent: *\nDisallow: /*/-/\nDisallow: /-/\n") })
	others.GET("/-/own/:mark", s.own)
	others.GET("/-/figures/:token", s.figures)
	others.GET("/-/preview/:token", s.workingCopy)
}

// addCounted adds what is counted: pages, presses and short links. A slash at the
// end, which people and programs put there, changes nothing.
func (s *Server) addCounted() {
	for path, decide := range map[string]func(*gin.Context, request) answer{
		"/:address":                          s.askedForAddress,
		"/:address/:tag":                     s.askedForTag,
		"/:address/-/:edition/:block":        s.askedForPress,
		"/:address/-/:edition/:block/:entry": s.askedForPress,
	} {
		answered := func(c *gin.Context) { decide(c, s.requestOf(c)).write(c) }
		methods := reading
		if strings.Contains(path, ":edition") {
			methods = append(methods, http.MethodPost)
		}
		s.engine.Match(methods, path, answered)
		s.engine.Match(methods, path+"/", answered)
	}
	for _, path := range []string{"/:address", "/:address/", "/:address/:tag", "/:address/:tag/"} {
		s.engine.POST(path, func(c *gin.Context) {
			if c.ContentType() != formType {
				s.noMethod(c)
				return
			}
			s.askedToOpen(c, s.requestOf(c), passcodeIn(c)).write(c)
		})
	}
}

func (s *Server) noMethod(c *gin.Context) {
	answer{status: http.StatusMethodNotAllowed, header: s.headers.common}.write(c)
}

// formType is what the form of a gate is sent as.
const formType = "application/x-www-form-urlencoded"

// passcodeIn is what was sent at a gate, within reason; empty for anything else.
func passcodeIn(c *gin.Context) string {
	if c.Request.Method != http.MethodPost || c.ContentType() != formType {
		return ""
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, 4<<10)
	if err := c.Request.ParseForm(); err != nil {
		return ""
	}
	return strings.TrimSpace(c.Request.PostForm.Get("passcode"))
}

func (s *Server) askedForAddress(c *gin.Context, asked request) answer {
	name := c.Param("address")
	found, err := s.pages.find(strings.ToLower(name))
	switch {
	case err != nil:
		return s.missing(err)
	case found.isTakenDown():
		return s.notice(http.StatusGone, takenDown)
	case found.isDeleted():
		return s.notice(http.StatusGone, deleted)
	case found.link != nil:
		return s.follow(asked, found.link)
	default:
		return s.page(asked, found.page, name, "")
	}
}

// askedFor finds the page of a path that goes on behind its address.
func (s *Server) askedFor(c *gin.Context, decide func(*livePage) answer) answer {
	found, err := s.pages.find(strings.ToLower(c.Param("address")))
	switch {
	case err != nil:
		return s.missing(err)
	case found.isTakenDown():
		return s.notice(http.StatusGone, takenDown)
	case found.isDeleted():
		return s.notice(http.StatusGone, deleted)
	case found.link != nil:
		return s.notice(http.StatusNotFound, nothingHere)
	default:
		return decide(found.page)
	}
}

func (s *Server) askedForTag(c *gin.Context, asked request) answer {
	return s.askedFor(c, func(live *livePage) answer { return s.page(asked, live, c.Param("address"), c.Param("tag")) })
}

func (s *Server) askedForPress(c *gin.Context, asked request) answer {
	return s.askedFor(c, func(live *livePage) answer {
		return s.click(asked, live, press{
			edition: c.Param("edition"), block: c.Param("block"), tag: c.Param("entry"), path: c.Request.URL.EscapedPath(),
			passcode: passcodeIn(c),
		})
	})
}

// say answers with a notice.
func (s *Server) say(c *gin.Context, status int, notice render.Notice) {
	s.notice(status, notice).write(c)
}
