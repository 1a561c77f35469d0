package service

import (
	"context"
	"log/slog"
	"time"

	"jundle/internal/exports"
	"jundle/internal/files"
	"jundle/internal/store"
)

// cleanEvery is how often what is over is cleared away.
const cleanEvery = 10 * time.Minute

// janitor clears away what is over: sessions, attempts, addresses that have rested,
// exports, and files that nothing refers to.
type janitor struct {
	cancel context.CancelFunc
	done   chan struct{}
}

func startJanitor(ctx context.Context, s *store.Store, kept *files.Files) *janitor {
	ctx, cancel := context.WithCancel(ctx)
	j := &janitor{cancel, make(chan struct{})}
	go func() {
		defer close(j.done)
		for {
			select {
			case <-ctx.Done():
				return
			case <-time.After(cleanEvery):
				clean(ctx, s, kept, time.Now())
			}
		}
	}()
	return j
}

func (j *janitor) stop() {
	j.cancel()
	<-j.done
}

// clean clears away what is over at a time. What fails is tried again the next
// time, and keeps nothing else back.
func clean(ctx context.Context, s *store.Store, kept *files.Files, now time.Time) {
	for what, do := range map[string]func() error{
		"sessions":  func() error { return s.ForgetSessions(ctx) },
		"attempts":  func() error { return s.ForgetAttempts(ctx, now) },
		"addresses": func() error { return s.ForgetResting(ctx, now) },
		"exports":   func() error { return s.ForgetExports(ctx, now.Add(-exports.KeptFor)) },
		"files":     func() error { return kept.Collect(ctx) },
	} {
		if err := do(); err != nil && ctx.Err() == nil {
			slog.Error("what is over could not be cleared away; tried again in ten minutes", "what", what, "error", err)
		}
	}
}
