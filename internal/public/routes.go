package public

import (
	"maps"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"jundle/internal/app/mailing"
	"jundle/internal/app/payments"
	"jundle/internal/filehandler"
	"jundle/internal/render"
	"jundle/internal/store"
)

var reading = []string{http.MethodGet, http.MethodHead}

func (s *Server) addRoutes() {
	s.engine.RedirectTrailingSlash = false
	s.engine.HandleMethodNotAllowed = true
	s.engine.Use(gin.Recovery(), s.onlyKnown, s.onlyPaths, s.byTLS)
	s.engine.NoRoute(func(c *gin.Context) { s.notFound(s.requestOf(c).locale()).write(c) })
	s.engine.NoMethod(s.noMethod)
	s.addCounted()
	others := s.engine.Group("", func(c *gin.Context) { maps.Copy(c.Writer.Header(), s.headers.common) })
	filehandler.Add(others, filehandler.Options{Files: s.Files, Of: s.filesOf, Key: s.OwnKey})
	// Browsers ask for it unasked; a page names its own icon, if it has one.
	others.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) })
	others.GET("/robots.txt", func(c *gin.Context) { c.String(http.StatusOK, s.robots(s.requestOf(c))) })
	others.GET(sitemapPath, s.sitemap)
	others.GET(render.SharingPath+":address/:edition", s.sharingPicture)
	others.GET("/-/own/:mark", s.own)
	others.GET(paidPath+":token", s.paid)
	others.Match([]string{http.MethodGet, http.MethodPost}, mailing.SignUpPath+":token", s.letterLink)
	others.Match([]string{http.MethodGet, http.MethodPost}, mailing.BookingPath+":token", s.booking)
	others.GET(mailing.BookingPath+":token"+calendarPath, s.bookingCalendar)
	shared := others.Group("", s.onlyShared)
	shared.GET("/-/figures/:token", s.figures)
	shared.GET("/-/preview/:token", s.workingCopy)
	shared.POST(payments.NoticePath+":service", s.paymentNotice)
}

// addCounted adds what is counted: pages, presses and short links. A slash at the
// end, which people and programs put there, changes nothing.
func (s *Server) addCounted() {
	for path, decide := range map[string]func(*gin.Context, request) answer{
		"/":                                  s.askedForFront,
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
		if path != "/" {
			s.engine.Match(methods, path+"/", answered)
		}
	}
	for _, path := range []string{"/", "/:address", "/:address/", "/:address/:tag", "/:address/:tag/"} {
		s.engine.POST(path, func(c *gin.Context) {
			if c.ContentType() != formType {
				s.noMethod(c)
				return
			}
			s.askedToOpen(c, s.requestOf(c), passcodeIn(formIn(c))).write(c)
		})
	}
}

func (s *Server) noMethod(c *gin.Context) {
	answer{status: http.StatusMethodNotAllowed, header: s.headers.common}.write(c)
}

// formType is what the form of a gate is sent as.
const formType = "application/x-www-form-urlencoded"

// formIn is the form that was sent, within reason; nothing for anything else.
func formIn(c *gin.Context) url.Values {
	if c.Request.Method != http.MethodPost || c.ContentType() != formType {
		return nil
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, 8<<10)
	if err := c.Request.ParseForm(); err != nil {
		return nil
	}
	return c.Request.PostForm
}

// passcodeIn is what was sent at a gate; empty for nothing.
func passcodeIn(form url.Values) string { return strings.TrimSpace(form.Get("passcode")) }

func (s *Server) askedForAddress(c *gin.Context, asked request) answer {
	name := c.Param("address")
	found, refused := s.reach(asked, name)
	switch {
	case refused != nil:
		return *refused
	case found.link != nil:
		return s.follow(asked, found.link)
	default:
		return s.page(asked, found.page, name, "")
	}
}

// reach finds what an address leads to, or says why it leads nowhere. Under a host of a workspace's
// own nothing of others is there.
func (s *Server) reach(asked request, name string) (liveEndpoint, *answer) {
	found, err := s.pages.find(strings.ToLower(name))
	if err == nil && asked.host != nil && found.workspace() != asked.host.WorkspaceID {
		err = store.ErrNotFound
	}
	var refused answer
	switch {
	case err != nil:
		refused = s.missing(asked.locale(), err)
	case found.isTakenDown():
		refused = s.notice(http.StatusGone, spoken(asked.locale(), "taken_down"))
	case found.isDeleted():
		refused = s.notice(http.StatusGone, spoken(asked.locale(), "no_longer_here"))
	default:
		return found, nil
	}
	return found, &refused
}

// askedFor finds the page of a path that goes on behind its address.
func (s *Server) askedFor(c *gin.Context, asked request, decide func(*livePage) answer) answer {
	name := c.Param("address")
	if name == "" && asked.host != nil {
		name = asked.host.Front
	}
	found, refused := s.reach(asked, name)
	switch {
	case refused != nil:
		return *refused
	case found.link != nil:
		return s.notFound(asked.locale())
	default:
		return decide(found.page)
	}
}

// askedForFront answers /: with the page that stands at a host of a workspace's own.
func (s *Server) askedForFront(c *gin.Context, asked request) answer {
	return s.askedFor(c, asked, func(live *livePage) answer { return s.page(asked, live, live.Address, "") })
}

func (s *Server) askedForTag(c *gin.Context, asked request) answer {
	return s.askedFor(c, asked, func(live *livePage) answer { return s.page(asked, live, c.Param("address"), c.Param("tag")) })
}

func (s *Server) askedForPress(c *gin.Context, asked request) answer {
	return s.askedFor(c, asked, func(live *livePage) answer {
		return s.click(asked, live, press{
			edition: c.Param("edition"), block: c.Param("block"), tag: c.Param("entry"), path: c.Request.URL.EscapedPath(),
			form: formIn(c),
		})
	})
}

// say answers with a notice.
func (s *Server) say(c *gin.Context, status int, notice render.Notice) {
	s.notice(status, notice).write(c)
}
