// Package certificates has certificates issued for hosts of creators' own by ACME (RFC 8555), keeps
// them in the database, and answers handshakes with them. Whoever issues them sees that a host is
// ours by a handshake (RFC 8737), so that no other port is needed.
package certificates

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"fmt"
	"net"
	"slices"
	"strconv"
	"time"

	"github.com/caddyserver/certmagic"
	"go.uber.org/zap"

	"jundle/internal/store"
)

const (
	// challengeProtocol is what the handshake of an issuer asks for (RFC 8737 s3).
	challengeProtocol = "acme-tls/1"
	// issuedWithin is how long the issue of one may take.
	issuedWithin = 90 * time.Second
	// overFor is for how long a certificate is kept after its end.
	overFor = 14 * 24 * time.Hour
	// heldInMemory is how many are held.
	heldInMemory = 5000
)

// ErrNotOurs is answered to a handshake for a host that nobody here has.
var ErrNotOurs = errors.New("nobody here has this host")

// Options are what certificates are issued with.
type Options struct {
	Store *store.Store
	// Directory is that of the ACME server, and Email whom it writes to where something is wrong.
	Directory, Email string
	// Roots are what the ACME server is trusted by; nil for those of the system.
	Roots *x509.CertPool
	// Listen is where handshakes arrive.
	Listen string
	// Has tells whether a host is one of a workspace's own.
	Has func(host string) bool
}

// Certificates are those of hosts.
type Certificates struct {
	cache  *certmagic.Cache
	config *certmagic.Config
	has    func(host string) bool
}

// New readies them.
func New(options Options) (*Certificates, error) {
	host, port, err := net.SplitHostPort(options.Listen)
	if err != nil {
		return nil, err
	}
	number, err := strconv.Atoi(port)
	if err != nil {
		return nil, fmt.Errorf("read the port of %s: %w", options.Listen, err)
	}
	c := &Certificates{has: options.Has}
	c.cache = certmagic.NewCache(certmagic.CacheOptions{
		GetConfigForCert: func(certmagic.Certificate) (*certmagic.Config, error) { return c.config, nil },
		Capacity:         heldInMemory, Logger: zap.NewNop(),
	})
	c.config = certmagic.New(c.cache, certmagic.Config{
		Storage: newStorage(options.Store), Logger: zap.NewNop(), OCSP: certmagic.OCSPConfig{DisableStapling: true},
		// Handshakes load what is kept. What is not theirs is turned away before anything is asked.
		OnDemand: &certmagic.OnDemandConfig{DecisionFunc: func(_ context.Context, name string) error {
			if !options.Has(name) {
				return ErrNotOurs
			}
			return nil
		}},
	})
	c.config.Issuers = []certmagic.Issuer{certmagic.NewACMEIssuer(c.config, certmagic.ACMEIssuer{
		CA: options.Directory, Email: options.Email, Agreed: true, DisableHTTPChallenge: true,
		ListenHost: host, AltTLSALPNPort: number, CertObtainTimeout: issuedWithin, TrustedRoots: options.Roots, Logger: zap.NewNop(),
	})}
	return c, nil
}

// TLS is what a listener answers handshakes with.
func (c *Certificates) TLS() *tls.Config {
	config := c.config.TLSConfig()
	config.NextProtos = append([]string{"h2", "http/1.1"}, config.NextProtos...)
	get := config.GetCertificate
	config.GetCertificate = func(hello *tls.ClientHelloInfo) (*tls.Certificate, error) {
		// What is held in memory is answered with before anybody is asked, so a host that was removed would go on.
		// A handshake by which an issuer sees that a host is ours comes before there is a certificate.
		if !slices.Contains(hello.SupportedProtos, challengeProtocol) && !c.has(hello.ServerName) {
			c.cache.RemoveManaged([]certmagic.SubjectIssuer{{Subject: hello.ServerName}})
			return nil, ErrNotOurs
		}
		return get(hello)
	}
	return config
}

// Obtain has a certificate issued for a host, or the one it has renewed where its time comes, and says
// from when until when it holds.
func (c *Certificates) Obtain(ctx context.Context, host string) (from, until time.Time, err error) {
	ctx, cancel := context.WithTimeout(ctx, issuedWithin)
	defer cancel()
	if err := c.config.ObtainCertSync(ctx, host); err != nil {
		return from, until, fmt.Errorf("have a certificate issued for %s: %w", host, err)
	}
	if err := c.config.RenewCertSync(ctx, host, false); err != nil {
		return from, until, fmt.Errorf("have the certificate of %s renewed: %w", host, err)
	}
	kept, err := c.config.CacheManagedCertificate(ctx, host)
	if err != nil {
		return from, until, fmt.Errorf("read the certificate of %s: %w", host, err)
	}
	return kept.Leaf.NotBefore, kept.Leaf.NotAfter, nil
}

// Clean deletes what nobody needs any more: certificates that have been over for a while.
func (c *Certificates) Clean(ctx context.Context) error {
	return certmagic.CleanStorage(ctx, c.config.Storage, certmagic.CleanStorageOptions{
		Logger: zap.NewNop(), ExpiredCerts: true, ExpiredCertGracePeriod: overFor, OCSPStaples: true,
	})
}

// Close ends what goes on in the background.
func (c *Certificates) Close() { c.cache.Stop() }
