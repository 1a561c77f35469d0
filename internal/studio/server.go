// Package studio is the creator-facing side: the JSON API and the Vue
// application that uses it. Handlers decode, call and encode; what they call
// decides.
//
// Every operation but sign-up and sign-in acts for the member of a session, and
// every query behind it looks only into that member's workspace.
package studio

import (
	"io/fs"
	"net/http"
	"net/netip"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"jundle/internal/outbound"
	"jundle/internal/public"
	"jundle/internal/store"
)

// Options are what the studio is made with.
type Options struct {
	Store    *store.Store
	Outbound *outbound.Client
	// Origin is where creators reach the studio, PublicOrigin where visitors
	// reach the pages.
	Origin, PublicOrigin string
	// OwnKey is what marks of members are signed with.
	OwnKey         []byte
	TrustedProxies []netip.Prefix
	// Application holds the built Vue application; nil serves the API alone.
	Application fs.FS
	// Shed is how many events could not be kept since the process was started; nil
	// for none.
	Shed func() int64
	Now  func() time.Time
}

// Server is the studio listener.
type Server struct {
	Options
	api      huma.API
	sessions *scs.SessionManager
	limits   *rateLimits
	handler  http.Handler
}

// New makes the studio.
func New(options Options) (*Server, error) {
	s := &Server{Options: options, limits: newRateLimits(options.Now)}
	engine := gin.New()
	proxies := []string{}
	for _, prefix := range options.TrustedProxies {
		proxies = append(proxies, prefix.String())
	}
	if err := engine.SetTrustedProxies(proxies); err != nil {
		return nil, err
	}
	engine.Use(gin.Recovery(), s.securityHeaders)

	s.sessions = newSessions(options.Store, strings.HasPrefix(options.Origin, "https:"))
	s.api = humagin.New(engine, apiConfig())
	s.addAccount()
	s.addPages()
	s.addMedia()
	s.addIcons()
	s.addLooks()
	s.addSources()
	s.addCodes()
	s.addCampaigns()
	s.addShortLinks()
	s.addWorkspace()
	s.addShared()
	s.addReadings()
	public.AddFiles(engine, options.Store)
	if options.Application != nil {
		if err := s.addApplication(engine); err != nil {
			return nil, err
		}
	}
	s.handler = gzhttp.GzipHandler(refuseCrossOrigin(http.MaxBytesHandler(s.sessions.LoadAndSave(engine), maxBody)))
	return s, nil
}

// ServeHTTP answers a creator.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// OpenAPI is the contract of the API, as JSON.
func (s *Server) OpenAPI() ([]byte, error) { return s.api.OpenAPI().MarshalJSON() }

func apiConfig() huma.Config {
	config := huma.DefaultConfig("Jundle studio", "1")
	config.OpenAPIPath = "/api/openapi"
	config.DocsPath, config.SchemasPath = "", "/api/schemas"
	config.CreateHooks = nil // no $schema in every answer
	return config
}

func newSessions(s *store.Store, secure bool) *scs.SessionManager {
	sessions := scs.New()
	sessions.Store = pgxstore.New(s.Pool())
	sessions.HashTokenInStore = true
	sessions.Lifetime = 90 * 24 * time.Hour
	sessions.IdleTimeout = 30 * 24 * time.Hour
	sessions.Cookie.Name = "jundle_session"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.Secure = secure
	return sessions
}

// maxBody is above every operation's own limit, so that each can say what its
// limit is, and below what would hurt.
const maxBody = 17 << 20

// refuseCrossOrigin keeps other sites from writing with a member's cookie.
func refuseCrossOrigin(next http.Handler) http.Handler {
	protection := http.NewCrossOriginProtection()
	protection.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/problem+json")
		w.WriteHeader(http.StatusForbidden)
		_, _ = w.Write([]byte(`{"title":"Forbidden","status":403,"detail":"This came from another site, so nothing was changed. Open the studio itself and try again."}`))
	}))
	return protection.Handler(next)
}

// listOutput is an answer that is a list, and never null.
type listOutput[T any] struct {
	Body []T `nullable:"false"`
}
