// Package public answers what visitors touch: pages, click-through, short links,
// and the pictures on them. It sets no cookie on visitors and serves no script.
//
// It reads through a cache, and answers once what happened is on disk; nobody
// waits for the database.
package public

import (
	"log/slog"
	"maps"
	"net/http"
	"net/netip"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"jundle/internal/core/source"
	"jundle/internal/files"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Options are what the public listener is made with.
type Options struct {
	Store    *store.Store
	Files    *files.Files
	Recorder *ingest.Recorder
	Networks *source.Networks
	// Origin is where visitors reach it, such as https://kiln.example.
	Origin string
	// StudioOrigin is where the studio is, to send members back to.
	StudioOrigin string
	// OwnKey is what marks of members are signed with.
	OwnKey []byte
	// TrustedProxies are the networks whose X-Forwarded-For is believed.
	TrustedProxies []netip.Prefix
	// Reroute replaces a destination before the visitor is sent there. The demo
	// uses it to reach made-up sites; nil otherwise.
	Reroute func(address string) string
	Now     func() time.Time
}

// Server is the public listener: Front for what is counted, Rest for all else.
type Server struct {
	Options
	host   string
	secure bool // pages are served by https
	pages  *pageCache
	rest   *gin.Engine
	// drawings are pages that were drawn, drawingNow those that are being.
	drawings   *weighed[drawingKey, *drawing]
	drawingNow singleflight.Group
	// drawnFigures are shared figures that were drawn a moment ago.
	drawnFigures *weighed[string, drawnFigures]
	figuresNow   singleflight.Group
	// notices are those that were drawn.
	notices *lru.Cache[render.Notice, drawnHTML]
}

// New makes the listener. What changes a page is told to it through
// Forget.
func New(options Options) (*Server, error) {
	origin, err := url.Parse(options.Origin)
	if err != nil {
		return nil, err
	}
	s := &Server{Options: options, host: origin.Host, secure: origin.Scheme == "https", pages: newPageCache(options, origin.Hostname()), rest: gin.New(), drawings: newWeighed[drawingKey, *drawing](cachedDrawings), drawnFigures: newWeighed[string, drawnFigures](cachedFigures)}
	s.notices, _ = lru.New[render.Notice, drawnHTML](1000)
	// gin takes an empty list as nobody and nil as everybody.
	proxies := []string{}
	for _, prefix := range options.TrustedProxies {
		proxies = append(proxies, prefix.String())
	}
	if err := s.rest.SetTrustedProxies(proxies); err != nil {
		return nil, err
	}
	s.rest.RedirectTrailingSlash = false
	s.rest.HandleMethodNotAllowed = true
	s.rest.Use(gin.Recovery(), s.headers)
	s.rest.NoRoute(func(c *gin.Context) { s.say(c, http.StatusNotFound, nothingHere) })
	addFonts(s.rest)
	// Browsers ask for it unasked; a page names its own icon, if it has one.
	s.rest.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) })
	s.rest.GET("/robots.txt", func(c *gin.Context) { c.String(http.StatusOK, "User-agent: *\nDisallow: /*/-/\nDisallow: /-/\n") })
	s.rest.GET("/-/own/:mark", s.own)
	s.rest.GET("/-/figures/:token", s.figures)
	return s, nil
}

// Rest answers what is not counted: what pages are made of, shared figures, and
// the marking of members' browsers.
func (s *Server) Rest() http.Handler { return s.rest }

// everyAnswer are headers that every answer begins with. Their values are shared:
// they may be replaced in an answer and never changed.
var everyAnswer = http.Header{
	"Content-Security-Policy":    {"default-src 'none'; frame-ancestors 'none'"},
	"X-Content-Type-Options":     {"nosniff"},
	"Referrer-Policy":            {"strict-origin-when-cross-origin"},
	"Cross-Origin-Opener-Policy": {"same-origin"},
	"Permissions-Policy":         {"camera=(), geolocation=(), microphone=(), browsing-topics=()"},
}

func (s *Server) headers(c *gin.Context) { maps.Copy(c.Writer.Header(), everyAnswer) }

// sayFailed answers when we could not do what was asked.
func (s *Server) sayFailed(c *gin.Context, err error) {
	slog.Error("public request failed", "error", err)
	s.say(c, http.StatusServiceUnavailable, notRightNow)
}

// say answers with a notice.
func (s *Server) say(c *gin.Context, status int, notice render.Notice) {
	drawn, err := s.drawNotice(notice)
	if err != nil {
		c.Status(http.StatusInternalServerError)
		return
	}
	c.Header("Content-Security-Policy", drawn.policy)
	c.Header("Cache-Control", "no-store")
	c.Data(status, "text/html; charset=utf-8", drawn.html)
}
