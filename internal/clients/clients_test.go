package clients_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/clients"
)

func TestAHouseholdIsOneClientWhateverAddressItTakes(t *testing.T) {
	for address, network := range map[string]string{
		"192.0.2.7": "192.0.2.7", "::ffff:192.0.2.7": "192.0.2.7", "2001:db8:1:2:3:4:5:6": "2001:db8:1:2::/64",
		"2001:db8:1:2::9": "2001:db8:1:2::/64",
		"fe80::1%eth0":    "fe80::/64", "": "", "nobody": "nobody",
	} {
		assert.Equal(t, network, clients.Network(address), address)
	}
}
