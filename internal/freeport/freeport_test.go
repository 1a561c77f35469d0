package freeport_test

import (
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/freeport"
)

func TestAPortThatIsFoundCanBeListenedOn(t *testing.T) {
	seen := map[string]bool{}
	for range 50 {
		address := freeport.For(t)
		assert.False(t, seen[address], "what is listened on is not found again")
		seen[address] = true
		listener, err := net.Listen("tcp", address)
		require.NoError(t, err)
		socket, err := net.ListenPacket("udp", address)
		require.NoError(t, err)
		t.Cleanup(func() { _, _ = listener.Close(), socket.Close() })
	}
}
