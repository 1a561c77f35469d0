package service_test

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/json"
	"net"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/domains"
	"jundle/internal/core/domain"
	"jundle/internal/core/page"
	"jundle/internal/freeport"
	"jundle/internal/service"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// ownHosts is a process that offers hosts of creators' own, by stand-ins.
type ownHosts struct {
	t       *testing.T
	with    service.Parts
	member  store.Member
	page    store.Page
	trusted *x509.CertPool
}

func startWithOwnHosts(t *testing.T) *ownHosts {
	t.Helper()
	names, issuer, tlsListen := freeport.For(t), freeport.For(t), freeport.For(t)
	_, port, err := net.SplitHostPort(tlsListen)
	require.NoError(t, err)
	for name, value := range map[string]string{
		"DOMAIN_TARGET": standin.DomainTarget, "TLS_LISTEN": tlsListen, "TLS_PORT": port, "RESOLVER": names, "STANDIN_DNS_LISTEN": names,
		"STANDIN_ACME_LISTEN": issuer, "ACME_URL": "https://" + issuer + "/dir", "ACME_EMAIL": "letters@jundle.example",
		"STANDIN_LISTEN": freeport.For(t),
	} {
		t.Setenv("JUNDLE_"+name, value)
	}
	with := parts(t, storetest.URL(t))
	running, err := service.Start(t.Context(), with, nil)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, running.Stop()) })
	o := &ownHosts{t: t, with: with, trusted: x509.NewCertPool()}
	_, root := get(t, "http://"+with.Settings.StandinListen+"/issuer.pem")
	require.True(t, o.trusted.AppendCertsFromPEM([]byte(root)))
	now := time.Now()
	o.member, err = with.Stores.Studio.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC",
	}, now)
	require.NoError(t, err)
	pages, err := with.Stores.Studio.Pages(t.Context(), o.member.WorkspaceID)
	require.NoError(t, err)
	o.page = pages[0]
	doc := page.New()
	doc.Header.Name = "Quarrow Clay"
	saved, err := with.Stores.Studio.SaveDraft(t.Context(), o.member.WorkspaceID, o.page.ID, o.page.Revision, doc)
	require.NoError(t, err)
	o.page, err = with.Stores.Studio.Publish(t.Context(), o.member.WorkspaceID, o.member.ID, o.page.ID,
		store.Publishing{Revision: saved.Revision}, now)
	require.NoError(t, err)
	return o
}

// add adds a host with the page to stand there.
func (o *ownHosts) add(host string) store.Domain {
	o.t.Helper()
	added, err := domains.Domains{Store: o.with.Stores.Studio, Now: time.Now}.Add(o.t.Context(), o.member.WorkspaceID, host, &o.page.ID)
	require.NoError(o.t, err)
	return added
}

// name sets or takes out an entry of the made-up DNS.
func (o *ownHosts) name(path string, entry domain.DNSEntry) {
	o.t.Helper()
	got, err := http.PostForm("http://"+o.with.Settings.StandinListen+path,
		url.Values{"name": {entry.Name}, "type": {entry.Type}, "value": {entry.Value}})
	require.NoError(o.t, err)
	require.NoError(o.t, got.Body.Close())
	require.Equal(o.t, http.StatusOK, got.StatusCode)
}

// becomes waits until a host is so far, which the process itself looks at as soon as it can.
func (o *ownHosts) becomes(one store.Domain, state domain.State) store.Domain {
	o.t.Helper()
	var found store.Domain
	require.Eventually(o.t, func() bool {
		var err error
		_, err = o.with.Stores.Background.Pool().Exec(o.t.Context(),
			"update domains set check_at = now() where id = $1 and check_at > now()", one.ID)
		require.NoError(o.t, err)
		found, err = o.with.Stores.Studio.Domain(o.t.Context(), o.member.WorkspaceID, one.ID)
		require.NoError(o.t, err)
		return found.StateAt(time.Now()) == state
	}, 60*time.Second, 100*time.Millisecond, "it is %+v", &found)
	return found
}

// visit asks for a path under a host of one's own, trusting the made-up issuer and nobody else.
func (o *ownHosts) visit(host, path string) (*http.Response, error) {
	client := http.Client{
		Transport: &http.Transport{
			TLSClientConfig:   &tls.Config{RootCAs: o.trusted, MinVersion: tls.VersionTLS12},
			ForceAttemptHTTP2: true, DisableKeepAlives: true,
			DialContext: func(ctx context.Context, _, _ string) (net.Conn, error) {
				return new(net.Dialer).DialContext(ctx, "tcp", o.with.Settings.TLSListen)
			},
		},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}
	request, err := http.NewRequestWithContext(o.t.Context(), http.MethodGet, o.with.Settings.OwnOrigin(host)+path, nil)
	require.NoError(o.t, err)
	return client.Do(request)
}

// shared asks for a path under the host that all share.
func (o *ownHosts) shared(path string) *http.Response {
	o.t.Helper()
	client := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	got, err := client.Get("http://" + o.with.Settings.PublicListen + path)
	require.NoError(o.t, err)
	o.t.Cleanup(func() { _ = got.Body.Close() })
	return got
}

func TestAHostOfOnesOwnIsProvenCertifiedServedAndLost(t *testing.T) {
	o := startWithOwnHosts(t)
	one := o.add("links.quarrow.example")
	entries := domain.Entries(one.Host, one.Token, standin.DomainTarget, nil)

	o.becomes(one, domain.Unproven)
	_, err := o.visit(one.Host, "/")
	require.Error(t, err, "nobody is answered under a host that nobody has proven")
	o.name("/names", entries[0])
	o.becomes(one, domain.Elsewhere)
	o.name("/names", entries[1])
	used := o.becomes(one, domain.InUse)
	assert.True(t, used.CertificateUntil.After(time.Now().AddDate(0, 2, 0)))
	assert.True(t, used.RenewAt.After(time.Now().AddDate(0, 1, 0)))

	require.Eventually(t, func() bool { return o.shared("/quarrow-clay").StatusCode == http.StatusPermanentRedirect }, 10*time.Second,
		20*time.Millisecond, "the old address leads on")
	assert.Equal(t, o.with.Settings.OwnOrigin(one.Host)+"/quarrow-clay", o.shared("/quarrow-clay").Header.Get("Location"))
	got, err := o.visit(one.Host, "/")
	require.NoError(t, err)
	defer got.Body.Close()
	assert.Equal(t, http.StatusOK, got.StatusCode)
	assert.Equal(t, 2, got.ProtoMajor, "by HTTP/2")
	require.NotNil(t, got.TLS)
	assert.NoError(t, got.TLS.PeerCertificates[0].VerifyHostname(one.Host))
	_, err = o.visit("other.quarrow.example", "/")
	require.Error(t, err, "there is no certificate for a host that nobody added")

	o.name("/names/remove", entries[1])
	lost := o.becomes(one, domain.Lost)
	assert.NotNil(t, lost.LostAt)
	require.Eventually(t, func() bool { return o.shared("/quarrow-clay").StatusCode == http.StatusOK }, 10*time.Second, 20*time.Millisecond,
		"the old address does what it did before")
	o.name("/names", entries[1])
	o.becomes(one, domain.InUse)
	var orders []byte
	require.NoError(t, o.with.Stores.Background.Pool().QueryRow(t.Context(),
		"select args from river_job where kind = 'letter' and args->>'about' = $1", store.DomainLost).Scan(&orders))
	var order store.LetterOrder
	require.NoError(t, json.Unmarshal(orders, &order))
	assert.Equal(t, o.member.ID, order.User, "who runs the workspace is told")
	assert.False(t, strings.Contains(string(orders), "quarrow.example"))
}
