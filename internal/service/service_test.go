package service_test

import (
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	dto "github.com/prometheus/client_model/go"
	"github.com/prometheus/common/expfmt"
	"github.com/prometheus/common/model"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/files"
	"jundle/internal/freeport"
	"jundle/internal/service"
	"jundle/internal/settings"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// parts are those of a process with a folder of its own.
func parts(t *testing.T, url string) service.Parts {
	t.Helper()
	for name, value := range map[string]string{
		"DATABASE_URL": url, "STUDIO_LISTEN": freeport.For(t), "PUBLIC_LISTEN": freeport.For(t), "DATA_DIR": t.TempDir(), "MEDIA": t.TempDir(),
	} {
		t.Setenv("JUNDLE_"+name, value)
	}
	set, err := settings.Read()
	require.NoError(t, err)
	stores, err := store.OpenAll(t.Context(), url, set.Pools(), set.Quotas())
	require.NoError(t, err)
	t.Cleanup(stores.Close)
	kept, err := files.Open(t.Context(), set.Media, stores.Background, time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { _ = kept.Close() })
	return service.Parts{Settings: set, Stores: stores, Files: kept}
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
	with := parts(t, storetest.URL(t))
	with.Settings.PublicListen = taken.Addr().String()
	_, err = service.Start(t.Context(), with, nil)
	require.ErrorContains(t, err, "the public listener cannot listen on "+with.Settings.PublicListen)
	assert.ErrorContains(t, err, "set JUNDLE_PUBLIC_LISTEN to a free one")
	again, err := net.Listen("tcp", with.Settings.StudioListen)
	require.NoError(t, err, "what was opened before is closed again")
	_ = again.Close()
}

func TestHealthSaysWhetherTheWorkCanBeDone(t *testing.T) {
	with := parts(t, storetest.URL(t))
	settings := with.Settings
	running, err := service.Start(t.Context(), with, nil)
	require.NoError(t, err)
	for _, address := range []string{settings.StudioListen, settings.PublicListen} {
		status, body := get(t, "http://"+address+"/readyz")
		assert.Equal(t, http.StatusOK, status)
		assert.Contains(t, body, `"status":"ok"`)
	}
	with.Stores.Close() // the database goes away
	status, body := get(t, "http://"+settings.PublicListen+"/readyz")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, body, "the database does not answer")
	status, _ = get(t, "http://"+settings.PublicListen+"/healthz")
	assert.Equal(t, http.StatusOK, status, "the process itself is well")
	require.NoError(t, running.Stop())
	_, err = http.Get("http://" + settings.PublicListen + "/healthz")
	assert.Error(t, err, "nothing listens after Stop")
}

func TestMetricsSayHowThingsStandAndNameNobody(t *testing.T) {
	with := parts(t, storetest.URL(t))
	with.Settings.MetricsListen = freeport.For(t)
	running, err := service.Start(t.Context(), with, nil)
	require.NoError(t, err)
	t.Cleanup(func() { _ = running.Stop() })
	_, _ = get(t, "http://"+with.Settings.PublicListen+"/quarrow-clay")
	var text string
	families := func() map[string]*dto.MetricFamily {
		status, said := get(t, "http://"+with.Settings.MetricsListen+"/metrics")
		require.Equal(t, http.StatusOK, status)
		text = said
		parser := expfmt.NewTextParser(model.UTF8Validation)
		found, err := parser.TextToMetricFamilies(strings.NewReader(said))
		require.NoError(t, err, "by the library of the format's own project")
		return found
	}
	require.Eventually(t, func() bool { return families()["jundle_log_events"] != nil }, 20*time.Second, 50*time.Millisecond,
		"once the log is open")
	found := families()
	for _, name := range []string{
		"jundle_requests_total", "jundle_request_seconds", "jundle_log_events", "jundle_spool_bytes", "jundle_pool_connections",
		"jundle_sums_due_days", "jundle_webhook_messages", "go_goroutines",
	} {
		assert.NotNil(t, found[name], name)
	}
	assert.NotContains(t, text, "quarrow")
	status, _ := get(t, "http://"+with.Settings.MetricsListen+"/healthz")
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = get(t, "http://"+with.Settings.PublicListen+"/metrics")
	assert.Equal(t, http.StatusNotFound, status, "visitors are told nothing")
}
