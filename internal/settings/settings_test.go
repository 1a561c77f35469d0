package settings

import (
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
