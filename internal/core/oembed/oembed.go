// Package oembed knows where the player of a film or a sound is asked for by the address of
// its page, and reads what is answered. Source: oEmbed (oembed.com), with the list of
// endpoints that the package oembed-providers carries.
//
// It asks nobody: what was answered comes in as an argument.
package oembed

import (
	_ "embed"
	"encoding/json"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"

	"golang.org/x/net/publicsuffix"
)

//go:embed libdata/providers.json
var providersData []byte

// Endpoint is where the player of a page is asked for.
type Endpoint struct {
	// Provider is what it is called; empty for one that the page itself names.
	Provider string
	// Address is asked with the address of the page in its query.
	Address string
	// hosts are those whose players it may name.
	hosts []string
}

type provider struct {
	Name     string   `json:"name"`
	Site     string   `json:"site"`
	Endpoint string   `json:"endpoint"`
	Patterns []string `json:"patterns"`
	compiled []pattern
}

// pattern is one of a provider's pages: * stands for anything in its path, and for
// anything but a slash in its host (oEmbed, section 2.1).
type pattern struct{ host, rest *regexp.Regexp }

var providers = sync.OnceValue(func() []provider {
	var all []provider
	if err := json.Unmarshal(providersData, &all); err != nil {
		panic("the list of providers that ships is broken: " + err.Error())
	}
	for i := range all {
		for _, text := range all[i].Patterns {
			_, text, isWeb := strings.Cut(text, "://")
			host, rest, _ := strings.Cut(text, "/")
			if isWeb {
				all[i].compiled = append(all[i].compiled, pattern{wild(host, "[^/]*"), wild(rest, ".*")})
			}
		}
	}
	return all
})

func wild(text, anything string) *regexp.Regexp {
	return regexp.MustCompile("(?i)^" + strings.ReplaceAll(regexp.QuoteMeta(text), `\*`, anything) + "$")
}

func (p pattern) holds(link *url.URL) bool {
	if !p.host.MatchString(link.Hostname()) {
		return false
	}
	rest := strings.TrimPrefix(link.EscapedPath(), "/")
	if link.RawQuery != "" {
		rest += "?" + link.RawQuery
	}
	return p.rest.MatchString(rest) || p.rest.MatchString(rest+"#"+link.EscapedFragment())
}

// Find is where the player of a page is asked for; false for a page of nobody on the list.
func Find(link string) (Endpoint, bool) {
	parsed, err := url.Parse(link)
	if err != nil || parsed.Scheme != "https" && parsed.Scheme != "http" {
		return Endpoint{}, false
	}
	for _, each := range providers() {
		for _, pattern := range each.compiled {
			if pattern.holds(parsed) {
				return Endpoint{each.Name, each.Endpoint, []string{hostOf(link), hostOf(each.Endpoint), hostOf(each.Site)}}, true
			}
		}
	}
	return Endpoint{}, false
}

// Named is the endpoint that a page itself names (oEmbed, section 4, Discovery); false
// where it is on a site that is not the page's own.
func Named(link, endpoint string) (Endpoint, bool) {
	named := Endpoint{Address: endpoint, hosts: []string{hostOf(link)}}
	return named, sameSite(hostOf(link), hostOf(endpoint))
}

// Request is the address to ask for the player of a page, as JSON, for a place as wide as
// a page. One that a page named is asked as it stands there.
func (e Endpoint) Request(link string) string {
	parsed, err := url.Parse(e.Address)
	if err != nil {
		return ""
	}
	query := parsed.Query()
	for name, value := range map[string]string{"url": link, "format": "json", "maxwidth": "520"} {
		if !query.Has(name) {
			query.Set(name, value)
		}
	}
	parsed.RawQuery = query.Encode()
	return parsed.String()
}

// MayShow tells whether a page of a film may show a player from an address: only one of
// the site that the page is on, or of who plays its films.
func MayShow(link, frame string) bool {
	parsed, err := url.Parse(frame)
	if err != nil || parsed.Scheme != "https" || parsed.User != nil {
		return false
	}
	if sameSite(hostOf(link), parsed.Hostname()) {
		return true
	}
	from, found := Find(link)
	return found && from.may(parsed.Hostname())
}

func (e Endpoint) may(host string) bool {
	return slices.ContainsFunc(e.hosts, func(known string) bool { return sameSite(known, host) })
}

func hostOf(link string) string {
	parsed, err := url.Parse(link)
	if err != nil {
		return ""
	}
	return parsed.Hostname()
}

// plainHost is a host as names are registered. Others could end a directive of a policy.
var plainHost = regexp.MustCompile(`^(?i)[a-z0-9.-]+$`)

// sameSite tells whether two hosts are of one registrable domain (Public Suffix List).
func sameSite(one, other string) bool {
	if !plainHost.MatchString(other) {
		return false
	}
	a, err := publicsuffix.EffectiveTLDPlusOne(strings.ToLower(one))
	if err != nil {
		return false
	}
	b, err := publicsuffix.EffectiveTLDPlusOne(strings.ToLower(other))
	return err == nil && a == b
}
