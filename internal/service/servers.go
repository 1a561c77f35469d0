package service

import (
	"crypto/tls"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"time"

	"github.com/pires/go-proxyproto"
)

// newServer serves a part of the program to whoever comes.
func newServer(part string, handler http.Handler) *http.Server {
	return &http.Server{
		Handler: logged(part, handler), ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: time.Minute,
		IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
	}
}

// newVisitorServer serves visitors, who send nothing but what a browser says of
// itself.
func newVisitorServer(handler http.Handler) *http.Server {
	server := newServer("public", handler)
	server.ReadTimeout, server.MaxHeaderBytes = 30*time.Second, 32<<10
	return server
}

// newTLSServer serves visitors under hosts of creators' own.
func newTLSServer(handler http.Handler, config *tls.Config) *http.Server {
	server := newVisitorServer(handler)
	server.TLSConfig = config
	// Handshakes that fail are anybody's, and as many as they like.
	server.ErrorLog = slog.NewLogLogger(slog.Default().Handler(), slog.LevelDebug)
	return server
}

// behindProxies has proxies that are trusted say before TLS begins whom a connection comes from: whoever hands
// TLS on unopened cannot say so in a header field (PROXY protocol). Nobody else is asked.
func behindProxies(socket net.Listener, trusted []netip.Prefix) net.Listener {
	return &proxyproto.Listener{
		Listener: socket, ReadHeaderTimeout: 5 * time.Second,
		ConnPolicy: func(of proxyproto.ConnPolicyOptions) (proxyproto.Policy, error) {
			from, err := netip.ParseAddrPort(of.Upstream.String())
			if err == nil && slices.ContainsFunc(trusted, func(each netip.Prefix) bool { return each.Contains(from.Addr().Unmap()) }) {
				return proxyproto.USE, nil
			}
			return proxyproto.SKIP, nil
		},
	}
}
