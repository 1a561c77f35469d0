package settings

import (
	"crypto/x509"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"strconv"

	"jundle/internal/core/domain"
	"jundle/internal/resolver"
)

// HasDomains tells whether creators can have hosts of their own.
func (s Settings) HasDomains() bool { return s.DomainTarget != "" }

// OwnOrigin is where visitors reach a host of a creator's own.
func (s Settings) OwnOrigin(host string) string {
	if s.TLSPort != 443 {
		host = net.JoinHostPort(host, strconv.Itoa(s.TLSPort))
	}
	return "https://" + host
}

// ServiceHosts are those that the service itself is reached under, which no creator can have.
func (s Settings) ServiceHosts() []string {
	hosts := []string{s.DomainTarget}
	for _, address := range []string{s.StudioURL, s.PublicURL} {
		if parsed, err := url.Parse(address); err == nil {
			hosts = append(hosts, parsed.Hostname())
		}
	}
	return hosts
}

// Resolving is the resolver that is asked about hosts of creators' own: the one of the system, where none is
// set.
func (s Settings) Resolving() (resolver.Resolver, error) {
	address := s.Resolver
	if address == "" {
		system, err := resolver.System()
		if err != nil {
			return resolver.Resolver{}, fmt.Errorf("set JUNDLE_RESOLVER: %w", err)
		}
		address = system
	}
	return resolver.Resolver{Address: address, Target: s.DomainTarget}, nil
}

// TrustedIssuers are the certificates that the ACME server is trusted by; nil for those of the system.
func (s Settings) TrustedIssuers() (*x509.CertPool, error) {
	if s.ACMERoots == "" {
		return nil, nil
	}
	text, err := os.ReadFile(s.ACMERoots)
	if err != nil {
		return nil, fmt.Errorf("read JUNDLE_ACME_ROOTS: %w", err)
	}
	roots := x509.NewCertPool()
	if !roots.AppendCertsFromPEM(text) {
		return nil, fmt.Errorf("JUNDLE_ACME_ROOTS must be a file of certificates as PEM; there is none in %s", s.ACMERoots)
	}
	return roots, nil
}

// checkDomains holds together what hosts of creators' own want.
func (s Settings) checkDomains() error {
	wanted := []string{s.DomainTarget, s.TLSListen, s.ACMEURL, s.ACMEEmail}
	set := 0
	for _, each := range wanted {
		if each != "" {
			set++
		}
	}
	if set == 0 {
		return nil
	}
	if set < len(wanted) {
		return errors.New("for domains of creators' own set all of JUNDLE_DOMAIN_TARGET, JUNDLE_TLS_LISTEN, JUNDLE_ACME_URL and " +
			"JUNDLE_ACME_EMAIL, or none")
	}
	if _, err := domain.ParseHost(s.DomainTarget); err != nil {
		return fmt.Errorf("JUNDLE_DOMAIN_TARGET must be a host, like pages.kiln.example; it is %q", s.DomainTarget)
	}
	if address, err := url.Parse(s.ACMEURL); err != nil || address.Host == "" || address.Scheme != "https" && address.Scheme != "http" {
		return fmt.Errorf("JUNDLE_ACME_URL must be the directory of an ACME server, like https://acme.kiln.example/directory; it is %q",
			s.ACMEURL)
	}
	if s.Resolver != "" {
		if _, _, err := net.SplitHostPort(s.Resolver); err != nil {
			return fmt.Errorf("JUNDLE_RESOLVER must be HOST:PORT, like 127.0.0.1:53; it is %q", s.Resolver)
		}
	}
	if s.TLSPort < 1 || s.TLSPort > 65535 {
		return fmt.Errorf("JUNDLE_TLS_PORT must be a port; it is %d", s.TLSPort)
	}
	return nil
}
