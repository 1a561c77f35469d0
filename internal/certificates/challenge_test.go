package certificates_test

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"strconv"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/certificates"
	"jundle/internal/freeport"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// listen takes a free port of its own.
func listen(t *testing.T) net.Listener {
	t.Helper()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = listener.Close() })
	return listener
}

// RFC 8737: whoever issues a certificate sees by a handshake at the host that it is ours. Behind a balancer that
// handshake arrives at any process, not only at the one that asked.
func TestAChallengeIsAnsweredByWhicheverProcessItArrivesAt(t *testing.T) {
	const host = standin.DomainTarget // the made-up name server knows it
	arrives := listen(t)
	_, port, err := net.SplitHostPort(arrives.Addr().String())
	require.NoError(t, err)
	tlsPort, err := strconv.Atoi(port)
	require.NoError(t, err)
	names, resolver := standin.NewNames(), freeport.For(t)
	require.NoError(t, names.Listen(resolver))
	t.Cleanup(func() { assert.NoError(t, names.Close()) })
	issuer, err := standin.NewIssuer(resolver, tlsPort)
	require.NoError(t, err)
	directory := freeport.For(t)
	require.NoError(t, issuer.Listen(directory))
	t.Cleanup(func() { assert.NoError(t, issuer.Close()) })

	var removed atomic.Bool
	process := func(shared *store.Store, address string) *certificates.Certificates {
		made, err := certificates.New(certificates.Options{
			Store: shared, Directory: "https://" + directory + "/dir", Email: "letters@jundle.example", Roots: issuer.Roots(),
			Listen: address, Has: func(name string) bool { return name == host && !removed.Load() },
		})
		require.NoError(t, err)
		t.Cleanup(made.Close)
		return made
	}
	shared := storetest.New(t)
	asks, answers := process(shared, freeport.For(t)), process(shared, arrives.Addr().String())
	go func() {
		for {
			arrived, err := arrives.Accept()
			if err != nil {
				return
			}
			go func() {
				defer arrived.Close()
				_ = tls.Server(arrived, answers.TLS()).HandshakeContext(t.Context())
			}()
		}
	}()
	_, until, err := asks.Obtain(t.Context(), host)
	require.NoError(t, err)
	assert.True(t, until.After(time.Now()))

	// And the certificate is there for both.
	issued := x509.NewCertPool()
	require.True(t, issued.AppendCertsFromPEM(issuer.Root()))
	dialed, err := tls.Dial("tcp", arrives.Addr().String(), &tls.Config{ServerName: host, RootCAs: issued, MinVersion: tls.VersionTLS12})
	require.NoError(t, err)
	assert.NoError(t, dialed.Close())

	// Once the host is removed, what is held in memory is answered with no more.
	removed.Store(true)
	_, err = tls.Dial("tcp", arrives.Addr().String(), &tls.Config{ServerName: host, RootCAs: issued, MinVersion: tls.VersionTLS12})
	assert.Error(t, err)
}
