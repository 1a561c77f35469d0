// Package feedfile reads what a feed answers: RSS 2.0, Atom (RFC 4287) and JSON Feed 1.1. It
// bounds what it reads before a parser builds anything of it, because feeds come from
// strangers.
package feedfile

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net/url"
	"slices"
	"strings"

	"github.com/mmcdole/gofeed"
	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"

	"jundle/internal/core/address"
	"jundle/internal/core/feed"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
)

const (
	// MaxBytes is how much of a feed is read.
	MaxBytes = 2 << 20
	// maxDepth is how deep its elements may lie in each other, and maxElements how many
	// there may be.
	maxDepth    = 64
	maxElements = 50_000
)

// Errors of reading a feed.
var (
	ErrNoFeed = errors.New("this is no feed")
	ErrTooBig = errors.New("this feed has more in it than is read")
)

// Entry is an item with the address of its picture, which may be empty.
type Entry struct {
	feed.Item
	Picture string
}

// Feed is what was read, its entries in its own order.
type Feed struct {
	Title   string
	Entries []Entry
}

// Read reads a feed that came from an address. What leads nowhere that may be linked is
// left out.
func Read(data []byte, from *url.URL) (Feed, error) {
	if err := bounded(data); err != nil {
		return Feed{}, err
	}
	parsed, err := gofeed.NewParser().Parse(bytes.NewReader(data))
	if err != nil {
		return Feed{}, fmt.Errorf("%w: %w", ErrNoFeed, err)
	}
	read := Feed{Title: firstOf(plain(parsed.Title), page.MaxTitle)}
	for _, item := range parsed.Items {
		if entry, ok := entryOf(item, from); ok {
			read.Entries = append(read.Entries, entry)
		}
	}
	return read, nil
}

// Looks tells whether something may be a feed, by how it begins.
func Looks(data []byte) bool {
	head := string(bytes.TrimSpace(data[:min(len(data), 1000)]))
	return gofeed.DetectFeedType(strings.NewReader(head)) != gofeed.FeedTypeUnknown
}

// bounded refuses XML that is deeper or has more elements than any feed: parsers go into
// it by calling themselves. Entities are not expanded by any of them.
func bounded(data []byte) error {
	if len(data) > MaxBytes {
		return ErrTooBig
	}
	if trimmed := bytes.TrimSpace(data); len(trimmed) == 0 || trimmed[0] == '{' {
		return nil // of JSON, encoding/json bounds the depth
	}
	decoder := xml.NewDecoder(bytes.NewReader(data))
	decoder.Strict, decoder.CharsetReader = false, charset.NewReaderLabel
	depth, elements := 0, 0
	for {
		token, err := decoder.RawToken()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("%w: %w", ErrNoFeed, err)
		}
		switch token.(type) {
		case xml.StartElement:
			depth++
			elements++
		case xml.EndElement:
			depth--
		}
		if depth > maxDepth || elements > maxElements {
			return ErrTooBig
		}
	}
}

func entryOf(item *gofeed.Item, from *url.URL) (Entry, bool) {
	link, err := from.Parse(strings.TrimSpace(firstFilled(item.Link, enclosed(item))))
	if err != nil || len(link.String()) > address.MaxLinkLength {
		return Entry{}, false
	}
	leads, err := address.ParseLink(link.String())
	if err != nil || !leads.IsWeb() {
		return Entry{}, false
	}
	entry := Entry{Item: feed.Item{
		Key: feed.Key(firstFilled(item.GUID, leads.URL)), Address: leads.URL,
		Title: firstOf(firstFilled(plain(item.Title), plain(item.Description), plain(item.Content), leads.Name()), page.MaxTitle),
	}}
	if when := item.PublishedParsed; when != nil {
		entry.At = when.UTC()
	} else if when := item.UpdatedParsed; when != nil {
		entry.At = when.UTC()
	}
	if picture, err := from.Parse(pictureOf(item)); err == nil && (picture.Scheme == "https" || picture.Scheme == "http") {
		entry.Picture = picture.String()
	}
	return entry, true
}

// enclosed is the address of what comes with an item: that of a sound, where it has no page.
func enclosed(item *gofeed.Item) string {
	if len(item.Enclosures) == 0 {
		return ""
	}
	return item.Enclosures[0].URL
}

// pictureOf is where the picture of an item is: what the feed says, what comes with it, or
// the first in its text.
func pictureOf(item *gofeed.Item) string {
	if item.Image != nil && item.Image.URL != "" {
		return item.Image.URL
	}
	for _, name := range []string{"thumbnail", "content"} {
		for _, media := range item.Extensions["media"][name] {
			if kind := media.Attrs["type"]; kind == "" && media.Attrs["medium"] != "video" || strings.HasPrefix(kind, "image/") {
				return media.Attrs["url"]
			}
		}
	}
	for _, each := range item.Enclosures {
		if strings.HasPrefix(each.Type, "image/") {
			return each.URL
		}
	}
	return firstPicture(firstFilled(item.Content, item.Description))
}

// firstPicture is the address of the first picture in some HTML.
func firstPicture(text string) string {
	tokens := html.NewTokenizer(strings.NewReader(text))
	for kind := tokens.Next(); kind != html.ErrorToken; kind = tokens.Next() {
		if token := tokens.Token(); token.Data == "img" && kind != html.EndTagToken {
			for _, attribute := range token.Attr {
				if attribute.Key == "src" {
					return strings.TrimSpace(attribute.Val)
				}
			}
		}
	}
	return ""
}

// plain is a text without the markup that feeds put into it, on one line.
func plain(text string) string {
	var out strings.Builder
	tokens := html.NewTokenizer(strings.NewReader(text))
	for kind := tokens.Next(); kind != html.ErrorToken && out.Len() < 4000; kind = tokens.Next() {
		switch kind {
		case html.TextToken:
			out.WriteString(html.UnescapeString(string(tokens.Text())))
		case html.StartTagToken, html.EndTagToken, html.SelfClosingTagToken:
			if name, _ := tokens.TagName(); slices.Contains([]string{"p", "br", "div", "li"}, string(name)) {
				out.WriteByte(' ')
			}
		}
	}
	return strings.Join(strings.Fields(invalid.OneLine(out.String())), " ")
}

func firstFilled(texts ...string) string {
	for _, text := range texts {
		if strings.TrimSpace(text) != "" {
			return text
		}
	}
	return ""
}

func firstOf(text string, most int) string {
	return strings.TrimSpace(invalid.Cut(text, most))
}
