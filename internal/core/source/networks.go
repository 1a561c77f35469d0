package source

import (
	"strings"
	"unicode"

	"golang.org/x/net/publicsuffix"
)

// Network is a site or an app that people come from.
type Network struct {
	Name string
	// Medium is social, email, search, media, app or unknown.
	Medium string
	Hosts  []string
}

// Networks finds networks by host and by name. A nil one knows none.
type Networks struct {
	byHost, byName map[string]*Network
}

// NewNetworks makes a directory. Where two networks claim one host or one name,
// the earlier has it.
func NewNetworks(list []Network) *Networks {
	networks := &Networks{byHost: make(map[string]*Network), byName: make(map[string]*Network)}
	for i := range list {
		network := &list[i]
		if _, taken := networks.byName[plain(network.Name)]; !taken {
			networks.byName[plain(network.Name)] = network
		}
		for _, host := range network.Hosts {
			host = strings.TrimPrefix(host, "www.")
			if _, taken := networks.byHost[host]; !taken {
				networks.byHost[host] = network
			}
		}
	}
	return networks
}

// OfHost names the network a host belongs to: the one listed for it or for the
// nearest host above it, down to the registrable domain; failing that, the one
// whose name is the label that was registered. It is empty for an unknown host.
func (n *Networks) OfHost(host string) string {
	if n == nil {
		return ""
	}
	domain := Domain(host)
	for within := strings.TrimPrefix(strings.ToLower(host), "www."); len(within) >= len(domain) && within != ""; {
		if network := n.byHost[within]; network != nil {
			return network.Name
		}
		_, above, found := strings.Cut(within, ".")
		if !found {
			break
		}
		within = above
	}
	label, _, _ := strings.Cut(domain, ".")
	if network := n.byName[plain(label)]; network != nil {
		return network.Name
	}
	return ""
}

// Domain is the registrable domain of a host (Public Suffix List), or the host
// itself where it has none, such as an address in numbers.
func Domain(host string) string {
	host = strings.TrimSuffix(strings.ToLower(host), ".")
	domain, err := publicsuffix.EffectiveTLDPlusOne(host)
	if err != nil {
		return host
	}
	return domain
}

// plain is what two writings of one name have in common: letters and digits.
func plain(name string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, name)
}
