// Package public answers what visitors touch: pages, click-through, short links,
// and the pictures on them. It sets no cookie on visitors and serves no script.
//
// It reads through a cache, and answers once what happened is on disk; nobody
// waits for the database.
package public

import (
	"context"
	"crypto/rand"
	"fmt"
	"net/http"
	"net/netip"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"golang.org/x/sync/singleflight"

	"jundle/internal/app/payments"
	"jundle/internal/core/booking"
	"jundle/internal/core/source"
	"jundle/internal/files"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
	"jundle/internal/turns"
)

// Options are what the public listener is made with.
type Options struct {
	Store    *store.Store
	Files    *files.Files
	Recorder *ingest.Recorder
	Networks *source.Networks
	// Origin is where visitors reach it, such as https://kiln.example.
	Origin string
	// OwnOrigin is where visitors reach a host of a workspace's own.
	OwnOrigin func(host string) string
	// StudioOrigin is where the studio is, to send members back to.
	StudioOrigin string
	// OwnKey is what marks of members are signed with.
	OwnKey []byte
	// LetterKey is what links of letters to those who left their address are signed with.
	LetterKey []byte
	// TrustedProxies are the networks whose X-Forwarded-For is believed.
	TrustedProxies []netip.Prefix
	// AbuseLink is where misuse is reported; empty for nowhere.
	AbuseLink string
	// Payments has visitors pay.
	Payments payments.Payments
	// TrackingCodes: those of creators run on their pages.
	TrackingCodes bool
	// Reroute replaces a destination before the visitor is sent there. The demo
	// uses it to reach made-up sites; nil otherwise.
	Reroute func(address string) string
	Now     func() time.Time
}

// Server is the public listener.
type Server struct {
	Options
	host string
	// sharedName is the name of the host that all share, without port.
	sharedName string
	headers    headers
	hosts      *ownHosts
	pages      *pageCache
	engine     *gin.Engine
	// drawings are pages that were drawn, drawingNow those that are being.
	drawings   *weighed[drawingKey, *drawing]
	drawingNow singleflight.Group
	// drawnFigures are shared figures that were drawn a moment ago.
	drawnFigures *weighed[string, drawnFigures]
	figuresNow   singleflight.Group
	// drawTurns are turns to draw something of a page, for as long as it takes a processor. One is left to
	// visitors of what is drawn already.
	drawTurns *turns.Turns[uuid.UUID]
	// bases are pages that were drawn for all tags, with tagPlace where a tag stands: a random word that
	// no creator can have written.
	bases    *weighed[baseKey, base]
	tagPlace string
	// oncePlace stands in forms where the key of each is to stand.
	oncePlace string
	// pictures are those for posts that were drawn.
	pictures    *weighed[editionKey, []byte]
	picturesNow singleflight.Group
	// sitemaps are those that were made a moment ago.
	sitemaps   *weighed[string, drawnSitemap]
	sitemapNow singleflight.Group
	// taken are the times that are taken on pages, as they were a moment ago.
	taken    *expirable.LRU[uuid.UUID, []booking.Span]
	takenNow singleflight.Group
	// times are forms with times to ask for that were drawn a moment ago.
	times *expirable.LRU[timesKey, answer]
	// paying are turns to begin a payment of a workspace.
	paying *turns.Turns[uuid.UUID]
	// notices are those that were drawn.
	notices *lru.Cache[render.Notice, answer]
	// gates are those that were drawn.
	gates *lru.Cache[gateKey, answer]
	// signUps are pages about sign-ups that were drawn.
	signUps *lru.Cache[signUpKey, answer]
}

// New makes the listener. What changes a page is told to it through
// Forget.
func New(options Options) (*Server, error) {
	origin, err := url.Parse(options.Origin)
	if err != nil {
		return nil, err
	}
	hosts := newOwnHosts(options.Store)
	if err := hosts.readAll(context.Background()); err != nil {
		return nil, fmt.Errorf("read the hosts of workspaces: %w", err)
	}
	s := &Server{
		Options: options, host: origin.Host, sharedName: nameOfHost(origin.Host), headers: newHeaders(), hosts: hosts,
		pages:  newPageCache(options, origin.Hostname(), hosts),
		engine: gin.New(), drawings: newWeighed[drawingKey, *drawing](cachedDrawings),
		drawnFigures: newWeighed[string, drawnFigures](cachedFigures), pictures: newWeighed[editionKey, []byte](cachedPictures),
		bases: newWeighed[baseKey, base](cachedBases), tagPlace: strings.ToLower(rand.Text()),
		oncePlace: strings.ToLower(rand.Text()),
		drawTurns: turns.New[uuid.UUID](turns.Spare(drawnAtOnce), 1, drawingsWaiting),
		taken:     expirable.NewLRU[uuid.UUID, []booking.Span](takenHeld, nil, takenFor),
		times:     expirable.NewLRU[timesKey, answer](timesHeld, nil, takenFor),
		paying:    turns.New[uuid.UUID](PaymentsAtOnce, paymentsOfOne, paymentsWaiting),
		sitemaps:  newWeighed[string, drawnSitemap](heldSitemaps),
	}
	s.notices, _ = lru.New[render.Notice, answer](1000)
	s.gates, _ = lru.New[gateKey, answer](1000)
	s.signUps, _ = lru.New[signUpKey, answer](1000)
	s.addRoutes()
	return s, nil
}

// ServeHTTP implements http.Handler.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.engine.ServeHTTP(w, r) }
