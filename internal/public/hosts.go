package public

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/core/domain"
	"jundle/internal/ownmark"
	"jundle/internal/store"
)

// ownHosts are the hosts that workspaces proved to be theirs. All of them are held in memory: who
// asks for made-up ones costs the database nothing.
type ownHosts struct {
	store *store.Store
	// reading is held while they are read, so that what is read later is kept later. Visitors wait for mu
	// alone.
	reading sync.Mutex
	mu      sync.RWMutex
	// byHost are those that are there now.
	byHost map[string]store.OwnHost
	// of are all of a workspace, those that were removed too, the main one first.
	of map[uuid.UUID][]store.OwnHost
}

func newOwnHosts(kept *store.Store) *ownHosts {
	return &ownHosts{store: kept, byHost: make(map[string]store.OwnHost), of: make(map[uuid.UUID][]store.OwnHost)}
}

// readAll reads them anew.
func (h *ownHosts) readAll(ctx context.Context) error { return h.read(ctx, nil) }

// read reads those of a workspace anew, or all.
func (h *ownHosts) read(ctx context.Context, workspace *uuid.UUID) error {
	ctx, cancel := context.WithTimeout(ctx, readWithin)
	defer cancel()
	h.reading.Lock()
	defer h.reading.Unlock()
	all, err := h.store.OwnHosts(ctx, workspace)
	if err != nil {
		return err
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	if workspace == nil {
		clear(h.byHost)
		clear(h.of)
	} else {
		for _, each := range h.of[*workspace] {
			if h.byHost[each.Host].WorkspaceID == *workspace {
				delete(h.byHost, each.Host)
			}
		}
		delete(h.of, *workspace)
	}
	for _, each := range all {
		h.of[each.WorkspaceID] = append(h.of[each.WorkspaceID], each)
		if each.RemovedAt == nil {
			h.byHost[each.Host] = each
		}
	}
	return nil
}

// at is the host that a request came under; nil for the one that all share.
func (h *ownHosts) at(host string) *store.OwnHost {
	h.mu.RLock()
	defer h.mu.RUnlock()
	if len(h.byHost) == 0 {
		return nil
	}
	if found, known := h.byHost[nameOfHost(host)]; known {
		return &found
	}
	return nil
}

// nameOfHost is a Host without port, in small letters, and without the dot of the root.
func nameOfHost(host string) string {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	return strings.ToLower(strings.TrimSuffix(strings.Trim(host, "[]"), "."))
}

// onlyKnown answers under no other hosts than the one that all share and those of workspaces: whoever has their own
// name lead here is not to show pages of others under it (RFC 9110 s15.5.20).
func (s *Server) onlyKnown(c *gin.Context) {
	if nameOfHost(c.Request.Host) == s.sharedName || s.hosts.at(c.Request.Host) != nil {
		return
	}
	s.notice(http.StatusMisdirectedRequest, spoken(s.requestOf(c).locale(), "nothing_here")).write(c)
	c.Abort()
}

// onlyPaths answers nothing under addresses that begin with two slashes: browsers take what follows them for a host
// wherever such a path is written (WHATWG URL, relative references).
func (s *Server) onlyPaths(c *gin.Context) {
	if strings.HasPrefix(c.Request.URL.Path, "//") {
		s.notFound(s.requestOf(c).locale()).write(c)
		c.Abort()
	}
}

// filesOf is whose files are there under the host of a request; nil for everybody's.
func (s *Server) filesOf(c *gin.Context) *uuid.UUID {
	if own := s.hosts.at(c.Request.Host); own != nil {
		return &own.WorkspaceID
	}
	return nil
}

// ofWorkspace are all that a workspace has or had, and the one its pages stand under; nil for the one
// that all share.
func (h *ownHosts) ofWorkspace(workspace uuid.UUID, at time.Time) (all []store.Domain, leads *store.OwnHost) {
	h.mu.RLock()
	defer h.mu.RUnlock()
	for _, each := range h.of[workspace] {
		all = append(all, each.Domain)
		if leads == nil && each.RemovedAt == nil && each.LeadsAt(at) {
			leads = &each
		}
	}
	return all, leads
}

// HasCertificate tells whether a host is one of a workspace's own that was given a certificate, for
// handshakes.
func (s *Server) HasCertificate(host string) bool {
	found := s.hosts.at(host)
	return found != nil && found.CertificateUntil != nil
}

// HostsChanged reads the hosts of a workspace anew, and forgets its pages. Where they cannot be read all are, in a
// while: nobody is to be led to a host that was lost.
func (s *Server) HostsChanged(workspace uuid.UUID) {
	if err := s.hosts.read(context.Background(), &workspace); err != nil {
		slog.Error("read the hosts of a workspace", "workspace", workspace, "error", err)
		s.readHostsLater()
	}
	s.pages.forget(func(found liveEndpoint) bool { return found.workspace() == workspace })
}

// readAgain is when hosts that could not be read are read again.
const readAgain = 5 * time.Second

// readHostsLater reads all hosts anew in a while, and then forgets all pages. Until then those in memory go on.
func (s *Server) readHostsLater() {
	time.AfterFunc(readAgain, func() {
		if err := s.hosts.readAll(context.Background()); err != nil {
			s.readHostsLater()
			return
		}
		s.pages.forget(func(liveEndpoint) bool { return true })
	})
}

// origin is under which a page stands: the workspace's own host, as long as that leads here, or the one
// that all share.
func (s *Server) origin(live *livePage) string { return s.originUnder(live.under) }

// linkOrigin is the same of a short link.
func (s *Server) linkOrigin(live *liveLink) string { return s.originUnder(live.under) }

func (s *Server) originUnder(host *store.OwnHost) string {
	if host == nil || !host.LeadsAt(s.Now()) {
		return s.Origin
	}
	return s.OwnOrigin(host.Host)
}

// workspaceOrigin is under which the pages of a workspace stand.
func (s *Server) workspaceOrigin(workspace uuid.UUID) string {
	_, leads := s.hosts.ofWorkspace(workspace, s.Now())
	return s.originUnder(leads)
}

// standsElsewhere answers who asked for a page of a visitor's own, such as that of a booking, under another host than
// those of its workspace: with nothing under a foreign one, and under the one that all share by sending who opens it on
// to the workspace's own. It reports false where the page is to be answered here.
func (s *Server) standsElsewhere(c *gin.Context, asked request, workspace uuid.UUID) bool {
	switch origin := s.workspaceOrigin(workspace); {
	case asked.host != nil && asked.host.WorkspaceID != workspace:
		s.notFound(asked.locale()).write(c)
	case asked.host == nil && origin != s.Origin && asked.method != http.MethodPost:
		answer{status: http.StatusSeeOther, header: s.headers.pressed, location: origin + c.Request.URL.RequestURI()}.write(c)
	default:
		return false
	}
	return true
}

// isElsewhere tells whether a page stands under another host than the one it was asked for under.
func (s *Server) isElsewhere(asked request, live *livePage) bool {
	if live.under == nil || !live.under.LeadsAt(s.Now()) {
		return false
	}
	return asked.host == nil || asked.host.ID != live.under.ID
}

// ledOn sends who asked for a page to the host it stands under. A member's browser is marked there on
// the way, because it is not known there.
func (s *Server) ledOn(asked request, live *livePage, tag string) answer {
	origin := s.origin(live)
	if s.isOwn(asked.ownMark, live.WorkspaceID) {
		mark := ownmark.Make(s.OwnKey, live.WorkspaceID, s.Now().Add(10*time.Minute))
		marks := origin + "/-/own/" + mark + "?" + s.ownEntry(asked, live, tag)
		return answer{status: http.StatusSeeOther, header: s.headers.moved, location: marks}
	}
	led := s.moved(asked, live, tag)
	led.location = origin + led.location
	return led
}

// ownEntry names the page to go on to, and how it was opened.
func (s *Server) ownEntry(asked request, live *livePage, tag string) string {
	entry := url.Values{"page": {live.Address}}
	if live.tags[tag] != "" {
		entry.Set("tag", tag)
	}
	if lang := live.reads(asked, chosenIn(asked.query)); lang != "" {
		entry.Set("lang", lang)
	}
	return entry.Encode()
}

// byTLS has browsers come by TLS, and who comes to a host of a workspace's own without come again with it.
func (s *Server) byTLS(c *gin.Context) {
	host := s.hosts.at(c.Request.Host)
	switch {
	case host == nil:
		if strings.HasPrefix(s.Origin, "https:") {
			c.Writer.Header()["Strict-Transport-Security"] = sharedPin
		}
	case host.StateAt(s.Now()) != domain.InUse:
	case s.isSecure(c):
		c.Writer.Header()["Strict-Transport-Security"] = hostPin
	default:
		answer{
			status: http.StatusPermanentRedirect, header: s.headers.moved, location: s.OwnOrigin(host.Host) + c.Request.URL.RequestURI(),
		}.write(c)
		c.Abort()
	}
}

// isSecure tells whether a request came by TLS, here or to a proxy that is trusted.
func (s *Server) isSecure(c *gin.Context) bool {
	if c.Request.TLS != nil {
		return true
	}
	from, err := netip.ParseAddrPort(c.Request.RemoteAddr)
	return err == nil && s.trusted(from.Addr().Unmap()) && c.GetHeader("X-Forwarded-Proto") == "https"
}

// onlyShared keeps what is the service's off hosts of workspaces' own.
func (s *Server) onlyShared(c *gin.Context) {
	if s.hosts.at(c.Request.Host) != nil {
		s.notFound(s.requestOf(c).locale()).write(c)
		c.Abort()
	}
}

// For how long browsers come by TLS from then on (RFC 6797): for a year to the host that all share, and for a
// week to one of a workspace's own, because its owner may take it elsewhere.
var sharedPin, hostPin = []string{"max-age=31536000"}, []string{"max-age=604800"}

// inFront tells whether a page stands at the host itself.
func (l *livePage) inFront() bool { return l.under != nil && l.under.Front == l.Address }
