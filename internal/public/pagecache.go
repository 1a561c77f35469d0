package public

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/url"
	"strconv"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"golang.org/x/sync/singleflight"

	"jundle/internal/core/address"
	"jundle/internal/core/audience"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/payment"
	"jundle/internal/core/source"
	"jundle/internal/render"
	"jundle/internal/store"
)

// How much is held in memory, in bytes.
const (
	cachedPages    = 48 << 20
	cachedEditions = 16 << 20
	cachedDrawings = 64 << 20
	cachedBases    = 16 << 20
)

const (
	// drawnAtOnce is how much is drawn at the same time at most, drawingsWaiting how much of one page may wait.
	drawnAtOnce     = 4
	drawingsWaiting = 1000
)

const (
	// readWithin is how long a visitor waits for a page that is not held.
	readWithin = 10 * time.Second
	// unknownFor is for how long an address that leads nowhere is not asked for
	// again.
	unknownFor = 5 * time.Second
)

// livePage is a published page as it is held in memory.
type livePage struct {
	store.LivePage
	// dependsOn are the destinations and feeds whose changes are changes of the page.
	dependsOn map[string]bool
	// tags are all of the page's, each with the ID of its source.
	tags       map[string]string
	attributor *source.Attributor
	// under is the host of the workspace's own that it stands under; nil for the one that all share.
	under *store.OwnHost
	// pays are the hosts that its forms may lead to for paying.
	pays []string
	// runsCodes: there are tracking codes on it that run.
	runsCodes bool
	// tellsApart are the sources that its rules name.
	tellsApart map[string]bool
	// offered finds the language of the page that a visitor reads; nil where there is but one.
	offered *offered
	// serial tells it from the same page read again after a change.
	serial uint64
}

// locale is that of the page.
func (p *livePage) locale() *locale.Locale { return locale.Of(p.Document.Language) }

// liveLink is a short link as it is held in memory.
type liveLink struct {
	store.ShortLink
	attributor *source.Attributor // of no sources: a short link's visits are known by network
	under      *store.OwnHost
}

// liveEndpoint is what an address leads to: a page, or a short link.
type liveEndpoint struct {
	page *livePage
	link *liveLink
}

// isOrLeadsTo tells whether a change of a page, a short link, a destination or a feed is one
// of this for its visitors.
func (l liveEndpoint) isOrLeadsTo(id uuid.UUID) bool {
	if l.link != nil {
		return l.link.ID == id || l.link.Link.DestinationID == id.String() || l.link.Link.FallbackID == id.String()
	}
	return l.page.PageID == id || l.page.dependsOn[id.String()]
}

// workspace is whose it is.
func (l liveEndpoint) workspace() uuid.UUID {
	if l.link != nil {
		return l.link.WorkspaceID
	}
	return l.page.WorkspaceID
}

// isDeleted tells whether it was deleted, and may still be taken back.
func (l liveEndpoint) isDeleted() bool {
	if l.link != nil {
		return l.link.DeleteAt != nil
	}
	return l.page.Deleted
}

// isTakenDown tells whether whoever runs the service took it away from visitors.
func (l liveEndpoint) isTakenDown() bool {
	if l.link != nil {
		return l.link.TakenDownAt != nil
	}
	return l.page.TakenDown
}

// Guesses at what things weigh beyond their texts, in bytes.
const (
	weightOfEntry  = 2 << 10
	weightOfSource = 1 << 10
	weightOfTarget = 400
)

func (l liveEndpoint) weight() int {
	if l.link != nil {
		return weightOfEntry + 4*len(l.link.Link.Destination)
	}
	// A document in memory is about three times its JSON.
	return weightOfEntry + 3*l.page.Bytes + weightOfSource*len(l.page.Sources)
}

// pressable is what an audience can press on an edition, for as long as it is that.
type pressable struct {
	validity
	targets        page.Targets
	destinationIDs map[string]bool
}

// validity is the time in which something that was worked out holds: what a page shows
// may change by itself.
type validity struct{ from, until time.Time }

// validAt is the validity of what was worked out at a moment and changes next at others.
// It begins a little earlier where nothing changed in between, for who asked before and
// is answered later.
func validAt(at time.Time, next func(time.Time) time.Time) validity {
	if before := at.Add(-time.Minute); next(before).After(at) {
		return validity{before, next(at)}
	}
	return validity{at, next(at)}
}

func (v validity) holds(at time.Time) bool { return !at.Before(v.from) && at.Before(v.until) }

// pressableKey names an edition of a page as it was read once, and the source an
// audience came from.
type pressableKey struct {
	editionKey
	serial uint64
	source string
}

// editionKey names one edition of one page.
type editionKey struct {
	page   uuid.UUID
	number int
}

// goneKey names something that was taken off a page, as its live edition stands.
type goneKey struct {
	editionKey
	key, item string
}

// pageCache holds live pages and short links by every address they are asked for
// under, and what can be pressed on editions, older ones that open browser tabs still
// show among them. Who asks for the same at the same time waits for one reading of it.
type pageCache struct {
	store     *store.Store
	hosts     *ownHosts
	now       func() time.Time
	reroute   func(address string) string
	networks  *source.Networks
	ours      []string // hosts that a visit cannot come from
	byAddress *weighed[string, liveEndpoint]
	pressed   *weighed[pressableKey, pressable]
	gone      *weighed[goneKey, store.TakenOff]
	// unknown are addresses that led nowhere a moment ago, with the version then.
	unknown *expirable.LRU[string, uint64]
	reading singleflight.Group
	serials atomic.Uint64

	mu      sync.Mutex
	version uint64
}

func newPageCache(options Options, host string, hosts *ownHosts) *pageCache {
	ours := []string{host}
	if studio, err := url.Parse(options.StudioOrigin); err == nil {
		ours = append(ours, studio.Hostname())
	}
	return &pageCache{
		store: options.Store, hosts: hosts, now: options.Now, reroute: options.Reroute, networks: options.Networks, ours: ours,
		byAddress: newWeighed[string, liveEndpoint](cachedPages),
		pressed:   newWeighed[pressableKey, pressable](cachedEditions), gone: newWeighed[goneKey, store.TakenOff](cachedEditions),
		unknown: expirable.NewLRU[string, uint64](20_000, nil, unknownFor),
	}
}

func (c *pageCache) versionNow() uint64 {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.version
}

// find finds the page or the short link an address leads to; store.ErrNotFound
// when it leads to neither, or to a page that was never published.
func (c *pageCache) find(name string) (liveEndpoint, error) {
	if found, ok := c.byAddress.get(name); ok {
		return found, nil
	}
	if !address.IsName(name) {
		return liveEndpoint{}, store.ErrNotFound // whatever it is, the database need not be asked
	}
	version := c.versionNow()
	if since, unknown := c.unknown.Get(name); unknown && since == version {
		return liveEndpoint{}, store.ErrNotFound
	}
	// The version keeps who asks after a change from what was read before it.
	found, err, _ := c.reading.Do(name+" "+strconv.FormatUint(version, 10), func() (any, error) {
		found, err := c.read(name)
		switch {
		case err == nil:
			c.keep(name, found, version)
		case notFound(err):
			c.unknown.Add(name, version)
		}
		return found, err
	})
	return found.(liveEndpoint), err
}

// keep holds what was read, unless a change was announced since.
func (c *pageCache) keep(name string, found liveEndpoint, version uint64) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if version == c.version {
		c.byAddress.add(name, found, found.weight())
	}
}

func (c *pageCache) read(name string) (found liveEndpoint, err error) {
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	if found.page, err = c.readPage(ctx, name); notFound(err) {
		found.page = nil
		found.link, err = c.readLink(ctx, name)
	}
	return found, err
}

func (c *pageCache) readLink(ctx context.Context, name string) (*liveLink, error) {
	row, err := c.store.LiveLink(ctx, name)
	attributor, under := c.attributor(row.WorkspaceID, nil)
	return &liveLink{row, attributor, under}, err
}

func (c *pageCache) readPage(ctx context.Context, name string) (*livePage, error) {
	row, err := c.store.LivePage(ctx, name)
	if err != nil {
		return nil, err
	}
	if row.Edition == 0 {
		return nil, store.ErrNotFound
	}
	live := &livePage{LivePage: row, tags: map[string]string{}, serial: c.serials.Add(1)}
	live.attributor, live.under = c.attributor(row.WorkspaceID, row.Sources)
	live.pays = render.PayHosts(payment.Site(row.PaidAt), c.reroute)
	live.dependsOn = make(map[string]bool)
	for _, id := range append(row.Document.DestinationIDs(), row.Document.FeedIDs()...) {
		live.dependsOn[id] = true
	}
	live.tellsApart = row.Document.TellsApart()
	live.offered, live.runsCodes = offeredBy(row.Document), len(row.Document.RunningCodes()) > 0
	for _, source := range row.Sources {
		for _, tag := range source.Tags {
			live.tags[tag] = source.ID
		}
	}
	return live, nil
}

// attributor finds sources of something of a workspace, and the host of its own that it stands under.
func (c *pageCache) attributor(workspace uuid.UUID, sources []source.Candidate) (*source.Attributor, *store.OwnHost) {
	made := source.NewAttributor(sources, c.networks, c.ours...)
	own, under := c.hosts.ofWorkspace(workspace, c.now())
	store.AddOurs(made, own)
	return made, under
}

// targetsOf finds what an audience could press on a published edition of a page. An
// audience from a source that is none of the page's is one from nowhere, so that
// nobody can fill the memory with made-up ones.
func (c *pageCache) targetsOf(live *livePage, number int, to audience.Audience) (page.Targets, error) {
	if number < 1 || number > live.Edition {
		return nil, store.ErrNotFound
	}
	if _, known := live.attributor.Find(to.Source); !known {
		to.Source = ""
	}
	key := pressableKey{editionKey{live.PageID, number}, live.serial, to.Source}
	version := c.versionNow()
	if held, ok := c.pressed.get(key); ok && held.holds(to.At) {
		return held.targets, nil
	}
	read, err, _ := c.reading.Do(fmt.Sprint(live.serial, " edition ", number, " ", to.Source, " ", version), func() (any, error) {
		document, err := c.edition(live, number)
		if err != nil {
			return page.Targets{}, err
		}
		targets := document.Targets(to)
		weight := weightOfEntry
		for _, items := range targets {
			weight += weightOfTarget * (1 + len(items))
		}
		c.mu.Lock()
		defer c.mu.Unlock()
		if version == c.version {
			c.pressed.add(key, pressable{validAt(to.At, document.NextTargets), targets, targets.DestinationIDs()}, weight)
		}
		return targets, nil
	})
	return read.(page.Targets), err
}

// edition is the document of a published edition.
func (c *pageCache) edition(live *livePage, number int) (page.Document, error) {
	if number == live.Edition {
		return live.Document, nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	edition, err := c.store.PublishedEdition(ctx, live.WorkspaceID, live.PageID, number)
	return edition.Document, err
}

// takenOff tells when something that could be pressed was taken off a page.
func (c *pageCache) takenOff(live *livePage, key, item string) (store.TakenOff, error) {
	name := goneKey{editionKey{live.PageID, live.Edition}, key, item}
	if gone, ok := c.gone.get(name); ok {
		return gone, nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	gone, err := c.store.TakenOff(ctx, live.PageID, key, item)
	if err == nil {
		c.gone.add(name, gone, weightOfTarget)
	}
	return gone, err
}

// Forget drops a page or a short link that has changed for its visitors, and all that
// lead to a destination that has; the next visit reads them anew.
func (s *Server) Forget(id uuid.UUID) {
	s.pages.forget(func(found liveEndpoint) bool { return found.isOrLeadsTo(id) })
	s.pages.pressed.removeIf(func(key pressableKey, held pressable) bool { return key.page == id || held.destinationIDs[id.String()] })
}

// ForgetAll drops them all, and reads the hosts of workspaces anew, after changes may have gone by
// unheard.
func (s *Server) ForgetAll() {
	if err := s.hosts.readAll(context.Background()); err != nil {
		slog.Error("read the hosts of workspaces", "error", err)
		s.readHostsLater()
	}
	s.pages.forget(func(liveEndpoint) bool { return true })
	s.pages.pressed.removeIf(func(pressableKey, pressable) bool { return true })
}

// forget drops what is held of some addresses.
func (c *pageCache) forget(which func(liveEndpoint) bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.version++
	c.byAddress.removeIf(func(_ string, found liveEndpoint) bool { return which(found) })
}

func notFound(err error) bool { return errors.Is(err, store.ErrNotFound) }
