package outbound

import (
	"bytes"
	"context"
	"errors"
	"io"
	"mime"
	"net/url"
	"strings"

	"github.com/PuerkitoBio/goquery"
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
	title, picture, err := readHead(reader, from)
	if err != nil {
		return Description{}, err
	}
	found := Description{Title: title}
	if picture != "" {
		if bytes, _, _, err := c.Get(ctx, picture, "image/*", maxPicture); err == nil {
			found.Picture = bytes
		}
	}
	return found, nil
}

// readHead finds the title and the address of the picture in a page, preferring
// what the page says of itself by the Open Graph protocol.
func readHead(page io.Reader, from *url.URL) (title, picture string, err error) {
	document, err := goquery.NewDocumentFromReader(page)
	if err != nil {
		return "", "", err
	}
	meta := func(name string) string {
		value, _ := document.Find(`meta[property="` + name + `"], meta[name="` + name + `"]`).First().Attr("content")
		return strings.TrimSpace(value)
	}
	for _, candidate := range []string{meta("og:title"), document.Find("title").First().Text(), document.Find("h1").First().Text()} {
		if title = strings.Join(strings.Fields(candidate), " "); title != "" {
			break
		}
	}
	if reference, err := url.Parse(meta("og:image")); err == nil && reference.String() != "" {
		picture = from.ResolveReference(reference).String()
	}
	return title, picture, nil
}
