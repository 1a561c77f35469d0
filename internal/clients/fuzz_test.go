package clients_test

import (
	"testing"

	"jundle/internal/clients"
	"jundle/internal/fuzzing"
)

func FuzzNetwork(f *testing.F) {
	f.Add("2001:db8::1%eth0")
	f.Add("::ffff:192.0.2.1")
	f.Fuzz(func(t *testing.T, address string) {
		fuzzing.Bounded(t, func() { clients.Network(address) })
	})
}
