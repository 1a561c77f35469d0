package service

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"jundle/internal/metrics"
)

// withHealth answers /healthz (the process is there) and /readyz (it can do its
// work, or why not) before anything else.
func (s *Service) withHealth(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/healthz":
			answer(w, http.StatusOK, map[string]any{"status": "ok"})
		case "/readyz":
			ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
			defer cancel()
			if err := s.Stores.Visitors.Ping(ctx); err != nil {
				slog.Error("not ready", "error", err)
				answer(w, http.StatusServiceUnavailable, map[string]any{"status": "the database does not answer", "events": s.recorder.Health()})
				return
			}
			answer(w, http.StatusOK, map[string]any{"status": "ok", "events": s.recorder.Health()})
		default:
			next.ServeHTTP(w, r)
		}
	})
}

func answer(w http.ResponseWriter, status int, body any) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(body)
}

// onlyMetrics answers /metrics, and nothing else.
func onlyMetrics(of *metrics.Metrics) http.Handler {
	mux := http.NewServeMux()
	mux.Handle("GET /metrics", of.Handler())
	return mux
}

// loggedPath is a path without what opens something to whoever has it.
func loggedPath(path string) string {
	for _, secret := range []string{"/-/figures/", "/-/preview/", "/-/own/", "/weekly-letter/"} {
		if strings.HasPrefix(path, secret) {
			return secret + "…"
		}
	}
	return path
}

// logged writes a line about each request: never the visitor's address, their
// user agent or a query.
func logged(part string, next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !slog.Default().Enabled(r.Context(), slog.LevelDebug) {
			next.ServeHTTP(w, r)
			return
		}
		begun, keeper := time.Now(), &metrics.StatusKeeper{ResponseWriter: w, Status: http.StatusOK}
		next.ServeHTTP(keeper, r)
		slog.Debug("request", "part", part, "method", r.Method, "path", loggedPath(r.URL.Path), "status", keeper.Status, "ms",
			time.Since(begun).Milliseconds())
	})
}
