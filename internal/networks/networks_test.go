package networks

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Source: data/referers.yml of referer-parser and the provider list of oEmbed,
// versions in libdata.
func TestEveryListedHostIsOnItsNetwork(t *testing.T) {
	known, err := Load()
	require.NoError(t, err)
	list, err := read()
	require.NoError(t, err)
	holder := map[string]string{}
	for _, network := range list {
		for _, host := range network.Hosts {
			host = strings.TrimPrefix(host, "www.")
			if holder[host] == "" {
				holder[host] = network.Name // a host that two claim is the earlier's
			}
		}
	}
	require.Greater(t, len(holder), 1200)
	for host, name := range holder {
		assert.Equal(t, name, known.OfHost(host), host)
		assert.Equal(t, name, known.OfHost("www."+host), host)
	}
}

func TestEveryAppIsKnownByItsMarkAndOnANetwork(t *testing.T) {
	apps, err := Apps()
	require.NoError(t, err)
	list, err := read()
	require.NoError(t, err)
	names := map[string]bool{}
	for _, network := range list {
		names[network.Name] = true
	}
	require.Greater(t, len(apps), 10)
	for _, app := range apps {
		assert.Regexp(t, app.Mark, app.Sample)
		assert.True(t, names[app.Network], app.Network)
	}
}

func TestAnUnknownHostIsOnNone(t *testing.T) {
	known, err := Load()
	require.NoError(t, err)
	for _, host := range []string{"", "kiln.example", "com", "192.0.2.1", "localhost", ".", "co.uk"} {
		assert.Empty(t, known.OfHost(host), host)
	}
}
