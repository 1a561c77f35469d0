package resolver_test

import (
	"fmt"
	"net"
	"strings"
	"syscall"
	"testing"

	"github.com/miekg/dns"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/domain"
	"jundle/internal/resolver"
)

// serve answers questions by a handler, by UDP and by TCP, and is asked as a resolver whose target is
// pages.kiln.example.
func serve(t *testing.T, handler dns.HandlerFunc) resolver.Resolver {
	t.Helper()
	packets, stream := sockets(t)
	for _, server := range []*dns.Server{{PacketConn: packets, Handler: handler}, {Listener: stream, Handler: handler}} {
		ready := make(chan struct{})
		server.NotifyStartedFunc = func() { close(ready) }
		go func() { _ = server.ActivateAndServe() }()
		<-ready
		t.Cleanup(func() { _ = server.Shutdown() })
	}
	return resolver.Resolver{Address: packets.LocalAddr().String(), Target: "pages.kiln.example"}
}

// sockets are two of one port. A port that is free for one of them can be in use for the other, by a
// connection that leads out.
func sockets(t *testing.T) (net.PacketConn, net.Listener) {
	t.Helper()
	for {
		stream, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		packets, err := net.ListenPacket("udp", stream.Addr().String())
		if err == nil {
			return packets, stream
		}
		require.ErrorIs(t, err, syscall.EADDRINUSE)
		require.NoError(t, stream.Close())
	}
}

// zone answers with what stands in lines of a zone file (RFC 1035 s5); what stands nowhere is no name.
func zone(t *testing.T, lines ...string) dns.HandlerFunc {
	t.Helper()
	records := map[string][]dns.RR{}
	for _, line := range lines {
		record, err := dns.NewRR(line)
		require.NoError(t, err)
		records[record.Header().Name] = append(records[record.Header().Name], record)
	}
	return func(to dns.ResponseWriter, asked *dns.Msg) {
		answer := new(dns.Msg).SetReply(asked)
		name, known := asked.Question[0].Name, false
		for range 5 {
			here, alias := records[strings.ToLower(name)], "" // RFC 1035 s2.3.3
			known = known || len(here) > 0
			for _, record := range here {
				if record.Header().Rrtype == asked.Question[0].Qtype {
					answer.Answer = append(answer.Answer, record)
				}
				if other, ok := record.(*dns.CNAME); ok {
					answer.Answer, alias = append(answer.Answer, record), other.Target
				}
			}
			name = alias
		}
		if !known {
			answer.Rcode = dns.RcodeNameError
		}
		_ = to.WriteMsg(answer)
	}
}

const here = "pages.kiln.example. 60 IN A 192.0.2.7"

func TestALookTellsWhatStandsInTheDNS(t *testing.T) {
	const proof = `_jundle.links.quarrow.example. 60 IN TXT "jundle-host=abc"`
	for _, row := range []struct {
		name          string
		zone          []string
		proof, points domain.Answer
		elsewhere     []string
	}{
		{"nothing yet", []string{here}, domain.No, domain.No, nil},
		{"an alias of ours", []string{here, proof, "links.quarrow.example. 60 IN CNAME pages.kiln.example."}, domain.Yes, domain.Yes, nil},
		{"our address", []string{here, "links.quarrow.example. 60 IN A 192.0.2.7"}, domain.No, domain.Yes, nil},
		{"another address", []string{here, "links.quarrow.example. 60 IN A 203.0.113.9"}, domain.No, domain.No, []string{"203.0.113.9"}},
		{
			"ours and another, of which visitors get either",
			[]string{here, "links.quarrow.example. 60 IN A 192.0.2.7", "links.quarrow.example. 60 IN AAAA 2001:db8::9"},
			domain.No, domain.No,
			[]string{"2001:db8::9"},
		},
		{"another text before ours", []string{here, `_jundle.links.quarrow.example. 60 IN TXT "other"`, proof}, domain.Yes, domain.No, nil},
		{"a text in pieces", []string{here, `_jundle.links.quarrow.example. 60 IN TXT "jundle-" "host=abc"`}, domain.Yes, domain.No, nil},
		{"another's text", []string{here, `_jundle.links.quarrow.example. 60 IN TXT "jundle-host=abd"`}, domain.No, domain.No, nil},
		{"where we are nobody knows", []string{"links.quarrow.example. 60 IN A 192.0.2.7"}, domain.No, domain.Unknown, nil},
	} {
		t.Run(row.name, func(t *testing.T) {
			found := serve(t, zone(t, row.zone...)).Look(t.Context(), "links.quarrow.example", "abc")
			assert.Equal(t, row.proof, found.Proof)
			assert.Equal(t, row.points, found.Points)
			assert.ElementsMatch(t, row.elsewhere, found.Elsewhere)
		})
	}
}

func TestAnAliasOfAnotherHostIsNamed(t *testing.T) {
	const other, gone = "shop.example", "pages.kiln.example.quarrow.example"
	for _, row := range []struct {
		name, alias string
		zone        []string
		points      domain.Answer
	}{
		{"ours", "", []string{here, "links.quarrow.example. 60 IN CNAME Pages.Kiln.example."}, domain.Yes},
		{"another's", other, []string{here, other + ". 60 IN A 203.0.113.9", "links.quarrow.example. 60 IN CNAME " + other + "."}, domain.No},
		{"no host, as where the last dot was left out", gone, []string{here, "links.quarrow.example. 60 IN CNAME " + gone + "."}, domain.No},
		{"no alias", "", []string{here, "links.quarrow.example. 60 IN A 203.0.113.9"}, domain.No},
	} {
		t.Run(row.name, func(t *testing.T) {
			found := serve(t, zone(t, row.zone...)).Look(t.Context(), "links.quarrow.example", "abc")
			assert.Equal(t, row.alias, found.Alias)
			assert.Equal(t, row.points, found.Points)
		})
	}
}

func TestAServerThatCannotSaySaysNothing(t *testing.T) {
	found := serve(t, func(to dns.ResponseWriter, asked *dns.Msg) {
		_ = to.WriteMsg(new(dns.Msg).SetRcode(asked, dns.RcodeServerFailure))
	}).Look(t.Context(), "links.quarrow.example", "abc")
	assert.Equal(t, domain.Unknown, found.Proof)
	assert.Equal(t, domain.Unknown, found.Points)
	assert.NotEmpty(t, found.Problem)
	assert.NotContains(t, found.Problem, "127.0.0.1", "where our resolver is is nobody's business")
}

func TestALongAnswerIsAskedForByTCPAndBounded(t *testing.T) {
	r := serve(t, func(to dns.ResponseWriter, asked *dns.Msg) {
		answer := new(dns.Msg).SetReply(asked)
		if asked.Question[0].Qtype == dns.TypeTXT {
			for i := range 60 {
				answer.Answer = append(answer.Answer, &dns.TXT{
					Hdr: dns.RR_Header{Name: asked.Question[0].Name, Rrtype: dns.TypeTXT, Class: dns.ClassINET, Ttl: 60},
					Txt: []string{fmt.Sprint(i), strings.Repeat("x", 250), "\x00\xff"},
				})
			}
		}
		if _, byTCP := to.RemoteAddr().(*net.TCPAddr); !byTCP {
			answer.Truncate(dns.MinMsgSize)
		}
		_ = to.WriteMsg(answer)
	})
	found := r.Look(t.Context(), "links.quarrow.example", "abc")
	assert.Equal(t, domain.No, found.Proof)
	require.Len(t, found.Texts, 50)
	for _, text := range found.Texts {
		assert.LessOrEqual(t, len(text), 200)
	}
}
