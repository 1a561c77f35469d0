package domain

import (
	"net/netip"
	"strings"
)

// ProofName is under which name below a host its proof stands. It begins with an underscore, as
// names do that are no hosts (RFC 8552).
const ProofName = "_jundle"

// proofPrefix is what the text of a proof begins with.
const proofPrefix = "jundle-host="

// ProofText is the text to be set as the proof, of what is drawn for each workspace.
func ProofText(token string) string { return proofPrefix + token }

// DNSEntry is one to be set in the DNS.
type DNSEntry struct {
	// Does is what it is for: proof that the host is theirs, or points, which leads visitors here.
	Does string `json:"does" enum:"proof,points"`
	Type string `json:"type" enum:"TXT,CNAME,A,AAAA"`
	// Name is the whole name, and Short what is left of it before the name that was registered, as
	// many forms want it; @ for that itself.
	Name  string `json:"name"`
	Short string `json:"short"`
	Value string `json:"value"`
}

// Entries are those to be set for a host: its proof, and one that leads visitors to target. A name
// that was registered itself can have no CNAME (RFC 1034 s3.6.2), so that it gets the addresses.
func Entries(host, token, target string, addresses []netip.Addr) []DNSEntry {
	entry := func(does, kind, name, value string) DNSEntry {
		short := strings.TrimSuffix(strings.TrimSuffix(name, registered(host)), ".")
		if short == "" {
			short = "@"
		}
		return DNSEntry{does, kind, name, short, value}
	}
	all := []DNSEntry{entry("proof", "TXT", ProofName+"."+host, ProofText(token))}
	if registered(host) != host {
		return append(all, entry("points", "CNAME", host, target))
	}
	for _, each := range addresses {
		kind := "A"
		if each.Is6() {
			kind = "AAAA"
		}
		all = append(all, entry("points", kind, host, each.String()))
	}
	return all
}
