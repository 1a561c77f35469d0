// Package clients tells those who ask apart by their address, for limits: it
// says what stands for one household, and never keeps an address.
package clients

import "net/netip"

// networkBits is how much of an IPv6 address is given to one household or
// machine. Source: RFC 6177, section 2; RFC 4291, section 2.5.4: interface
// identifiers are 64 bits.
const networkBits = 64

// Network is what limits are kept by for an address: an IPv4 address itself, the
// /64 of an IPv6 address, and the text as it is where it is no address.
func Network(address string) string {
	parsed, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	parsed = parsed.Unmap().WithZone("")
	if parsed.Is4() {
		return parsed.String()
	}
	prefix, err := parsed.Prefix(networkBits)
	if err != nil {
		return address
	}
	return prefix.String()
}
