package public

import (
	"context"
	"encoding/xml"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"jundle/internal/render"
	"jundle/internal/store"
)

const (
	sitemapPath = "/sitemap.xml"
	// sitemapFreshFor is how long one is not made anew, and heldSitemaps how much of them is held, in bytes.
	sitemapFreshFor = 5 * time.Minute
	heldSitemaps    = 4 << 20
)

// robotsRules say what crawlers may fetch: pages, and the pictures of posts that lead to them
// (RFC 9309; the longest rule that fits holds).
const robotsRules = "User-agent: *\nAllow: " + render.SharingPath + "\nDisallow: /*/-/\nDisallow: /-/\n"

// robots are the rules for crawlers; a host of a workspace's own names what is there, besides.
func (s *Server) robots(asked request) string {
	if asked.host == nil {
		return robotsRules
	}
	return robotsRules + "Sitemap: " + s.OwnOrigin(asked.host.Host) + sitemapPath + "\n"
}

// urlset is a sitemap (sitemaps.org, protocol 0.9), with languages as alternates (XHTML links).
type urlset struct {
	XMLName xml.Name     `xml:"http://www.sitemaps.org/schemas/sitemap/0.9 urlset"`
	XHTML   string       `xml:"xmlns:xhtml,attr"`
	URLs    []sitemapURL `xml:"url"`
}

type sitemapURL struct {
	Location   string             `xml:"loc"`
	Changed    string             `xml:"lastmod"`
	Alternates []sitemapAlternate `xml:"xhtml:link"`
}

type sitemapAlternate struct {
	Rel      string `xml:"rel,attr"`
	Language string `xml:"hreflang,attr"`
	Href     string `xml:"href,attr"`
}

// drawnSitemap is one as it was made at a time.
type drawnSitemap struct {
	body []byte
	at   time.Time
}

// sitemap answers with the pages of a workspace that search engines may list, under the host of its own
// that they stand under. The host that all share has none: who is there is nobody's to hand out.
func (s *Server) sitemap(c *gin.Context) {
	host := s.hosts.at(c.Request.Host)
	if host == nil {
		s.notFound(s.requestOf(c).locale()).write(c)
		return
	}
	key := host.ID.String()
	held, known := s.sitemaps.get(key)
	if !known || s.Now().Sub(held.at) >= sitemapFreshFor {
		made, err, _ := s.sitemapNow.Do(key, func() (any, error) {
			body, err := s.makeSitemap(*host)
			made := drawnSitemap{body, s.Now()}
			if err == nil {
				s.sitemaps.add(key, made, weightOfEntry+len(body))
			}
			return made, err
		})
		if err != nil {
			s.failed(s.requestOf(c).locale(), err).write(c)
			return
		}
		held = made.(drawnSitemap)
	}
	c.Header("Cache-Control", "public, max-age=300")
	c.Data(http.StatusOK, "application/xml; charset=utf-8", held.body)
}

func (s *Server) makeSitemap(host store.OwnHost) ([]byte, error) {
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	set := urlset{XHTML: "http://www.w3.org/1999/xhtml", URLs: []sitemapURL{}}
	_, leads := s.hosts.ofWorkspace(host.WorkspaceID, s.Now())
	if leads != nil && leads.ID == host.ID {
		pages, err := s.Store.PublishedPages(ctx, host.WorkspaceID)
		if err != nil {
			return nil, err
		}
		for _, each := range pages {
			if each.Document.Gate == nil && each.Document.IsOpen(s.Now()) && !each.Document.Sharing.Unlisted {
				set.URLs = append(set.URLs, s.sitemapEntries(host, each)...)
			}
		}
	}
	body, err := xml.MarshalIndent(set, "", " ")
	return append([]byte(xml.Header), body...), err
}

// sitemapEntries are those of a page: one for each of its languages, each of which names all.
func (s *Server) sitemapEntries(host store.OwnHost, of store.PublishedPage) []sitemapURL {
	visit := render.Visit{Origin: s.OwnOrigin(host.Host), Address: of.Address, Front: host.Front == of.Address}
	addresses := render.Addresses(visit, of.Document)
	var alternates []sitemapAlternate
	if len(addresses) > 1 {
		for _, each := range addresses {
			alternates = append(alternates, sitemapAlternate{"alternate", each.Language, each.Address})
		}
	}
	entries := make([]sitemapURL, len(addresses))
	for i, each := range addresses {
		entries[i] = sitemapURL{each.Address, of.PublishedAt.UTC().Format(time.RFC3339), alternates}
	}
	return entries
}
