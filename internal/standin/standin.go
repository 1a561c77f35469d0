// Package standin is a small made-up web: the sites that the demo's buttons lead
// to, and the invented networks with a profile page each whose one link is an
// entry address, a mail server that shows every letter, a host that shows what
// webhooks are told, a service that keeps lists of readers, players of films, tiles of
// a map, a journal with a feed, a service of site statistics, a till, a name server and an issuer of
// certificates. It runs in the demo and in the tests only.
package standin

import (
	"embed"
	"html/template"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
)

//go:embed templates/*.gohtml
var files embed.FS

var templates = template.Must(template.ParseFS(files, "templates/*.gohtml"))

// Network is an invented network on which a creator can have a profile.
type Network struct {
	Key, Name, Host, About string
}

// Networks are those of the scenario.
var Networks = []Network{
	{"photoloft", "Photoloft", "photoloft.example", "pictures"},
	{"reelpond", "Reelpond", "reelpond.example", "short films"},
	{"wavecastle", "Wavecastle", "wavecastle.example", "long films"},
	{"pinmoss", "Pinmoss", "pinmoss.example", "boards"},
}

// Parts are those of the made-up web that stand on their own; nil for one that is not there.
type Parts struct {
	Mailbox *Mailbox
	Names   *Names
	Issuer  *Issuer
}

// Server answers for the made-up web.
type Server struct {
	engine *gin.Engine

	mu    sync.Mutex
	links map[string]string // the one link of a profile, by network/name
	hits  map[string]int    // what was told to the service of statistics, by site
	notes map[string][]note // entries that were added to a journal, the latest last
}

// New makes the made-up web with these links in its profiles, keyed
// "network/name", and what can be looked into.
func New(links map[string]string, parts Parts) *Server {
	s := &Server{engine: gin.New(), links: map[string]string{}, hits: map[string]int{}, notes: map[string][]note{}}
	for profile, link := range links {
		s.links[profile] = link
	}
	s.engine.Use(gin.Recovery(), func(c *gin.Context) {
		// In-app browsers tell the page nothing of where the visitor was.
		c.Header("Referrer-Policy", "no-referrer")
		c.Header("X-Robots-Tag", "noindex")
	})
	s.engine.GET("/", s.index)
	s.engine.GET("/profile/:network/:name", s.profile)
	s.engine.POST("/profile/:network/:name", s.setLink)
	s.engine.GET("/web/:host/*path", s.site)
	s.engine.POST("/web/:host/*path", s.hit)
	s.engine.POST("/notes", s.addNote)
	s.addMailbox(parts.Mailbox)
	s.addNames(parts.Names)
	s.addIssuer(parts.Issuer)
	s.addReceiver()
	s.addLists()
	s.addTill()
	return s
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.engine.ServeHTTP(w, r) }

// Locate returns where, below the origin of the stand-ins, a made-up host is
// answered for; nil for any host that is not below .example (RFC 2606).
func Locate(origin string, address *url.URL) *url.URL {
	if address.Scheme != "http" && address.Scheme != "https" || !strings.HasSuffix(address.Hostname(), ".example") {
		return nil
	}
	located, err := url.Parse(origin + "/web/" + address.Hostname() + "/")
	if err != nil {
		return nil
	}
	located = located.JoinPath(address.Path)
	located.RawQuery, located.Fragment = address.RawQuery, address.Fragment
	return located
}

func (s *Server) index(c *gin.Context) {
	s.mu.Lock()
	profiles := slices.Sorted(maps.Keys(s.links))
	s.mu.Unlock()
	answer(c, "index", gin.H{"Networks": Networks, "Profiles": profiles, "Sites": sites})
}

func (s *Server) profile(c *gin.Context) {
	network := networkOf(c.Param("network"))
	s.mu.Lock()
	link := s.links[network.Key+"/"+c.Param("name")]
	s.mu.Unlock()
	answer(c, "profile", gin.H{"Network": network, "Name": c.Param("name"), "Link": link})
}

// networkOf is a network of the scenario, or one made up on the spot: tests want
// one for every kind of app there is.
func networkOf(key string) Network {
	for _, network := range Networks {
		if network.Key == key {
			return network
		}
	}
	return Network{Key: key, Name: key, About: "anything"}
}

// setLink puts an address into a profile, as a creator does on a real network.
func (s *Server) setLink(c *gin.Context) {
	link, err := url.Parse(strings.TrimSpace(c.PostForm("link")))
	if err != nil || link.Scheme != "http" && link.Scheme != "https" || len(link.String()) > 300 {
		c.String(http.StatusBadRequest, "This is not an address a profile can hold.")
		return
	}
	s.mu.Lock()
	if len(s.links) < 1000 {
		s.links[c.Param("network")+"/"+c.Param("name")] = link.String()
	}
	s.mu.Unlock()
	c.Redirect(http.StatusSeeOther, c.Request.URL.Path)
}

func answer(c *gin.Context, name string, data any) {
	c.Header("Content-Type", "text/html; charset=utf-8")
	if err := templates.ExecuteTemplate(c.Writer, name, data); err != nil {
		_ = c.Error(err)
	}
}
