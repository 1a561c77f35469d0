// Package studio is the creator-facing side: the JSON API and the Vue
// application that uses it. Handlers decode, call and encode; what they call
// decides.
//
// Every operation but sign-up and sign-in acts for the member of a session, and
// every query behind it looks only into that member's workspace.
package studio

import (
	"cmp"
	"io/fs"
	"net/http"
	"net/netip"
	"reflect"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"github.com/klauspost/compress/gzhttp"

	"jundle/internal/app/destinations"
	"jundle/internal/app/domains"
	"jundle/internal/app/links"
	"jundle/internal/app/looks"
	"jundle/internal/app/pages"
	"jundle/internal/app/sources"
	"jundle/internal/exports"
	"jundle/internal/filehandler"
	"jundle/internal/files"
	"jundle/internal/livefigures"
	"jundle/internal/outbound"
	"jundle/internal/passkeys"
	"jundle/internal/passwords"
	"jundle/internal/store"
	"jundle/internal/turns"
)

// Options are what the studio is made with.
type Options struct {
	Store    *store.Store
	Files    *files.Files
	Exporter *exports.Exporter
	Outbound *outbound.Client
	// Live says when there are new figures.
	Live *livefigures.Hub
	// Origin is where creators reach the studio, PublicOrigin where visitors
	// reach the pages.
	Origin, PublicOrigin string
	// OwnKey is what marks of members are signed with.
	OwnKey []byte
	// Passwords is what new hashes cost; that of the zero value is the full cost.
	Passwords passwords.Cost
	// LetterKey is what letters that can be switched off are signed with.
	LetterKey []byte
	// HasMail: there is a mail server to hand letters to.
	HasMail bool
	// TrackingCodes: those of creators run on the host that all pages share, too.
	TrackingCodes bool
	// Domains look after hosts of workspaces' own, which are reached at OwnOrigin; nil for none. Nobody can add
	// one of ServiceHosts.
	Domains      *domains.Domains
	OwnOrigin    func(host string) string
	ServiceHosts []string
	// Tiles is where tiles of maps come from, with {z}, {x} and {y} in it, and TilesBy whose
	// they are; empty for no maps.
	Tiles, TilesBy string
	TrustedProxies []netip.Prefix
	// CutsPerMinute bounds how many pictures a workspace may cut; 60 when 0.
	CutsPerMinute int
	// Application holds the built Vue application; nil serves the API alone.
	Application fs.FS
	// Reroute replaces an address before a creator opens it, as that of the public
	// listener does; nil for none.
	Reroute func(address string) string
	// Shed is how many events could not be kept since the process was started; nil
	// for none.
	Shed func() int64
	Now  func() time.Time
}

// Server is the studio listener.
type Server struct {
	Options
	api huma.API
	// registered are the operations for members.
	registered map[string]bool
	sessions   *scs.SessionManager
	limits     *rateLimits
	costs      *costs
	// describing are turns to fetch what a site says of itself.
	describing *turns.Turns[uuid.UUID]
	// following is what members follow at once.
	following *memberTurns
	// takingEvents are turns to take raw events away, of all and of each member.
	takingEvents   chan struct{}
	eventsOfMember *memberTurns
	// advising is the turn to work out an order.
	advising chan struct{}
	// goingLive are pages with changes that go live in a moment.
	goingLive goingLive
	// packing are turns to pack and unpack zips.
	packing chan struct{}
	// target is where our own host points, that hosts of workspaces point to.
	target  *expirable.LRU[string, []netip.Addr]
	handler http.Handler

	pages        pages.Pages
	sources      sources.Sources
	links        links.Links
	looks        looks.Looks
	destinations destinations.Destinations
	passkeys     *passkeys.Keys
}

// New makes the studio.
func New(options Options) (*Server, error) {
	use := pages.Pages{
		Store: options.Store, PublicOrigin: options.PublicOrigin, NoMail: !options.HasMail, Passcodes: options.Passwords, Now: options.Now,
	}
	s := &Server{
		Options: options, registered: make(map[string]bool), limits: newRateLimits(options.Now, cmp.Or(options.CutsPerMinute, usualCuts)),
		costs:     newCosts(options.Now),
		following: newMemberTurns(followedAtOnce), eventsOfMember: newMemberTurns(1),
		takingEvents: make(chan struct{}, eventsTakenAtOnce),
		describing:   turns.New[uuid.UUID](describedAtOnce, describedOfOne, describedWaiting), advising: make(chan struct{}, 1),
		packing: make(chan struct{}, packedAtOnce), target: expirable.NewLRU[string, []netip.Addr](1, nil, targetKept),
		pages: use,
		goingLive: goingLive{
			pages:   use,
			waiting: make(map[uuid.UUID]bool),
		},
		sources:      sources.Sources{Store: options.Store, Now: options.Now},
		destinations: destinations.Destinations{Store: options.Store, Now: options.Now},
		looks:        looks.Looks{Store: options.Store, Now: options.Now},
		links:        links.Links{Store: options.Store, Origin: options.PublicOrigin, Now: options.Now},
	}
	var err error
	if s.passkeys, err = passkeys.New(options.Origin, options.OwnKey, options.Now); err != nil {
		return nil, err
	}
	engine := gin.New()
	proxies := []string{}
	for _, prefix := range options.TrustedProxies {
		proxies = append(proxies, prefix.String())
	}
	if err := engine.SetTrustedProxies(proxies); err != nil {
		return nil, err
	}
	engine.Use(gin.Recovery(), s.securityHeaders)

	s.sessions = newSessions(options.Store, s.secure())
	s.api = humagin.New(engine, apiConfig())
	s.api.UseMiddleware(s.admit)
	s.addAccount()
	s.addSignUp()
	s.addCredentials()
	s.addSessions()
	s.addSecondFactor()
	s.addPasskeys()
	s.addAccountDeletion()
	s.addPages()
	s.addSteps()
	s.addEditions()
	s.addSeen()
	s.addTakeovers()
	s.addPageList()
	s.addPageFiles()
	s.addLinkFiles()
	s.addPasscodes()
	s.addAsEdited()
	s.addPageCheck()
	s.addPreviews()
	s.addMedia()
	s.addIcons()
	s.addLooks()
	s.addSources()
	s.addCodes()
	s.addSharing()
	s.addPlaces()
	s.addMaps()
	s.addFeeds()
	s.addWordings()
	s.addCodeWeights()
	s.addCampaigns()
	s.addShortLinks()
	s.addDestinations()
	s.addDestinationReadings()
	s.addManyDestinations()
	s.addWorkspace()
	s.addWeeklyLetter()
	s.addShared()
	s.addReadings()
	s.addLeftOut()
	s.addAdvice()
	s.addDetails()
	s.addLive()
	s.addFigureFiles()
	s.addTrials()
	s.addOff()
	s.addPartners()
	s.addWorkspaces()
	s.addMembers()
	s.addInvitations()
	s.addJournal()
	s.addAPITokens()
	s.addWebhooks()
	s.addSignUps()
	s.addDomains()
	s.addPayments()
	s.addBookings()
	s.addPresent()
	s.allRegistered()
	letHandlersWork(s.api)
	if err := s.addGuide(engine); err != nil {
		return nil, err
	}
	filehandler.Add(engine, filehandler.Options{Files: options.Files, Key: options.OwnKey})
	if options.Application != nil {
		if err := s.addApplication(engine); err != nil {
			return nil, err
		}
	}
	s.handler = gzhttp.GzipHandler(refuseCrossOrigin(http.MaxBytesHandler(s.sessions.LoadAndSave(engine), maxBody)))
	return s, nil
}

// letHandlersWork takes off the time huma gives a body to arrive, five seconds, which
// goes on over the work on it: a request that waits its turn would be broken off.
// admit has read the whole body by then, within the time the server gives it.
func letHandlersWork(api huma.API) {
	for _, path := range api.OpenAPI().Paths {
		for _, operation := range []*huma.Operation{path.Get, path.Put, path.Post, path.Patch, path.Delete} {
			if operation != nil {
				operation.BodyReadTimeout = -1
			}
		}
	}
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
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	config.Components.SecuritySchemes = map[string]*huma.SecurityScheme{
		memberSession: {Type: "apiKey", In: "cookie", Name: sessionCookie},
		programToken:  {Type: "http", Scheme: "bearer", Description: "A token of a program, made in the settings."},
	}
	return config
}

// schemaName names a schema as an engineer would: AddSourceRequest for what is sent
// to add-source, and the name of the type for everything else.
func schemaName(of reflect.Type, hint string) string {
	var name strings.Builder
	for part := range strings.SplitSeq(huma.DefaultSchemaNamer(of, hint), "-") {
		if part != "" {
			name.WriteString(strings.ToUpper(part[:1]) + part[1:])
		}
	}
	if before, isBody := strings.CutSuffix(name.String(), "InputBody"); isBody {
		return before + "Request"
	}
	return name.String()
}

func newSessions(s *store.Store, secure bool) *scs.SessionManager {
	sessions := scs.New()
	sessions.Store = s.Sessions()
	sessions.HashTokenInStore = true
	sessions.Lifetime = 90 * 24 * time.Hour
	sessions.IdleTimeout = 30 * 24 * time.Hour
	sessions.Cookie.Name = sessionCookie
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.Secure = secure
	return sessions
}

const (
	sessionCookie = "jundle_session"
	// usualCuts is how many cuts of pictures a workspace may make in a minute where
	// nothing is set.
	usualCuts = 60
	// describedAtOnce is how many sites are asked for their title at one time.
	describedAtOnce = 8
	// describedOfOne is how many of those one workspace asks for, and describedWaiting how many of it may wait.
	describedOfOne   = 3
	describedWaiting = 60
	// maxBody is above every operation's own limit, so that each can say what its
	// limit is, and below what would hurt.
	maxBody = 17 << 20
)

// refuseCrossOrigin keeps other sites from writing with a member's cookie.
func refuseCrossOrigin(next http.Handler) http.Handler {
	protection := http.NewCrossOriginProtection()
	protection.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/problem+json")
		w.WriteHeader(http.StatusForbidden)
		_, _ = w.Write(
			[]byte(
				`{"title":"Forbidden","status":403,"detail":"This came from another site, so nothing was changed. ` +
					`Open the studio itself and try again."}`,
			),
		)
	}))
	return protection.Handler(next)
}
