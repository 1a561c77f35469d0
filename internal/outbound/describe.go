package outbound

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"io"
	"mime"
	"net/url"
	"slices"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"

	"jundle/internal/core/oembed"
)

const (
	maxPage    = 1 << 20
	maxPicture = 6 << 20
)

// Description is what a site says of itself.
type Description struct {
	// Title may be empty.
	Title string
	// Picture holds the bytes of the picture the site offers for itself, as they
	// came; nil when it offers none that can be had.
	Picture []byte
	// Feed: there is no page there but a feed.
	Feed bool
	// Player is that of a film or a sound; nil where there is none that may be shown.
	Player *oembed.Player
}

// ErrNoPage is answered for an address that is no web page.
var ErrNoPage = errors.New("there is no page to read a title from")

// feedKinds are the media types that feeds are served with (RFC 4287 s7, JSON Feed 1.1, and
// common practice for RSS).
var feedKinds = map[string]bool{
	"application/rss+xml": true, "application/atom+xml": true, "application/feed+json": true, "application/rdf+xml": true,
	"application/xml": true, "text/xml": true,
}

// Describe reads the title and the picture a page offers for itself, and which player
// shows what is on it. A picture or a player that cannot be had does not fail the title.
func (c *Client) Describe(ctx context.Context, address string) (Description, error) {
	if known, ok := oembed.Find(address); ok {
		if found, err := c.describePlayer(ctx, known, address); err == nil {
			return found, nil
		}
	}
	body, contentType, from, err := c.Get(ctx, address, "text/html,application/xhtml+xml,*/*;q=0.1", maxPage)
	if err != nil {
		return Description{}, err
	}
	kind, _, _ := mime.ParseMediaType(contentType)
	if feedKinds[kind] {
		return Description{Feed: true}, nil
	}
	if kind != "text/html" && kind != "application/xhtml+xml" {
		return Description{}, ErrNoPage
	}
	reader, err := charset.NewReader(bytes.NewReader(body), contentType)
	if err != nil {
		return Description{}, err
	}
	read := readHead(ctx, reader, from)
	if named, ok := oembed.Named(address, read.player); ok {
		if found, err := c.describePlayer(ctx, named, address); err == nil {
			found.Title = cmp.Or(found.Title, read.title)
			if found.Picture == nil {
				found.Picture = c.picture(ctx, read.picture)
			}
			return found, nil
		}
	}
	return Description{Title: read.title, Picture: c.picture(ctx, read.picture)}, nil
}

// picture are the bytes of a picture; nil where it cannot be had.
func (c *Client) picture(ctx context.Context, address string) []byte {
	if address == "" {
		return nil
	}
	body, _, _, err := c.Get(ctx, address, "image/*", maxPicture)
	if err != nil {
		return nil
	}
	return body
}

// describePlayer is what an endpoint says of the film or the sound on a page.
func (c *Client) describePlayer(ctx context.Context, from oembed.Endpoint, address string) (Description, error) {
	body, _, _, err := c.Get(ctx, from.Request(address), "application/json", oembed.MaxAnswer)
	if err != nil {
		return Description{}, err
	}
	player, err := oembed.Read(body, from)
	if err != nil {
		return Description{}, err
	}
	return Description{Title: player.Title, Picture: c.picture(ctx, player.Still), Player: &player}, nil
}

// Limits on the markup of a page that is read.
const (
	// maxTokens is how many tags and stretches of text are looked at.
	maxTokens = 20_000
	// maxToken is the longest of them, in bytes; the page is not read beyond a
	// longer one.
	maxToken = 256 << 10
	// maxName is how much of a title is kept, in bytes.
	maxName = 2000
)

// heading is what the head of a page says of it. Addresses are whole ones, and empty where
// there are none.
type heading struct{ title, picture, player, feed string }

// readHead finds the title and the address of the picture in a page, preferring
// what the page says of itself by the Open Graph protocol, and where its player and its
// feed are asked for. It reads token by token and builds nothing, and ends with ctx; what
// was found by then is answered.
func readHead(ctx context.Context, page io.Reader, from *url.URL) (found heading) {
	h := head{tokens: html.NewTokenizer(page), alternates: make(map[string]string)}
	h.tokens.SetMaxBuf(maxToken)
	for range maxTokens {
		if ctx.Err() != nil || !h.next() {
			break
		}
	}
	for _, candidate := range []string{h.card, h.title.String(), h.heading.String()} {
		if found.title = strings.Join(strings.Fields(candidate), " "); found.title != "" {
			break
		}
	}
	whole := func(text string) string {
		reference, err := url.Parse(text)
		if err != nil || text == "" {
			return ""
		}
		return from.ResolveReference(reference).String()
	}
	found.picture, found.player = whole(h.picture), whole(h.alternates["application/json+oembed"])
	for _, kind := range []string{"application/feed+json", "application/atom+xml", "application/rss+xml"} {
		if found.feed == "" {
			found.feed = whole(h.alternates[kind])
		}
	}
	return found
}

// head is what was found of a page so far.
type head struct {
	tokens  *html.Tokenizer
	within  string // title or h1, while its text is read
	title   strings.Builder
	heading strings.Builder
	card    string // og:title
	picture string // og:image
	// alternates are the first of each type (HTML, link type alternate).
	alternates map[string]string
	body       bool
}

// next reads one token. It is false at the end, and when nothing better can come.
func (h *head) next() bool {
	switch kind := h.tokens.Next(); kind {
	case html.ErrorToken:
		return false
	case html.TextToken:
		into := map[string]*strings.Builder{"title": &h.title, "h1": &h.heading}[h.within]
		if text := h.tokens.Text(); into != nil && into.Len()+len(text) <= maxName {
			into.Write(text)
		}
	case html.StartTagToken, html.SelfClosingTagToken:
		h.start()
	case html.EndTagToken:
		name, _ := h.tokens.TagName()
		if string(name) == h.within {
			h.within = ""
		}
	}
	named := h.card != "" || h.title.Len() > 0 || h.within == "" && h.heading.Len() > 0
	return !h.body || !named || h.within != ""
}

func (h *head) start() {
	name, more := h.tokens.TagName()
	switch tag := string(name); {
	case tag == "body":
		h.body = true
	case tag == "meta":
		h.meta(more)
	case tag == "link":
		h.link(more)
	// The first of each is the page's own.
	case tag == "title" && h.title.Len() == 0, tag == "h1" && h.heading.Len() == 0:
		h.within = tag
	}
}

func (h *head) meta(more bool) {
	var name, content string
	for more {
		var key, value []byte
		key, value, more = h.tokens.TagAttr()
		switch string(key) {
		case "property", "name":
			name = string(value)
		case "content":
			content = strings.TrimSpace(string(value))
		}
	}
	switch {
	case name == "og:title" && h.card == "" && len(content) <= maxName:
		h.card = content
	case name == "og:image" && h.picture == "" && len(content) <= maxName:
		h.picture = content
	}
}

func (h *head) link(more bool) {
	said := make(map[string]string)
	for more {
		var key, value []byte
		key, value, more = h.tokens.TagAttr()
		said[string(key)] = strings.TrimSpace(string(value))
	}
	kind := strings.ToLower(said["type"])
	if !slices.Contains(strings.Fields(strings.ToLower(said["rel"])), "alternate") || len(said["href"]) > maxName || h.alternates[kind] != "" {
		return
	}
	h.alternates[kind] = said["href"]
}

// FeedOf is the address of the feed that a page names; empty for none.
func FeedOf(ctx context.Context, page Answer) string {
	reader, err := charset.NewReader(bytes.NewReader(page.Body), page.Header.Get("Content-Type"))
	if err != nil {
		return ""
	}
	return readHead(ctx, reader, page.From).feed
}
