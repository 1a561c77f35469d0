package ingest

import (
	"context"
	"log/slog"
	"time"
)

// saltsLastFor is how long a salt is kept; then keys made under it can no longer
// be led back to anybody.
const saltsLastFor = 48 * time.Hour

// saltBook remembers the salt of the day, so that the database is asked once a
// day. It is used by the recorder's own goroutine only.
type saltBook struct {
	store Store
	day   string
	salt  []byte
}

// of returns the salt of the UTC day a moment falls on. Beginning a new day, it
// destroys the salts that are over.
func (b *saltBook) of(ctx context.Context, at time.Time) ([]byte, error) {
	day := at.UTC().Format(time.DateOnly)
	if day == b.day {
		return b.salt, nil
	}
	salt, err := b.store.Salt(ctx, at)
	if err != nil {
		return nil, err
	}
	if day > b.day {
		if err := b.store.DestroySalts(ctx, at.Add(-saltsLastFor)); err != nil {
			slog.Error("old salts could not be destroyed; tried again tomorrow", "error", err)
		}
	}
	b.day, b.salt = day, salt
	return salt, nil
}
