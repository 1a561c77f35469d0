// Package freeport finds ports that somebody else can listen on a moment later.
package freeport

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
)

// Ports are looked for below those that the system gives to connections that lead out (Linux: from 32768 on): one of
// those can be taken at any moment.
const lowest, highest = 20_000, 32_000

// tries is how many ports are looked at before it is given up.
const tries = 200

// Find is an address on the loopback at which nobody listens, by TCP and by UDP.
func Find() (*net.TCPAddr, error) {
	var errs []error
	for range tries {
		port := lowest + rand.IntN(highest-lowest) //nolint:gosec // it guards nothing
		address := &net.TCPAddr{IP: net.IPv4(127, 0, 0, 1), Port: port}
		err := isFree(address.String())
		if err == nil {
			return address, nil
		}
		errs = append(errs, err)
	}
	return nil, fmt.Errorf("find a free port: %w", errors.Join(errs...))
}

// For is Find for a test, which ends where there is none.
func For(t interface {
	Helper()
	Fatal(args ...any)
},
) string {
	t.Helper()
	address, err := Find()
	if err != nil {
		t.Fatal(err)
	}
	return address.String()
}

func isFree(address string) error {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return err
	}
	socket, err := net.ListenPacket("udp", address)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	return errors.Join(listener.Close(), socket.Close())
}
