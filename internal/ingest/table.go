package ingest

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"strings"
	"time"

	"github.com/jackc/pgx/v5/pgconn"

	"jundle/internal/eventlog"
	"jundle/internal/store"
)

const (
	// entriesPerRead is how many entries of the log are read at one time.
	entriesPerRead = 64
	// fullBatch is from how many events on a batch is no longer gathered.
	fullBatch = 2000
	// gatherFor is how long is gathered when a batch was not full: the more events go to
	// the table together, the less each of them costs.
	gatherFor = 50 * time.Millisecond
	// retryAfter is when something that failed is tried retryAfter.
	retryAfter = time.Second
)

// moveLog brings entries of the log to the table until ctx ends.
func (r *Recorder) moveLog(ctx context.Context) {
	for ctx.Err() == nil {
		entries, events, err := r.readLog(ctx)
		if err != nil {
			wait(ctx, retryAfter)
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
		if len(events) < fullBatch {
			r.rest(ctx)
		}
	}
}

// readLog gathers a batch of events from the log.
func (r *Recorder) readLog(ctx context.Context) (entries []eventlog.Entry, events []store.Event, err error) {
	patience := retryAfter
	for len(events) < fullBatch {
		more, err := r.log.Read(ctx, entriesPerRead, patience)
		if err != nil || len(more) == 0 {
			return entries, events, err
		}
		entries = append(entries, more...)
		for _, entry := range more {
			events = append(events, r.decode(entry.Data())...)
		}
		patience = 0
	}
	return entries, events, nil
}

// moveSpool brings to the table what waits in the spool and in memory, until ctx
// ends.
func (r *Recorder) moveSpool(ctx context.Context) {
	for wait(ctx, retryAfter) {
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
		event, err := decodeLine(line)
		if err != nil {
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
		if !wait(ctx, retryAfter) {
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
			if line, err := Encode(event); err == nil {
				r.spool.setAside(line)
			}
		default:
			left = append(left, event)
		}
	}
	return left
}

// rest lets events gather, unless there will be no more.
func (r *Recorder) rest(ctx context.Context) {
	select {
	case <-ctx.Done():
	case <-r.ending:
	case <-time.After(gatherFor):
	}
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
