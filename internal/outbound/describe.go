package outbound

import (
	"bytes"
	"context"
	"errors"
	"io"
	"mime"
	"net/url"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"
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
}

// ErrNoPage is answered for an address that is no web page.
var ErrNoPage = errors.New("there is no page to read a title from")

// Describe reads the title and the picture a page offers for itself. A picture
// that cannot be had does not fail the title.
func (c *Client) Describe(ctx context.Context, address string) (Description, error) {
	body, contentType, from, err := c.Get(ctx, address, "text/html,application/xhtml+xml", maxPage)
	if err != nil {
		return Description{}, err
	}
	kind, _, _ := mime.ParseMediaType(contentType)
	if kind != "text/html" && kind != "application/xhtml+xml" {
		return Description{}, ErrNoPage
	}
	reader, err := charset.NewReader(bytes.NewReader(body), contentType)
	if err != nil {
		return Description{}, err
	}
	title, picture := readHead(ctx, reader, from)
	found := Description{Title: title}
	if picture != "" {
		if bytes, _, _, err := c.Get(ctx, picture, "image/*", maxPicture); err == nil {
			found.Picture = bytes
		}
	}
	return found, nil
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

// readHead finds the title and the address of the picture in a page, preferring
// what the page says of itself by the Open Graph protocol. It reads token by token
// and builds nothing, and ends with ctx; what was found by then is answered.
func readHead(ctx context.Context, page io.Reader, from *url.URL) (title, picture string) {
	h := head{tokens: html.NewTokenizer(page)}
	h.tokens.SetMaxBuf(maxToken)
	for range maxTokens {
		if ctx.Err() != nil || !h.next() {
			break
		}
	}
	for _, candidate := range []string{h.card, h.title.String(), h.heading.String()} {
		if title = strings.Join(strings.Fields(candidate), " "); title != "" {
			break
		}
	}
	if reference, err := url.Parse(h.picture); err == nil && h.picture != "" {
		picture = from.ResolveReference(reference).String()
	}
	return title, picture
}

// head is what was found of a page so far.
type head struct {
	tokens  *html.Tokenizer
	within  string // title or h1, while its text is read
	title   strings.Builder
	heading strings.Builder
	card    string // og:title
	picture string // og:image
	body    bool
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
