package public

import (
	"context"
	"errors"
	"net/url"
	"strconv"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"golang.org/x/sync/singleflight"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/store"
)

// How much is held in memory, in bytes.
const (
	cachedPages    = 48 << 20
	cachedEditions = 16 << 20
	cachedDrawings = 64 << 20
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
	targets page.Targets
	tags    map[string]bool
	book    *source.Book
	// serial tells it from the same page read again after a change.
	serial uint64
}

// liveLink is a short link as it is held in memory.
type liveLink struct {
	store.ShortLink
	book *source.Book // of no sources: a short link's visits are known by network
}

// led is what an address leads to: a page, or a short link.
type led struct {
	page *livePage
	link *liveLink
}

func (l led) id() uuid.UUID {
	if l.link != nil {
		return l.link.ID
	}
	return l.page.PageID
}

// Guesses at what things weigh beyond their texts, in bytes.
const (
	weightOfEntry  = 2 << 10
	weightOfSource = 1 << 10
	weightOfTarget = 400
)

func (l led) weight() int {
	if l.link != nil {
		return weightOfEntry + 4*len(l.link.Link.Destination)
	}
	// A document in memory is about three times its JSON.
	return weightOfEntry + 3*l.page.Bytes + weightOfSource*len(l.page.Sources)
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
// under, and what could be pressed on older editions that open browser tabs still
// show. Who asks for the same at the same time waits for one reading of it.
type pageCache struct {
	store     *store.Store
	networks  *source.Networks
	ours      []string // hosts that a visit cannot come from
	byAddress *weighed[string, led]
	editions  *weighed[editionKey, page.Targets]
	gone      *weighed[goneKey, store.TakenOff]
	// unknown are addresses that led nowhere a moment ago, with the version then.
	unknown *expirable.LRU[string, uint64]
	reading singleflight.Group
	serials atomic.Uint64

	mu      sync.Mutex
	version uint64
}

func newPageCache(options Options, host string) *pageCache {
	ours := []string{host}
	if studio, err := url.Parse(options.StudioOrigin); err == nil {
		ours = append(ours, studio.Hostname())
	}
	return &pageCache{
		store: options.Store, networks: options.Networks, ours: ours, byAddress: newWeighed[string, led](cachedPages),
		editions: newWeighed[editionKey, page.Targets](cachedEditions), gone: newWeighed[goneKey, store.TakenOff](cachedEditions),
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
func (c *pageCache) find(name string) (led, error) {
	if found, ok := c.byAddress.get(name); ok {
		return found, nil
	}
	if !address.IsName(name) {
		return led{}, store.ErrNotFound // whatever it is, the database need not be asked
	}
	version := c.versionNow()
	if since, unknown := c.unknown.Get(name); unknown && since == version {
		return led{}, store.ErrNotFound
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
	return found.(led), err
}

// keep holds what was read, unless a change was announced since.
func (c *pageCache) keep(name string, found led, version uint64) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if version == c.version {
		c.byAddress.add(name, found, found.weight())
	}
}

func (c *pageCache) read(name string) (found led, err error) {
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
	return &liveLink{row, source.NewBook(nil, c.networks, c.ours...)}, err
}

func (c *pageCache) readPage(ctx context.Context, name string) (*livePage, error) {
	row, err := c.store.LivePage(ctx, name)
	if err != nil {
		return nil, err
	}
	if row.Edition == 0 {
		return nil, store.ErrNotFound
	}
	live := &livePage{
		LivePage: row, targets: row.Document.Targets(), tags: map[string]bool{}, book: source.NewBook(row.Sources, c.networks, c.ours...), serial: c.serials.Add(1),
	}
	for _, source := range row.Sources {
		for _, tag := range source.Tags {
			live.tags[tag] = true
		}
	}
	return live, nil
}

// targetsOf finds what could be pressed on a published edition of a page.
func (c *pageCache) targetsOf(live *livePage, number int) (page.Targets, error) {
	if number == live.Edition {
		return live.targets, nil
	}
	if number < 1 || number > live.Edition {
		return nil, store.ErrNotFound
	}
	key := editionKey{live.PageID, number}
	if targets, ok := c.editions.get(key); ok {
		return targets, nil
	}
	read, err, _ := c.reading.Do(live.PageID.String()+" edition "+strconv.Itoa(number), func() (any, error) {
		ctx, cancel := context.WithTimeout(context.Background(), readWithin)
		defer cancel()
		edition, err := c.store.PublishedEdition(ctx, live.PageID, number)
		if err != nil {
			return page.Targets{}, err
		}
		targets := edition.Document.Targets()
		weight := weightOfEntry
		for _, items := range targets {
			weight += weightOfTarget * (1 + len(items))
		}
		c.editions.add(key, targets, weight)
		return targets, nil
	})
	return read.(page.Targets), err
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

// Forget drops a page or a short link that has changed for its visitors; the next
// visit reads it anew.
func (s *Server) Forget(id uuid.UUID) {
	s.pages.mu.Lock()
	defer s.pages.mu.Unlock()
	s.pages.version++
	s.pages.byAddress.removeIf(func(_ string, found led) bool { return found.id() == id })
}

// ForgetAll drops them all, after changes may have gone by unheard.
func (s *Server) ForgetAll() {
	s.pages.mu.Lock()
	defer s.pages.mu.Unlock()
	s.pages.version++
	s.pages.byAddress.removeIf(func(string, led) bool { return true })
}

func notFound(err error) bool { return errors.Is(err, store.ErrNotFound) }
