package public

import (
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/core/locale"
	"jundle/internal/core/source"
	"jundle/internal/ingest"
	"jundle/internal/ownmark"
	"jundle/internal/store"
)

// request is what is known of a visitor's request. What is answered follows from it
// alone, whatever carried it here.
type request struct {
	method    string
	host      *store.OwnHost // that it came under; nil for the one that all share
	query     string         // as it stood in the address, without the question mark
	referrer  string
	purposes  []string // why a browser or an app fetches what nobody looks at
	client    string   // address of the visitor
	userAgent string
	languages string // Accept-Language
	ownMark   string // of a member's browser, to be checked
	// unsold: the browser asks that nothing of its visitor is sold or shared (Global Privacy
	// Control, W3C).
	unsold bool
	gzip   bool
	has    string // the ETag of what the browser has already
}

// locale is the language that a visitor reads, by what the browser says.
func (r request) locale() *locale.Locale { return locale.Preferred(r.languages) }

// isBeacon reports whether a browser tells of a press, and waits for no answer.
func (r request) isBeacon() bool { return r.method == "POST" }

// requestOf reads what is known of a request.
func (s *Server) requestOf(c *gin.Context) request {
	header := c.Request.Header
	asked := request{
		method: c.Request.Method, host: s.hosts.at(c.Request.Host),
		query: c.Request.URL.RawQuery, referrer: header.Get("Referer"), purposes: purposes(header),
		client: s.clientOf(c.Request.RemoteAddr, header["X-Forwarded-For"]), userAgent: header.Get("User-Agent"),
		languages: header.Get("Accept-Language"), unsold: header.Get("Sec-GPC") == "1",
		gzip: strings.Contains(header.Get("Accept-Encoding"), "gzip"), has: header.Get("If-None-Match"),
	}
	if len(header["Cookie"]) > 0 {
		if cookie, err := c.Request.Cookie(ownmark.Cookie); err == nil {
			asked.ownMark = cookie.Value
		}
	}
	return asked
}

func purposes(header map[string][]string) []string {
	if first, second := header["Sec-Purpose"], header["Purpose"]; len(first)+len(second) > 0 {
		return slices.Concat(first, second)
	}
	return nil
}

// hit is what a request shows of its visitor.
func (s *Server) hit(asked request, id, workspace uuid.UUID, attributor *source.Attributor, tag string) ingest.Hit {
	return ingest.Hit{
		At: s.Now().UTC().Truncate(time.Microsecond), EndpointID: id, Attributor: attributor, PageHost: s.host,
		Tag: tagAsGiven(tag), Query: asked.query, Referrer: referrerHost(asked.referrer),
		Method: asked.method, Purpose: asked.purposes, Client: asked.client, UserAgent: asked.userAgent, Languages: asked.languages,
		Own: s.isOwn(asked.ownMark, workspace),
	}
}

// clientOf is the address of the visitor: that of the connection, or, behind
// trusted proxies, the last one in X-Forwarded-For that is none of theirs.
func (s *Server) clientOf(connection string, forwarded []string) string {
	from, err := netip.ParseAddrPort(connection)
	client := from.Addr().Unmap().WithZone("")
	if err != nil || !s.trusted(client) {
		return client.String()
	}
	var addresses []string
	for _, line := range forwarded {
		addresses = append(addresses, strings.Split(line, ",")...)
	}
	for _, text := range slices.Backward(addresses) {
		address, err := netip.ParseAddr(strings.TrimSpace(text))
		if err != nil {
			break // whatever stands before it is nobody's word
		}
		client = address.Unmap()
		if !s.trusted(client) {
			break
		}
	}
	return client.String()
}

func (s *Server) trusted(client netip.Addr) bool {
	return slices.ContainsFunc(s.TrustedProxies, func(proxies netip.Prefix) bool { return proxies.Contains(client) })
}

// tagAsGiven is what stood in the address as the tag, within reason.
func tagAsGiven(tag string) string {
	const limit = 64
	tag = strings.ToLower(strings.ToValidUTF8(tag, ""))
	if len(tag) > limit {
		tag = strings.ToValidUTF8(tag[:limit], "")
	}
	return strings.ReplaceAll(tag, "\x00", "")
}

func referrerHost(referrer string) string {
	if referrer == "" {
		return ""
	}
	parsed, err := url.Parse(referrer)
	if err != nil || len(parsed.Host) > 255 {
		return ""
	}
	host := strings.ToLower(strings.ReplaceAll(strings.ToValidUTF8(parsed.Hostname(), ""), "\x00", ""))
	if parsed.Scheme == "android-app" {
		return hostOfPackage(host)
	}
	return host
}

// hostOfPackage is the host that the name of an Android app stands for. Such names
// are hosts of their makers from behind. Source: The Java Language Specification,
// section 6.1, unique package names.
func hostOfPackage(name string) string {
	labels := strings.Split(name, ".")
	slices.Reverse(labels)
	return strings.Join(labels, ".")
}
