package service

import (
	"bufio"
	"net"
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOnlyATrustedProxySaysWhomAConnectionComesFrom(t *testing.T) {
	// The header is the example of the PROXY protocol's text, section 2.1, with addresses of RFC 5737.
	const header = "PROXY TCP4 192.0.2.9 192.0.2.7 56324 443\r\n"
	for name, row := range map[string]struct {
		trusted     []netip.Prefix
		sent        string
		from, first string
	}{
		"a trusted proxy":         {[]netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}, header + "hello\n", "192.0.2.9", "hello\n"},
		"a trusted one is silent": {[]netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}, "hello\n", "127.0.0.1", "hello\n"},
		"a stranger who says so":  {nil, header, "127.0.0.1", "PROXY TCP4 192.0.2.9 192.0.2.7 56324 443\r\n"},
	} {
		t.Run(name, func(t *testing.T) {
			socket, err := net.Listen("tcp", "127.0.0.1:0")
			require.NoError(t, err)
			t.Cleanup(func() { _ = socket.Close() })
			listener := behindProxies(socket, row.trusted)
			client, err := net.Dial("tcp", socket.Addr().String())
			require.NoError(t, err)
			t.Cleanup(func() { _ = client.Close() })
			_, err = client.Write([]byte(row.sent))
			require.NoError(t, err)
			accepted, err := listener.Accept()
			require.NoError(t, err)
			line, err := bufio.NewReader(accepted).ReadString('\n')
			require.NoError(t, err)
			assert.Equal(t, row.first, line)
			host, _, err := net.SplitHostPort(accepted.RemoteAddr().String())
			require.NoError(t, err)
			assert.Equal(t, row.from, host)
		})
	}
}
