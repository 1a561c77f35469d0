package settings

import (
	"maps"
	"os"
	"path/filepath"
	"testing"

	"github.com/caarlos0/env/v11"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func read(variables map[string]string) (Settings, error) {
	all := map[string]string{"JUNDLE_DATABASE_URL": "postgres://jundle@127.0.0.1/jundle"}
	for name, value := range variables {
		all[name] = value
	}
	return parse(env.Options{Prefix: "JUNDLE_", Environment: all})
}

func TestOnlyTheDatabaseHasToBeSet(t *testing.T) {
	settings, err := read(nil)
	require.NoError(t, err)
	assert.Equal(t, "127.0.0.1:8080", settings.StudioListen)
	assert.Empty(t, settings.StandinListen, "no simulated service unless asked for")
}

func TestASettingThatCannotWorkIsNamedBeforeAnythingStarts(t *testing.T) {
	for name, variables := range map[string]map[string]string{
		"JUNDLE_DATABASE_URL":                 {"JUNDLE_DATABASE_URL": "mysql://x"},
		"JUNDLE_STUDIO_LISTEN":                {"JUNDLE_STUDIO_LISTEN": "8080"},
		"JUNDLE_PUBLIC_URL must be":           {"JUNDLE_PUBLIC_URL": "https://kiln.example/pages"},
		"must have different host names":      {"JUNDLE_STUDIO_URL": "http://127.0.0.1:8080"},
		"JUNDLE_TRUSTED_PROXIES must be":      {"JUNDLE_TRUSTED_PROXIES": "10.0.0.0/8,proxy"},
		"JUNDLE_LOG_FORMAT must be text or j": {"JUNDLE_LOG_FORMAT": "xml"},
		"LogLevel":                            {"JUNDLE_LOG_LEVEL": "loud"},
	} {
		_, err := read(variables)
		assert.ErrorContains(t, err, name)
	}
}

func TestEverythingWrongIsSaidAtOnce(t *testing.T) {
	_, err := read(map[string]string{"JUNDLE_STUDIO_LISTEN": "x", "JUNDLE_LOG_FORMAT": "xml"})
	assert.ErrorContains(t, err, "JUNDLE_STUDIO_LISTEN")
	assert.ErrorContains(t, err, "JUNDLE_LOG_FORMAT")
}

func TestAFileOfSettingsGivesWayToTheEnvironmentAndMayNameNoStranger(t *testing.T) {
	path := filepath.Join(t.TempDir(), "jundle.env")
	write := func(lines string) { require.NoError(t, os.WriteFile(path, []byte(lines), 0o600)) }
	write("# where\nJUNDLE_DATABASE_URL=postgres://jundle@127.0.0.1/jundle\nJUNDLE_STUDIO_LISTEN=127.0.0.1:9000\n" +
		"JUNDLE_PUBLIC_LISTEN=\"127.0.0.1:9001\"\nPATH=/nowhere\n")
	t.Setenv("JUNDLE_STUDIO_LISTEN", "127.0.0.1:9100")
	set, err := ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, "127.0.0.1:9100", set.StudioListen)
	assert.Equal(t, "127.0.0.1:9001", set.PublicListen)
	write("JUNDLE_STUDIO_LISTENS=127.0.0.1:9000\n")
	_, err = ReadFile(path)
	assert.ErrorContains(t, err, "JUNDLE_STUDIO_LISTENS, which is no setting")
	_, err = ReadFile(path + ".gone")
	assert.ErrorContains(t, err, "jundle.env.gone")
}

func TestMisuseIsReportedByMailOrOnTheWeb(t *testing.T) {
	for text, link := range map[string]string{
		"": "", "abuse@service.example": "mailto:abuse@service.example", "https://service.example/report": "https://service.example/report",
	} {
		set, err := read(map[string]string{"JUNDLE_ABUSE_ADDRESS": text})
		require.NoError(t, err, text)
		got, err := set.AbuseLink()
		require.NoError(t, err)
		assert.Equal(t, link, got)
	}
	_, err := read(map[string]string{"JUNDLE_ABUSE_ADDRESS": "javascript:alert(1)"})
	assert.ErrorContains(t, err, "JUNDLE_ABUSE_ADDRESS")
}

func TestDomainsOfCreatorsWantAllThatGoesWithThem(t *testing.T) {
	whole := map[string]string{
		"JUNDLE_DOMAIN_TARGET": "pages.kiln.example", "JUNDLE_TLS_LISTEN": "0.0.0.0:8443",
		"JUNDLE_ACME_URL": "https://acme.kiln.example/directory", "JUNDLE_ACME_EMAIL": "hostmaster@kiln.example",
	}
	set, err := read(whole)
	require.NoError(t, err)
	assert.True(t, set.HasDomains())
	assert.Equal(t, "https://links.quarrow.example", set.OwnOrigin("links.quarrow.example"))
	assert.ElementsMatch(t, []string{"pages.kiln.example", "localhost", "127.0.0.1"}, set.ServiceHosts())
	for _, wrong := range []struct{ name, value, says string }{
		{"JUNDLE_ACME_URL", "", "or none"},
		{"JUNDLE_DOMAIN_TARGET", "localhost", "JUNDLE_DOMAIN_TARGET must be a host"},
		{"JUNDLE_ACME_URL", "acme.kiln.example", "JUNDLE_ACME_URL must be the directory"},
		{"JUNDLE_RESOLVER", "127.0.0.1", "JUNDLE_RESOLVER must be HOST:PORT"},
		{"JUNDLE_TLS_LISTEN", "8443", "JUNDLE_TLS_LISTEN must be HOST:PORT"},
		{"JUNDLE_TLS_PORT", "70000", "JUNDLE_TLS_PORT must be a port"},
		{"JUNDLE_STANDIN_DNS_LISTEN", "127.0.0.1:8053", "wants JUNDLE_STANDIN_LISTEN"},
	} {
		some := maps.Clone(whole)
		some[wrong.name] = wrong.value
		_, err := read(some)
		assert.ErrorContains(t, err, wrong.says, wrong.name)
	}
	whole["JUNDLE_TLS_PORT"] = "8443"
	set, err = read(whole)
	require.NoError(t, err)
	assert.Equal(t, "https://links.quarrow.example:8443", set.OwnOrigin("links.quarrow.example"))
}
