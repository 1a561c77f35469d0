package standin

import (
	"errors"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/miekg/dns"
)

const (
	// DomainTarget is the made-up host that hosts of creators' own point to.
	DomainTarget = "pages.jundle.example"
	// namesKept is how many entries are kept.
	namesKept = 500
)

// nameEntry is an entry of the made-up DNS.
type nameEntry struct {
	Name  string `json:"name" form:"name"`
	Type  string `json:"type" form:"type"`
	Value string `json:"value" form:"value"`
}

// Names are the entries of a made-up name server. It follows an alias to what it stands for, as
// resolvers do.
type Names struct {
	mu      sync.Mutex
	entries []nameEntry
	// silent: it gives no answer that says anything.
	silent bool
	server []*dns.Server
}

// NewNames makes a name server that knows where DomainTarget is.
func NewNames() *Names {
	return &Names{entries: []nameEntry{{DomainTarget, "A", "127.0.0.1"}}}
}

// Listen answers questions at an address, by UDP and by TCP, until Close.
func (n *Names) Listen(address string) error {
	socket, err := net.ListenPacket("udp", address)
	if err != nil {
		return err
	}
	stream, err := net.Listen("tcp", address)
	if err != nil {
		return errors.Join(err, socket.Close())
	}
	n.server = []*dns.Server{{PacketConn: socket, Handler: n}, {Listener: stream, Handler: n}}
	for _, each := range n.server {
		go func() { _ = each.ActivateAndServe() }() // it ends with Close
	}
	return nil
}

// Close ends it.
func (n *Names) Close() error {
	var errs []error
	for _, each := range n.server {
		errs = append(errs, each.Shutdown())
	}
	return errors.Join(errs...)
}

// ServeDNS implements dns.Handler.
func (n *Names) ServeDNS(to dns.ResponseWriter, asked *dns.Msg) {
	answer := new(dns.Msg).SetReply(asked)
	answer.RecursionAvailable = true
	n.mu.Lock()
	defer n.mu.Unlock()
	switch {
	case n.silent || len(asked.Question) != 1:
		answer.Rcode = dns.RcodeServerFailure
	default:
		known := n.resolve(answer, asked.Question[0].Name, asked.Question[0].Qtype, 8)
		if !known {
			answer.Rcode = dns.RcodeNameError
		}
	}
	_ = to.WriteMsg(answer) // whoever asked asks again
}

// resolve adds what stands under a name, and tells whether anything does.
func (n *Names) resolve(answer *dns.Msg, name string, kind uint16, deep int) (known bool) {
	for _, entry := range n.entries {
		if !strings.EqualFold(dns.Fqdn(entry.Name), name) {
			continue
		}
		known = true
		record, err := entry.record()
		if err != nil {
			continue
		}
		switch {
		case record.Header().Rrtype == kind:
			answer.Answer = append(answer.Answer, record)
		case record.Header().Rrtype == dns.TypeCNAME && deep > 0:
			answer.Answer = append(answer.Answer, record)
			n.resolve(answer, record.(*dns.CNAME).Target, kind, deep-1)
		}
	}
	return known
}

func (e nameEntry) record() (dns.RR, error) {
	value := e.Value
	switch e.Type {
	case "TXT":
		value = fmt.Sprintf("%q", value)
	case "CNAME":
		value = dns.Fqdn(value)
	}
	return dns.NewRR(fmt.Sprintf("%s 60 IN %s %s", dns.Fqdn(e.Name), e.Type, value))
}

// add sets an entry, unless it stands there.
func (n *Names) add(entry nameEntry) error {
	entry.Name, entry.Value = strings.TrimSpace(entry.Name), strings.TrimSpace(entry.Value)
	if !slices.Contains([]string{"A", "AAAA", "CNAME", "TXT"}, entry.Type) || len(entry.Name) > 253 || len(entry.Value) > 255 {
		return errors.New("this is no entry that can stand here")
	}
	if _, err := entry.record(); err != nil {
		return err
	}
	n.mu.Lock()
	defer n.mu.Unlock()
	if len(n.entries) < namesKept && !slices.Contains(n.entries, entry) {
		n.entries = append(n.entries, entry)
	}
	return nil
}

// remove takes an entry out.
func (n *Names) remove(entry nameEntry) {
	n.mu.Lock()
	defer n.mu.Unlock()
	n.entries = slices.DeleteFunc(n.entries, func(each nameEntry) bool { return each == entry })
}

// addNames shows the entries of a name server, where they can be set and taken out.
func (s *Server) addNames(names *Names) {
	if names == nil {
		return
	}
	s.engine.GET("/names", func(c *gin.Context) {
		names.mu.Lock()
		entries := slices.Clone(names.entries)
		names.mu.Unlock()
		answer(c, "names", entries)
	})
	act := func(do func(nameEntry) error) gin.HandlerFunc {
		return func(c *gin.Context) {
			var entry nameEntry
			err := c.ShouldBind(&entry)
			if err == nil {
				err = do(entry)
			}
			if err != nil {
				c.String(http.StatusBadRequest, "This is no entry: %s.", err)
				return
			}
			c.Redirect(http.StatusSeeOther, "/names")
		}
	}
	s.engine.POST("/names", act(names.add))
	s.engine.POST("/names/remove", act(func(entry nameEntry) error {
		names.remove(entry)
		return nil
	}))
	for path, silent := range map[string]bool{"/names/silent": true, "/names/speaking": false} {
		s.engine.POST(path, func(c *gin.Context) {
			names.mu.Lock()
			defer names.mu.Unlock()
			names.silent = silent
			c.Status(http.StatusNoContent)
		})
	}
}
