package outbound

import "net/netip"

// global is what is given out of IPv6 at all. Source: IANA, Internet Protocol
// Version 6 Address Space: all the rest is reserved, local or not assigned.
var global = netip.MustParsePrefix("2000::/3")

// special are the blocks that are not on the public internet beyond those
// netip knows. Source: IANA special-purpose address registries (RFC 6890).
var special = prefixes(
	"0.0.0.0/8", "100.64.0.0/10", "192.0.0.0/24", "192.0.2.0/24", "192.88.99.0/24", "198.18.0.0/15",
	"198.51.100.0/24", "203.0.113.0/24", "240.0.0.0/4",
	"2001::/23", "2001:db8::/32", "2002::/16", "3fff::/20",
)

func prefixes(list ...string) []netip.Prefix {
	parsed := make([]netip.Prefix, len(list))
	for i, text := range list {
		parsed[i] = netip.MustParsePrefix(text)
	}
	return parsed
}

// isPublic tells whether an address is one anybody could reach.
func isPublic(address netip.Addr) bool {
	address = address.Unmap().WithZone("")
	if !address.IsGlobalUnicast() || address.IsPrivate() || address.IsLoopback() || address.IsLinkLocalUnicast() {
		return false
	}
	if address.Is6() && !global.Contains(address) {
		return false
	}
	for _, block := range special {
		if block.Contains(address) {
			return false
		}
	}
	return true
}
