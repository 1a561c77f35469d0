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
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"

	"jundle/internal/core/source"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Options are what the public listener is made with.
type Options struct {
	Store    *store.Store
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

// Server is the public listener.
type Server struct {
	Options
	host   string
	pages  *pageCache
	engine *gin.Engine
	// drawnFigures are shared figures that were drawn a moment ago.
	drawnFigures *expirable.LRU[string, drawnFigures]
}

// New makes the listener. What changes a page is told to it through
// Forget.
func New(options Options) (*Server, error) {
	origin, err := url.Parse(options.Origin)
	if err != nil {
		return nil, err
	}
	s := &Server{Options: options, host: origin.Host, pages: newPageCache(options, origin.Hostname()), engine: gin.New(), drawnFigures: expirable.NewLRU[string, drawnFigures](1000, nil, figuresFreshFor)}
	// gin takes an empty list as nobody and nil as everybody.
	proxies := []string{}
	for _, prefix := range options.TrustedProxies {
		proxies = append(proxies, prefix.String())
	}
	if err := s.engine.SetTrustedProxies(proxies); err != nil {
		return nil, err
	}
	s.engine.RedirectTrailingSlash = false
	s.engine.HandleMethodNotAllowed = true
	s.engine.Use(gin.Recovery(), s.headers)
	s.engine.NoRoute(func(c *gin.Context) { s.nothingHere(c) })
	AddFiles(s.engine, s.Store)
	// Browsers ask for it unasked; a page names its own icon, if it has one.
	s.engine.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) })
	s.engine.GET("/robots.txt", func(c *gin.Context) { c.String(http.StatusOK, "User-agent: *\nDisallow: /*/-/\nDisallow: /-/\n") })
	s.engine.GET("/-/own/:mark", s.own)
	s.engine.GET("/-/figures/:token", s.figures)
	for _, method := range []string{http.MethodGet, http.MethodHead} {
		s.engine.Handle(method, "/:page", s.open)
		s.engine.Handle(method, "/:page/:tag", s.openTagged)
		s.engine.Handle(method, "/:page/-/:edition/:block", s.click)
		s.engine.Handle(method, "/:page/-/:edition/:block/:tag", s.click)
	}
	s.engine.POST("/:page/-/:edition/:block", s.told)
	s.engine.POST("/:page/-/:edition/:block/:tag", s.told)
	return s, nil
}

// ServeHTTP answers a visitor.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.engine.ServeHTTP(w, r) }

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

// nothingHere answers an address that leads nowhere.
func (s *Server) nothingHere(c *gin.Context) {
	s.message(c, http.StatusNotFound, render.Notice{Title: "Nothing here", Says: "This address leads nowhere. Check it for a slip of the finger."})
}

// failed answers when we could not do what was asked.
func (s *Server) failed(c *gin.Context, err error) {
	slog.Error("public request failed", "path", c.Request.URL.Path, "error", err)
	s.message(c, http.StatusServiceUnavailable, render.Notice{Title: "Not right now", Says: "The page could not be loaded. Please try again in a minute."})
}

func (s *Server) message(c *gin.Context, status int, notice render.Notice) {
	body, policy, err := render.Message(notice)
	if err != nil {
		c.Status(http.StatusInternalServerError)
		return
	}
	c.Header("Content-Security-Policy", policy)
	c.Header("Cache-Control", "no-store")
	c.Data(status, "text/html; charset=utf-8", body)
}

// hit is what a request shows of its visitor.
func (s *Server) hit(c *gin.Context, id, workspace uuid.UUID, book *source.Book) ingest.Hit {
	request := c.Request
	return ingest.Hit{
		At: s.Now().UTC().Truncate(time.Microsecond), PageID: id, Book: book, PageHost: s.host,
		Tag: tagAsGiven(c.Param("tag")), Query: request.URL.RawQuery, Referrer: referrerHost(request), Method: request.Method,
		Purpose: append(request.Header.Values("Sec-Purpose"), request.Header.Values("Purpose")...),
		Client:  c.ClientIP(), UserAgent: request.UserAgent(), Own: s.isOwn(request, workspace),
	}
}

// tagAsGiven is what stood in the address as the tag, within reason.
func tagAsGiven(tag string) string {
	const limit = 64
	tag = strings.ToLower(strings.ToValidUTF8(tag, ""))
	if len(tag) > limit {
		tag = strings.ToValidUTF8(tag[:limit], "")
	}
	return strings.ReplaceAll(tag, "\x00", "")
}

func referrerHost(request *http.Request) string {
	referrer, err := url.Parse(request.Referer())
	if err != nil || len(referrer.Host) > 255 {
		return ""
	}
	return strings.ToLower(strings.ReplaceAll(strings.ToValidUTF8(referrer.Hostname(), ""), "\x00", ""))
}
