package faults_test

import (
	"bytes"
	"context"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"io"
	"math/big"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/freeport"
	"jundle/internal/store/storetest"
)

// certificate makes one for both names, signed by itself.
func certificate(t *testing.T, dir string, names ...string) *x509.CertPool {
	t.Helper()
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	require.NoError(t, err)
	template := &x509.Certificate{
		SerialNumber: big.NewInt(1), DNSNames: names, NotBefore: time.Now().Add(-time.Hour),
		NotAfter: time.Now().Add(time.Hour), IsCA: true, BasicConstraintsValid: true,
	}
	made, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	require.NoError(t, err)
	secret, err := x509.MarshalPKCS8PrivateKey(key)
	require.NoError(t, err)
	for name, block := range map[string]*pem.Block{
		"jundle.crt": {Type: "CERTIFICATE", Bytes: made},
		"jundle.key": {Type: "PRIVATE KEY", Bytes: secret},
	} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), pem.EncodeToMemory(block), 0o600))
	}
	pool := x509.NewCertPool()
	parsed, err := x509.ParseCertificate(made)
	require.NoError(t, err)
	pool.AddCert(parsed)
	return pool
}

// startNginx starts nginx with a configuration, in a folder of its own.
func startNginx(t *testing.T, dir, config string) {
	t.Helper()
	file := filepath.Join(dir, "nginx.conf")
	require.NoError(t, os.WriteFile(file, []byte(config), 0o600))
	server := exec.Command("/usr/sbin/nginx", "-c", file)
	said := &output{}
	server.Stdout, server.Stderr = said, said
	require.NoError(t, server.Start(), "nginx comes from Debian's packages")
	t.Cleanup(func() {
		_ = server.Process.Signal(syscall.SIGTERM)
		_ = server.Wait()
		if t.Failed() {
			t.Log(said.String())
		}
	})
}

// The file that docs/running.md names, with ports and certificate of the test.
func nginx(t *testing.T, studio, pages string) (https, plain string, trusted *x509.CertPool) {
	t.Helper()
	dir := t.TempDir()
	trusted = certificate(t, dir, "studio.kiln.example", "kiln.example")
	text, err := os.ReadFile("../../docs/nginx.conf")
	require.NoError(t, err)
	https, plain = freeport.For(t), freeport.For(t)
	config := strings.NewReplacer(
		"127.0.0.1:8080",
		studio,
		"127.0.0.1:8090",
		pages,
		"listen 443",
		"listen "+https,
		"listen 80",
		"listen "+plain,
		"/etc/ssl/",
		dir+"/",
		"worker_processes auto;",
		"worker_processes 1; daemon off; pid "+dir+"/nginx.pid; error_log "+dir+"/error.log;",
		"http {",
		"http { client_body_temp_path "+dir+"/body; proxy_temp_path "+dir+"/proxy; fastcgi_temp_path "+dir+"/f; "+
			"uwsgi_temp_path "+dir+"/u; scgi_temp_path "+dir+"/s;",
	).Replace(string(text))
	startNginx(t, dir, config)
	require.Eventually(t, func() bool {
		conn, err := net.Dial("tcp", https)
		if err == nil {
			_ = conn.Close()
		}
		return err == nil
	}, 10*time.Second, 20*time.Millisecond)
	return https, plain, trusted
}

func TestBehindNginxWithTLSEverythingWorksAndNobodyIsBelieved(t *testing.T) {
	t.Parallel()
	p := newProgram(t, storetest.Migrated(t), "JUNDLE_STUDIO_URL=https://studio.kiln.example", "JUNDLE_PUBLIC_URL=https://kiln.example",
		"JUNDLE_TRUSTED_PROXIES=127.0.0.0/8", "JUNDLE_LOG_LEVEL=debug")
	p.start()
	https, plain, trusted := nginx(t, strings.TrimPrefix(p.studio, "http://"), strings.TrimPrefix(p.public, "http://"))
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	browser := &http.Client{
		Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
		Transport: &http.Transport{
			TLSClientConfig: &tls.Config{RootCAs: trusted},
			DialContext: func(ctx context.Context, network, address string) (net.Conn, error) {
				if strings.HasSuffix(address, ":80") {
					return (&net.Dialer{}).DialContext(ctx, network, plain)
				}
				return (&net.Dialer{}).DialContext(ctx, network, https)
			},
		},
	}
	do := func(method, address string, body io.Reader, headers ...string) (*http.Response, string) {
		t.Helper()
		request, err := http.NewRequest(method, address, body)
		require.NoError(t, err)
		request.Header.Set("User-Agent", "Mozilla/5.0 (Linux; Android 15; K) Mobile")
		for i := 0; i < len(headers); i += 2 {
			request.Header.Set(headers[i], headers[i+1])
		}
		answer, err := browser.Do(request)
		require.NoError(t, err)
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer, string(text)
	}
	answer, _ := do("GET", "http://kiln.example/quarrow-clay?a=b", nil)
	assert.Equal(t, http.StatusMovedPermanently, answer.StatusCode)
	assert.Equal(t, "https://kiln.example/quarrow-clay?a=b", answer.Header.Get("Location"))

	answer, page := do("GET", "https://kiln.example/quarrow-clay", nil)
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	assert.Contains(t, page, "Kiln")
	assert.Equal(t, "max-age=31536000", answer.Header.Get("Strict-Transport-Security"))
	answer, _ = do("GET", "https://kiln.example/quarrow-clay/-/1/kiln/loft", nil)
	assert.Equal(t, "https://kiln.example/", answer.Header.Get("Location"))

	const asJSON = "application/json"
	answer, says := do("POST", "https://studio.kiln.example/api/accounts", strings.NewReader(
		`{"token":"`+p.accountToken("rolf@quarrow.example", "rolf-pots")+`","password":"clay and water","pageAddress":"rolf-pots"}`),
		"Content-Type", asJSON, "Origin", "https://studio.kiln.example")
	require.Equal(t, http.StatusOK, answer.StatusCode, says)
	assert.Contains(t, answer.Header.Get("Set-Cookie"), "Secure")
	assert.Equal(t, "max-age=31536000", answer.Header.Get("Strict-Transport-Security"))
	answer, says = do("POST", "https://studio.kiln.example/api/sign-out", nil, "Origin", "https://evil.example", "Sec-Fetch-Site",
		"cross-site")
	assert.Equal(t, http.StatusForbidden, answer.StatusCode, says)
	answer, says = do("POST", "https://studio.kiln.example/api/files", bytes.NewReader(make([]byte, 14<<20)), "Content-Type",
		"application/octet-stream")
	assert.Equal(t, http.StatusOK, answer.StatusCode, says)

	// Whatever address the asker claims, limits are kept by the one nginx saw.
	for i := range 9 {
		answer, _ = do(
			"POST",
			"https://studio.kiln.example/api/sign-in",
			strings.NewReader(
				`{"email":"ilse@quarrow.example","password":"a guess or two"}`,
			),
			"Content-Type",
			asJSON,
			"X-Forwarded-For",
			"198.51.100."+string(rune('1'+i)),
		)
	}
	assert.Equal(t, http.StatusTooManyRequests, answer.StatusCode)

	// What opens something to whoever has it stands in no log.
	do("GET", "https://kiln.example/-/figures/SECRETTOKEN", nil)
	do("GET", "https://kiln.example/-/preview/SECRETTOKEN", nil)
	do("GET", "https://kiln.example/-/own/SECRETMARK", nil)
	assert.Contains(t, p.said.String(), "/-/figures/…")
	assert.Contains(t, p.said.String(), "/-/preview/…")
	assert.NotContains(t, p.said.String(), "SECRET")
}

// accountToken is what whoever runs the program has made for somebody to open an account with.
func (p *program) accountToken(email, pageAddress string) string {
	p.t.Helper()
	file, err := built()
	require.NoError(p.t, err)
	command := exec.Command(file, "account", "open", email, pageAddress)
	command.Env = p.env
	link, err := command.Output()
	require.NoError(p.t, err)
	_, token, found := strings.Cut(strings.TrimSpace(string(link)), "https://studio.kiln.example/open-account#")
	require.True(p.t, found, "%s", link)
	return token
}
