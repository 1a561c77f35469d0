package render

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strings"

	"golang.org/x/net/html"

	"jundle/internal/core/page"
)

// PlainFile draws a page as one HTML file that any web host can serve: what lies
// below /media/ and /fonts/ here is named beside it there. What can be pressed leads
// where leads says; an empty answer leads nowhere. A press on a plain address is told
// to nobody unless counted, which then says where.
//
// It names no host of ours: the page is to go on where we are not.
func PlainFile(
	doc page.Document,
	visit Visit,
	leads func(key, item string) string,
	counted bool,
) (file []byte, needs []string, err error) {
	drawn, _, err := drawPage(doc, visit, drawing{leads: leads, elsewhere: true})
	if err != nil {
		return nil, nil, err
	}
	r := relative{counted: counted, needs: make(map[string]bool)}
	file, err = r.rewrite(drawn)
	for name := range r.needs {
		needs = append(needs, name)
	}
	return file, needs, err
}

// relative writes the addresses in a page relative to it.
type relative struct {
	counted bool
	needs   map[string]bool // paths here of what it shows
}

// rewrite goes through the tags, because what a creator wrote may look like a path.
func (r relative) rewrite(drawn []byte) ([]byte, error) {
	var out bytes.Buffer
	tokens := html.NewTokenizer(bytes.NewReader(drawn))
	inStyle := false
	for {
		kind := tokens.Next()
		switch kind {
		case html.ErrorToken:
			if errors.Is(tokens.Err(), io.EOF) {
				return out.Bytes(), nil
			}
			return nil, fmt.Errorf("read a drawn page: %w", tokens.Err())
		case html.StartTagToken, html.SelfClosingTagToken:
			raw := bytes.Clone(tokens.Raw())
			token := tokens.Token()
			inStyle = token.Data == "style"
			if namesOurHost(token) {
				continue
			}
			if r.tag(&token) {
				raw = []byte(token.String())
			}
			out.Write(raw)
		case html.TextToken:
			text := string(tokens.Raw())
			if inStyle {
				text = inStyleSheet.ReplaceAllStringFunc(text, func(found string) string {
					return "url(" + r.path(strings.TrimPrefix(found, "url("))
				})
			}
			out.WriteString(text)
		default:
			inStyle = false
			out.Write(tokens.Raw())
		}
	}
}

// inStyleSheet finds what a style sheet of ours loads.
var inStyleSheet = regexp.MustCompile(`url\(/(?:fonts|media)/[^)]*`)

// namesOurHost tells whether a tag says where the page is with us.
func namesOurHost(token html.Token) bool {
	for _, attribute := range token.Attr {
		switch attribute.Key + " " + attribute.Val {
		case "rel canonical", "property og:url", "property og:image", "property og:image:width", "property og:image:height":
			return token.Data == "link" || token.Data == "meta"
		}
	}
	return false
}

// tag writes the attributes of a tag anew, and tells whether it did.
func (r relative) tag(token *html.Token) (changed bool) {
	attributes := token.Attr[:0]
	for _, attribute := range token.Attr {
		before := attribute.Val
		switch attribute.Key {
		case "ping":
			if !r.counted {
				changed = true
				continue
			}
		case "src", "href", "poster":
			attribute.Val = r.path(before)
		case "srcset":
			parts := strings.Split(before, ", ")
			for i := range parts {
				parts[i] = r.path(parts[i])
			}
			attribute.Val = strings.Join(parts, ", ")
		}
		changed = changed || attribute.Val != before
		attributes = append(attributes, attribute)
	}
	token.Attr = attributes
	return changed
}

// path is an address relative to the page, for what lies beside it.
func (r relative) path(address string) string {
	if !strings.HasPrefix(address, "/media/") && !strings.HasPrefix(address, "/fonts/") {
		return address
	}
	name, _, _ := strings.Cut(address, " ")
	r.needs[name] = true
	return strings.TrimPrefix(address, "/")
}
