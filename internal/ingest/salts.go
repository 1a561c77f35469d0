package ingest

import (
	"context"
	"crypto/rand"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"jundle/internal/core/daily"
)

const (
	// saltsLastFor is how long a salt is kept after its day began; then keys made
	// under it can no longer be led back to anybody.
	saltsLastFor = 48 * time.Hour
	// renewSalts is how often the book looks whether it has the salts it will need.
	renewSalts = 10 * time.Minute
)

// saltBook holds the salts of today and tomorrow, so that making a visitor's key
// never waits for the database, and goes on over midnight while it is away.
type saltBook struct {
	store Store
	mu    sync.Mutex
	salts map[int64][]byte // by UTC day
}

func newSaltBook(ctx context.Context, from Store) (*saltBook, error) {
	b := &saltBook{store: from, salts: make(map[int64][]byte)}
	if err := b.fetch(ctx, time.Now()); err != nil {
		return nil, fmt.Errorf("fetch the salts of visitor keys: %w", err)
	}
	return b, nil
}

// of returns the salt of the UTC day a moment falls on. A day whose salt could
// not be fetched in time gets one of its own: then two processes take one
// visitor for two, and nothing else is wrong.
func (b *saltBook) of(at time.Time) []byte {
	day := daily.UTCDay(at).Unix()
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.salts[day] == nil {
		salt := make([]byte, 32)
		_, _ = rand.Read(salt)
		b.salts[day] = salt
	}
	return b.salts[day]
}

// fetch sees to the salts of today and tomorrow, and destroys those that are
// over, in the database and here.
func (b *saltBook) fetch(ctx context.Context, now time.Time) error {
	for _, at := range []time.Time{now, now.Add(24 * time.Hour)} {
		day := daily.UTCDay(at)
		b.mu.Lock()
		there := b.salts[day.Unix()] != nil
		b.mu.Unlock()
		if there {
			continue
		}
		salt, err := b.store.Salt(ctx, day)
		if err != nil {
			return err
		}
		b.mu.Lock()
		b.salts[day.Unix()] = salt
		b.mu.Unlock()
	}
	over := daily.UTCDay(now.Add(-saltsLastFor))
	b.mu.Lock()
	for day := range b.salts {
		if day <= over.Unix() {
			delete(b.salts, day)
		}
	}
	b.mu.Unlock()
	return b.store.DestroySalts(ctx, over.AddDate(0, 0, 1))
}

// renew fetches salts before they are needed, until ctx ends.
func (b *saltBook) renew(ctx context.Context) {
	for wait(ctx, renewSalts) {
		if err := b.fetch(ctx, time.Now()); err != nil {
			slog.Error("salts of visitor keys could not be renewed; tried again in ten minutes", "error", err)
		}
	}
}
