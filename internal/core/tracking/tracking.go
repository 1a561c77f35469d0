// Package tracking reads the codes that services of site statistics and advertising give
// out to be put on a page. Nothing of them is put there as it was pasted: their scripts and
// pictures are taken out, and all else is refused.
package tracking

import (
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"
)

const (
	// MaxCode is how long a code may be, in bytes.
	MaxCode = 8 << 10
	// MaxHosts is how many hosts one may talk to.
	MaxHosts = 8
)

// Element is a script or a picture of a code.
type Element struct {
	// Kind is script or img.
	Kind string `json:"kind"`
	// Src is where it comes from; empty for a script that is in the code itself, which is Text.
	Src  string `json:"src,omitempty"`
	Text string `json:"text,omitempty"`
	// Attributes are others that it is given: async, defer, integrity and those for its own use.
	Attributes [][2]string `json:"attributes,omitempty"`
}

// Digest is that of a script in the code itself, as a policy names it (CSP Level 3).
func (e Element) Digest() string {
	sum := sha256.Sum256([]byte(e.Text))
	return "'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'"
}

// Errors of a code. Each says what to do.
var (
	ErrNothing = errors.New("there is no script in this. Paste the whole code as the service gives it out")
	ErrTooLong = errors.New("a code has at most 8,192 bytes; this is longer")
)

// passed are the attributes that a script keeps beside those beginning with data-.
var passed = []string{"async", "defer", "type", "integrity", "crossorigin", "referrerpolicy", "id"}

// Read takes the scripts and pictures out of a code. What stands in noscript is left out:
// without script nobody can be asked.
func Read(code string) ([]Element, error) {
	if len(code) > MaxCode {
		return nil, ErrTooLong
	}
	var elements []Element
	tokens := html.NewTokenizer(strings.NewReader(code))
	inScript, without := false, 0
	for {
		switch kind := tokens.Next(); kind {
		case html.ErrorToken:
			if len(elements) == 0 {
				return nil, ErrNothing
			}
			return withoutEmpty(elements), nil
		case html.TextToken:
			text := strings.TrimSpace(string(tokens.Raw()))
			switch {
			case inScript:
				elements[len(elements)-1].Text += text
			case without == 0 && text != "":
				return nil, fmt.Errorf("a code is made of scripts; “%s” is none", shortened(text))
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			token := tokens.Token()
			switch {
			case token.Data == "noscript" && kind == html.StartTagToken:
				without++
			case without > 0:
			case token.Data == "script" || token.Data == "img":
				made, err := elementOf(token)
				if err != nil {
					return nil, err
				}
				elements = append(elements, made)
				inScript = token.Data == "script" && kind == html.StartTagToken
			default:
				return nil, fmt.Errorf("a code is made of scripts and pictures; take <%s> out of it", token.Data)
			}
		case html.EndTagToken:
			name, _ := tokens.TagName()
			if string(name) == "noscript" {
				without = max(0, without-1)
			}
			inScript = false
		}
	}
}

func withoutEmpty(elements []Element) []Element {
	return slices.DeleteFunc(elements, func(e Element) bool { return e.Src == "" && e.Text == "" })
}

func elementOf(token html.Token) (Element, error) {
	made := Element{Kind: token.Data}
	for _, each := range token.Attr {
		switch {
		case each.Key == "src":
			src, err := url.Parse(strings.TrimSpace(each.Val))
			if err == nil && src.Scheme == "" && src.Host != "" {
				src.Scheme = "https" // an address that begins with two slashes
			}
			if err != nil || src.Scheme != "https" || HostOf(src.String()) == "" {
				return made, fmt.Errorf("“%s” is no address with https that a code can come from", shortened(each.Val))
			}
			made.Src = src.String()
		case strings.HasPrefix(each.Key, "data-") || slices.Contains(passed, each.Key):
			made.Attributes = append(made.Attributes, [2]string{each.Key, each.Val})
		case strings.HasPrefix(each.Key, "on"):
			return made, fmt.Errorf("“%s” runs a script in a way that a page does not let in; take it out", each.Key)
		}
	}
	if made.Kind == "img" && made.Src == "" {
		return made, errors.New("a picture in this has no address")
	}
	return made, nil
}

func shortened(text string) string {
	if runes := []rune(text); len(runes) > 40 {
		return string(runes[:40]) + "…"
	}
	return text
}

// host is the name of a host as it is registered: no number, no single word.
var host = regexp.MustCompile(`^(?:[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z][a-z0-9-]{0,61}[a-z0-9]$`)

// HostOf is the host of an address, or of a text that is one; empty where it is none by
// which something on the web can be reached.
func HostOf(text string) string {
	text = strings.ToLower(strings.TrimSpace(text))
	if parsed, err := url.Parse(text); err == nil && parsed.Host != "" {
		if parsed.User != nil || parsed.Port() != "" {
			return ""
		}
		text = parsed.Hostname()
	}
	if !host.MatchString(text) || len(text) > 253 {
		return ""
	}
	return text
}

// HostsOf are the hosts that a code comes from, each once.
func HostsOf(elements []Element) []string {
	var hosts []string
	for _, each := range elements {
		if name := HostOf(each.Src); name != "" && !slices.Contains(hosts, name) {
			hosts = append(hosts, name)
		}
	}
	return hosts
}
