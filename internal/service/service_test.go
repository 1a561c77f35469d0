package service_test

import (
	"io"
	"net"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/service"
	"jundle/internal/settings"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func free(t *testing.T) string {
	t.Helper()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer listener.Close()
	return listener.Addr().String()
}

func set(t *testing.T) settings.Settings {
	return settings.Settings{StudioListen: free(t), PublicListen: free(t), StudioURL: "http://localhost:8080", PublicURL: "http://127.0.0.1:8090", LogFormat: "text"}
}

func get(t *testing.T, address string) (int, string) {
	t.Helper()
	response, err := http.Get(address)
	require.NoError(t, err)
	defer response.Body.Close()
	body, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	return response.StatusCode, string(body)
}

func TestATakenPortIsNamedWithAWayRoundIt(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	s, settings := storetest.New(t), set(t)
	settings.PublicListen = taken.Addr().String()
	_, err = service.Start(t.Context(), settings, s, nil)
	require.ErrorContains(t, err, "the public listener cannot listen on "+settings.PublicListen)
	assert.ErrorContains(t, err, "set JUNDLE_PUBLIC_LISTEN to a free one")
	again, err := net.Listen("tcp", settings.StudioListen)
	require.NoError(t, err, "what was opened before is closed again")
	_ = again.Close()
}

func TestHealthSaysWhetherTheWorkCanBeDone(t *testing.T) {
	url := storetest.URL(t)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	settings := set(t)
	running, err := service.Start(t.Context(), settings, s, nil)
	require.NoError(t, err)
	for _, address := range []string{settings.StudioListen, settings.PublicListen} {
		status, body := get(t, "http://"+address+"/readyz")
		assert.Equal(t, http.StatusOK, status)
		assert.Contains(t, body, `"status":"ok"`)
	}
	s.Close() // the database goes away
	status, body := get(t, "http://"+settings.PublicListen+"/readyz")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, body, "the database does not answer")
	status, _ = get(t, "http://"+settings.PublicListen+"/healthz")
	assert.Equal(t, http.StatusOK, status, "the process itself is well")
	require.NoError(t, running.Stop())
	_, err = http.Get("http://" + settings.PublicListen + "/healthz")
	assert.Error(t, err, "nothing listens after Stop")
}
