package ingest

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"strings"
	"time"

	"github.com/bytedance/sonic"
	"github.com/jackc/pgx/v5/pgconn"

	"jundle/internal/store"
)

const (
	// atOnce is how many entries of the log go to the table in one batch at most.
	atOnce = 64
	// again is when something that failed is tried again.
	again = time.Second
)

// moveLog brings entries of the log to the table until ctx ends.
func (r *Recorder) moveLog(ctx context.Context) {
	for ctx.Err() == nil {
		entries, err := r.log.Read(ctx, atOnce, again)
		if err != nil {
			wait(ctx, again)
		}
		var events []store.Event
		for _, entry := range entries {
			events = append(events, r.decode(entry.Data())...)
		}
		stored := r.storeUntil(ctx, events)
		for _, entry := range entries {
			if stored {
				err = entry.Done()
			} else {
				err = entry.Again(0)
			}
			if err != nil {
				slog.Warn("an entry of the log will come again", "error", err)
			}
		}
	}
}

// moveSpool brings to the table what waits in the spool and in memory, until ctx
// ends.
func (r *Recorder) moveSpool(ctx context.Context) {
	for wait(ctx, again) {
		for len(r.held) > 0 && ctx.Err() == nil {
			lines := make([][]byte, 0, together)
			for len(lines) < together && len(r.held) > 0 {
				lines = append(lines, <-r.held)
			}
			if !r.storeUntil(ctx, r.decode(bytes.Join(lines, newline))) {
				for _, line := range lines {
					r.held <- line
				}
			}
		}
		if err := r.spool.take(func(entries []byte) bool { return r.storeUntil(ctx, r.decode(entries)) }); err != nil {
			slog.Error("the spool cannot be read; it is tried again", "error", err)
		}
	}
}

// decode reads events, one a line. A line that was cut short when a process was
// killed was answered to nobody and is passed over.
func (r *Recorder) decode(lines []byte) []store.Event {
	var events []store.Event
	for line := range bytes.Lines(lines) {
		if len(bytes.TrimSpace(line)) == 0 {
			continue
		}
		var event store.Event
		if err := sonic.ConfigStd.Unmarshal(line, &event); err != nil {
			slog.Warn("a line that holds no whole event was passed over", "bytes", len(line), "error", err)
			continue
		}
		events = append(events, event)
	}
	return events
}

// storeUntil stores events, again and again until the table takes them. It
// reports false when ctx ends before.
func (r *Recorder) storeUntil(ctx context.Context, events []store.Event) bool {
	for attempt := 1; len(events) > 0; attempt++ {
		trying, cancel := context.WithTimeout(ctx, 30*time.Second)
		err := r.store.RecordEvents(trying, events)
		cancel()
		switch {
		case err == nil:
			return true
		case ctx.Err() != nil:
			return false
		case isRefusal(err):
			events = r.withoutRefused(ctx, events)
			continue
		case attempt == 1 || attempt%30 == 0:
			slog.Error("events cannot be stored yet; they wait and are tried again", "events", len(events), "attempt", attempt, "error", err)
		}
		if !wait(ctx, again) {
			return false
		}
	}
	return true
}

// isRefusal tells whether the table will never take what it was given: errors of
// the data itself (PostgreSQL, Appendix A, classes 22 and 23).
func isRefusal(err error) bool {
	var from *pgconn.PgError
	return errors.As(err, &from) && (strings.HasPrefix(from.Code, "22") || strings.HasPrefix(from.Code, "23"))
}

// withoutRefused stores events one by one, so that one the table refuses does
// not keep back the others, and returns those still to be stored.
func (r *Recorder) withoutRefused(ctx context.Context, events []store.Event) []store.Event {
	var left []store.Event
	for _, event := range events {
		err := r.store.RecordEvents(ctx, []store.Event{event})
		switch {
		case err == nil:
		case isRefusal(err):
			r.refused.Add(1)
			slog.Error("the table refuses an event; it is kept aside", "event", event.ID, "error", err)
			if line, err := sonic.ConfigStd.Marshal(event); err == nil {
				r.spool.setAside(line)
			}
		default:
			left = append(left, event)
		}
	}
	return left
}

// wait reports false when ctx ends first.
func wait(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}
