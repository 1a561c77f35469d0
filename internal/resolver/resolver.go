// Package resolver asks the DNS about hosts of creators' own, through the one resolver that is set.
// It asks for itself, because the system's own way tells nothing found from nothing known, and
// answers from memory.
package resolver

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/netip"
	"slices"
	"strings"
	"time"

	"github.com/miekg/dns"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/domain"
)

const (
	// asksWithin is how long one question may take.
	asksWithin = 4 * time.Second
	// textsKept, textSize and addressesKept bound what is kept of an answer.
	textsKept     = 50
	textSize      = 200
	addressesKept = 4
	// udpSize is the largest answer that is asked for in one datagram, in bytes (DNS Flag Day 2020).
	udpSize = 1232
)

// errFailed is answered when a server could not say.
var errFailed = errors.New("the name server could not say")

// Resolver asks one.
type Resolver struct {
	// Address is where it is, as host and port.
	Address string
	// Target is the host that hosts of creators' own are to point to.
	Target string
}

// System is the resolver that the system uses (resolv.conf).
func System() (string, error) {
	config, err := dns.ClientConfigFromFile("/etc/resolv.conf")
	if err != nil {
		return "", fmt.Errorf("read which resolver the system uses: %w", err)
	}
	if len(config.Servers) == 0 {
		return "", errors.New("the system names no resolver in /etc/resolv.conf")
	}
	return net.JoinHostPort(config.Servers[0], config.Port), nil
}

// Addresses are those of the target; what a host points to has to be among them.
func (r Resolver) Addresses(ctx context.Context) ([]netip.Addr, error) {
	all, _, err := r.addresses(ctx, r.Target)
	return all, err
}

// Look looks whether the proof of a host stands, and whether it points here.
func (r Resolver) Look(ctx context.Context, host, token string) domain.DNSFound {
	found := domain.DNSFound{Proof: domain.Unknown, Points: domain.Unknown, Texts: []string{}, Elsewhere: []string{}}
	var texts []string
	var has, ours []netip.Addr
	var alias string
	var proofErr, hostErr, targetErr error
	var asks errgroup.Group
	asks.Go(func() error {
		texts, proofErr = r.texts(ctx, domain.ProofName+"."+host)
		return nil
	})
	asks.Go(func() error {
		has, alias, hostErr = r.addresses(ctx, host)
		return nil
	})
	asks.Go(func() error {
		ours, targetErr = r.Addresses(ctx)
		return nil
	})
	_ = asks.Wait() // each keeps its own
	if proofErr == nil {
		found.Texts, found.Proof = texts, answer(slices.Contains(texts, domain.ProofText(token)))
	}
	if alias != "" && alias != strings.ToLower(r.Target) {
		found.Alias = alias
	}
	switch {
	case hostErr == nil && len(has) == 0:
		found.Points = domain.No
	case hostErr == nil && targetErr == nil && len(ours) > 0:
		for _, each := range has {
			if !slices.Contains(ours, each) && len(found.Elsewhere) < addressesKept {
				found.Elsewhere = append(found.Elsewhere, each.String())
			}
		}
		found.Points = answer(len(found.Elsewhere) == 0)
	}
	if err := errors.Join(proofErr, hostErr, targetErr); err != nil {
		found.Problem = "The name servers gave no answer. They are asked again."
	}
	return found
}

func answer(yes bool) domain.Answer {
	if yes {
		return domain.Yes
	}
	return domain.No
}

// texts are those that stand under a name; none where there is no such name.
func (r Resolver) texts(ctx context.Context, name string) ([]string, error) {
	records, err := r.ask(ctx, name, dns.TypeTXT)
	texts := []string{}
	for _, record := range records {
		if text, ok := record.(*dns.TXT); ok && len(texts) < textsKept {
			// A text may come in pieces (RFC 1035 s3.3.14).
			whole := strings.ToValidUTF8(strings.ReplaceAll(strings.Join(text.Txt, ""), "\x00", ""), "")
			texts = append(texts, strings.ToValidUTF8(whole[:min(len(whole), textSize)], ""))
		}
	}
	return texts, err
}

// addresses are those of a host of both kinds; none where there is no such host. Alias is what its CNAME entry
// names, whether or not that is a host; empty for none.
func (r Resolver) addresses(ctx context.Context, host string) (all []netip.Addr, alias string, err error) {
	for _, kind := range []uint16{dns.TypeA, dns.TypeAAAA} {
		records, err := r.ask(ctx, host, kind)
		if err != nil {
			return nil, "", err
		}
		for _, record := range records {
			switch record := record.(type) {
			case *dns.CNAME:
				if strings.EqualFold(record.Hdr.Name, dns.Fqdn(host)) {
					alias = strings.ToLower(strings.TrimSuffix(record.Target, "."))
				}
			case *dns.A:
				if address, ok := netip.AddrFromSlice(record.A.To4()); ok {
					all = append(all, address)
				}
			case *dns.AAAA:
				if address, ok := netip.AddrFromSlice(record.AAAA); ok {
					all = append(all, address)
				}
			}
		}
	}
	return all, alias, nil
}

// ask puts a question; an answer of no records is that there is no such name, or nothing of that kind. Of a name that
// is an alias of one that is not there, the alias is answered (RFC 2308 s2.1).
func (r Resolver) ask(ctx context.Context, name string, kind uint16) ([]dns.RR, error) {
	ctx, cancel := context.WithTimeout(ctx, asksWithin)
	defer cancel()
	question := new(dns.Msg).SetQuestion(dns.Fqdn(name), kind)
	question.SetEdns0(udpSize, false)
	client := &dns.Client{Timeout: asksWithin, UDPSize: udpSize}
	said, _, err := client.ExchangeContext(ctx, question, r.Address)
	if err == nil && said.Truncated {
		client.Net = "tcp"
		said, _, err = client.ExchangeContext(ctx, question, r.Address)
	}
	switch {
	case err != nil:
		return nil, fmt.Errorf("ask for %s of %s: %w", dns.TypeToString[kind], name, err)
	case said.Rcode != dns.RcodeSuccess && said.Rcode != dns.RcodeNameError:
		return nil, fmt.Errorf("ask for %s of %s: %w: %s", dns.TypeToString[kind], name, errFailed, dns.RcodeToString[said.Rcode])
	}
	return said.Answer, nil
}
