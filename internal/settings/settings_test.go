package settings

import (
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
