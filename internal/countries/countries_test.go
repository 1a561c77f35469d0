package countries_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/countries"
)

func TestAnAddressBelongsToACountryOrNobodyKnows(t *testing.T) {
	table, err := countries.Load()
	require.NoError(t, err)
	for address, country := range map[string]string{
		// Registries' own networks, by their allocation records (RIPE NCC, APNIC, LACNIC).
		"193.0.6.139": "NL", "2001:67c:2e8:22::c100:68b": "NL", "203.119.101.61": "AU", "200.3.14.10": "UY",
		"::ffff:193.0.6.139": "NL",
		// RFC 5737, RFC 1918, RFC 4193 and RFC 4291: documentation, private use, this machine.
		"192.0.2.1": "", "fc00::1": "", "10.1.2.3": "", "::1": "",
		"fe80::1%eth0": "", "nobody": "", "": "",
	} {
		assert.Equal(t, country, table.Of(address), address)
	}
	assert.Empty(t, (*countries.Table)(nil).Of("193.0.6.139"))
}
