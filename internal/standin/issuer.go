package standin

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"fmt"
	"io"
	"log"
	"math/big"
	"net"
	"net/http"
	"os"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/letsencrypt/pebble/v2/ca"
	"github.com/letsencrypt/pebble/v2/db"
	"github.com/letsencrypt/pebble/v2/va"
	"github.com/letsencrypt/pebble/v2/wfe"
)

// Issuer is a made-up issuer of certificates, which nobody trusts: a small ACME server made for tests
// (Pebble). It finds hosts by the made-up name server, and speaks to whom they point to.
type Issuer struct {
	root   []byte
	server *http.Server
	// roots are what its own listener is trusted by.
	roots *x509.CertPool
}

// NewIssuer makes one that asks a resolver, and looks for TLS at a port.
func NewIssuer(resolver string, tlsPort int) (*Issuer, error) {
	// It would wait some seconds as a real one does.
	if err := os.Setenv("PEBBLE_VA_NOSLEEP", "1"); err != nil {
		return nil, err
	}
	quiet := log.New(io.Discard, "", 0)
	kept := db.NewMemoryStore()
	issues := ca.New(quiet, kept, "", "ecdsa", 0, 1,
		map[string]ca.Profile{"default": {Description: "made up", ValidityPeriod: 90 * 24 * 3600}})
	validates := va.New(quiet, 0, tlsPort, false, resolver, kept)
	front := wfe.New(quiet, kept, validates, issues, []string{"acme.example"}, false, false, 1, 1)
	root := issues.GetRootCert(0)
	if root == nil {
		return nil, errors.New("the made-up issuer has no root")
	}
	own, err := selfSigned()
	if err != nil {
		return nil, err
	}
	roots := x509.NewCertPool()
	roots.AddCert(own.Leaf)
	return &Issuer{
		root: root.PEM(), roots: roots, server: &http.Server{
			Handler: front.Handler(), ReadHeaderTimeout: 10 * time.Second,
			TLSConfig: &tls.Config{Certificates: []tls.Certificate{own}, MinVersion: tls.VersionTLS12},
		},
	}, nil
}

// selfSigned is a certificate for the loopback: the protocol is spoken over TLS only.
func selfSigned() (tls.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return tls.Certificate{}, err
	}
	now := time.Now()
	made := &x509.Certificate{
		SerialNumber: big.NewInt(now.UnixNano()), NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(1, 0, 0), IsCA: true,
		BasicConstraintsValid: true, IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1)},
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageDigitalSignature,
	}
	der, err := x509.CreateCertificate(rand.Reader, made, made, key.Public(), key)
	if err != nil {
		return tls.Certificate{}, err
	}
	leaf, err := x509.ParseCertificate(der)
	return tls.Certificate{Certificate: [][]byte{der}, PrivateKey: key, Leaf: leaf}, err
}

// Listen answers at an address until Close.
func (i *Issuer) Listen(address string) error {
	socket, err := net.Listen("tcp", address)
	if err != nil {
		return err
	}
	go func() { _ = i.server.ServeTLS(socket, "", "") }() // it ends with Close
	return nil
}

// Close ends it.
func (i *Issuer) Close() error { return i.server.Close() }

// Root is the certificate that all of its certificates rest on, as PEM.
func (i *Issuer) Root() []byte { return i.root }

// Roots are what its own listener is trusted by.
func (i *Issuer) Roots() *x509.CertPool { return i.roots }

// addIssuer shows the root of an issuer, for whoever wants to trust it for a test.
func (s *Server) addIssuer(issuer *Issuer) {
	if issuer == nil {
		return
	}
	s.engine.GET("/issuer.pem", func(c *gin.Context) { c.Data(http.StatusOK, "application/x-pem-file", issuer.root) })
}

// PortOf is the port of an address such as 127.0.0.1:8443.
func PortOf(address string) (int, error) {
	_, port, err := net.SplitHostPort(address)
	if err != nil {
		return 0, fmt.Errorf("read the port of %s: %w", address, err)
	}
	return strconv.Atoi(port)
}
