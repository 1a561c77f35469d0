package public

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"net/url"
	"sync"
	"time"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/valyala/fasthttp"

	"jundle/internal/core/address"
	"jundle/internal/core/source"
	"jundle/internal/render"
	"jundle/internal/store"
)

const (
	// cachedPages bounds how many pages are held in memory.
	cachedPages = 10_000
	// readWithin is how long a visitor waits for a page that is not.
	readWithin = 10 * time.Second
)

// livePage is a published page as it is held in memory, with what it looks like
// for each tag.
type livePage struct {
	store.LivePage
	tags map[string]bool
	book *source.Book

	mu    sync.Mutex
	drawn map[string]*drawing
}

// drawing is a page drawn for one tag, ready to be sent.
type drawing struct {
	plain, packed []byte
	etag          string
	// header and packedHeader are those of the page, and of its packed form, whole.
	header, packedHeader fasthttp.ResponseHeader
}

// fill sets what is said of a page in every answer with it.
func (d *drawing) fill(header *fasthttp.ResponseHeader, policy string, packed bool) {
	// Asking again each time keeps the page fresh and the count whole.
	header.Set("Cache-Control", "private, no-cache")
	header.Set("ETag", d.etag)
	header.Set("Vary", "Accept-Encoding")
	header.Set("Content-Security-Policy", policy)
	header.SetContentType("text/html; charset=utf-8")
	if packed {
		header.SetContentEncoding("gzip")
	}
	complete(header)
}

// draw returns the page for a tag. A tag that is none of the page's is drawn as
// if there were none, so that nobody can fill the memory with made-up ones.
func (p *livePage) draw(origin, tag string) (*drawing, error) {
	if !p.tags[tag] {
		tag = ""
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if ready := p.drawn[tag]; ready != nil {
		return ready, nil
	}
	plain, policy, err := render.Page(p.Document, render.Visit{Origin: origin, Address: p.Address, Edition: p.Edition, Tag: tag})
	if err != nil {
		return nil, err
	}
	var packed bytes.Buffer
	writer, err := gzip.NewWriterLevel(&packed, gzip.BestCompression)
	if err != nil {
		return nil, err
	}
	if _, err := writer.Write(plain); err != nil {
		return nil, err
	}
	if err := writer.Close(); err != nil {
		return nil, err
	}
	sum := sha256.Sum256(plain)
	etag := `"` + hex.EncodeToString(sum[:12]) + `"`
	ready := &drawing{plain: plain, packed: packed.Bytes(), etag: etag}
	ready.fill(&ready.header, policy, false)
	ready.fill(&ready.packedHeader, policy, true)
	p.drawn[tag] = ready
	return ready, nil
}

// editionKey names one edition of one page.
type editionKey struct {
	page   uuid.UUID
	number int
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

// pageCache holds live pages and short links by every address they are asked for
// under, and older editions that open browser tabs still show.
type pageCache struct {
	store     *store.Store
	networks  *source.Networks
	ours      []string // hosts that a visit cannot come from
	byAddress *lru.Cache[string, led]
	editions  *lru.Cache[editionKey, store.Edition]

	mu      sync.Mutex
	version uint64
}

func newPageCache(options Options, host string) *pageCache {
	ours := []string{host}
	if studio, err := url.Parse(options.StudioOrigin); err == nil {
		ours = append(ours, studio.Hostname())
	}
	byAddress, _ := lru.New[string, led](cachedPages)
	editions, _ := lru.New[editionKey, store.Edition](cachedPages)
	return &pageCache{store: options.Store, networks: options.Networks, ours: ours, byAddress: byAddress, editions: editions}
}

// find finds the page or the short link an address leads to; store.ErrNotFound
// when it leads to neither, or to a page that was never published.
func (c *pageCache) find(name string) (led, error) {
	if found, ok := c.byAddress.Get(name); ok {
		return found, nil
	}
	if !address.IsName(name) {
		return led{}, store.ErrNotFound // whatever it is, the database need not be asked
	}
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	c.mu.Lock()
	version := c.version
	c.mu.Unlock()
	var found led
	var err error
	if found.page, err = c.readPage(ctx, name); notFound(err) {
		found.page = nil
		found.link, err = c.readLink(ctx, name)
	}
	if err != nil {
		return led{}, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	// What was read before a change was announced must not be kept after it.
	if version == c.version {
		c.byAddress.Add(name, found)
	}
	return found, nil
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
	live := &livePage{LivePage: row, tags: map[string]bool{}, book: source.NewBook(row.Sources, c.networks, c.ours...), drawn: map[string]*drawing{}}
	for _, source := range row.Sources {
		for _, tag := range source.Tags {
			live.tags[tag] = true
		}
	}
	return live, nil
}

// edition finds a published edition of a page.
func (c *pageCache) edition(live *livePage, number int) (store.Edition, error) {
	if number == live.Edition {
		return store.Edition{PageID: live.PageID, Number: number, Document: live.Document}, nil
	}
	key := editionKey{live.PageID, number}
	if edition, ok := c.editions.Get(key); ok {
		return edition, nil
	}
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	edition, err := c.store.PublishedEdition(ctx, live.PageID, number)
	if err == nil {
		c.editions.Add(key, edition)
	}
	return edition, err
}

// Forget drops a page or a short link that has changed for its visitors; the next
// visit reads it anew.
func (s *Server) Forget(id uuid.UUID) {
	s.pages.mu.Lock()
	defer s.pages.mu.Unlock()
	s.pages.version++
	for _, address := range s.pages.byAddress.Keys() {
		if found, ok := s.pages.byAddress.Peek(address); ok && found.id() == id {
			s.pages.byAddress.Remove(address)
		}
	}
}

// ForgetAll drops them all, after changes may have gone by unheard.
func (s *Server) ForgetAll() {
	s.pages.mu.Lock()
	defer s.pages.mu.Unlock()
	s.pages.version++
	s.pages.byAddress.Purge()
}

func notFound(err error) bool { return errors.Is(err, store.ErrNotFound) }
