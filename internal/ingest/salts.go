package ingest

import (
	"context"
	"crypto/rand"
	"fmt"
	"log/slog"
	"maps"
	"sync"
	"time"

	"jundle/internal/core/daily"
	"jundle/internal/core/traffic"
)

// renewSalts is how often the cache looks whether it has the salts it will need.
const renewSalts = 10 * time.Minute

// saltCache holds the salts of today and tomorrow, so that making a visitor's key
// never waits for the database, and goes on over midnight while it is away.
type saltCache struct {
	store Store
	mu    sync.Mutex
	salts map[int64]*traffic.Salt // by UTC day
}

func newSaltCache(ctx context.Context, from Store) (*saltCache, error) {
	c := &saltCache{store: from, salts: make(map[int64]*traffic.Salt)}
	if err := c.fetch(ctx, time.Now()); err != nil {
		return nil, fmt.Errorf("fetch the salts of visitor keys: %w", err)
	}
	return c, nil
}

// of returns the salt of the UTC day a moment falls on. A day whose salt could
// not be fetched in time gets one of its own: then two processes take one
// visitor for two, and nothing else is wrong.
func (c *saltCache) of(at time.Time) *traffic.Salt {
	day := daily.UTCDay(at).Unix()
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.salts[day] == nil {
		random := make([]byte, 32)
		_, _ = rand.Read(random)
		c.salts[day] = traffic.NewSalt(random)
	}
	return c.salts[day]
}

// fetch sees to the salts of today and tomorrow, and destroys those here that are
// over. In the database a job does.
func (c *saltCache) fetch(ctx context.Context, now time.Time) error {
	for _, at := range []time.Time{now, now.Add(24 * time.Hour)} {
		day := daily.UTCDay(at)
		c.mu.Lock()
		there := c.salts[day.Unix()] != nil
		c.mu.Unlock()
		if there {
			continue
		}
		random, err := c.store.Salt(ctx, day)
		if err != nil {
			return err
		}
		c.mu.Lock()
		c.salts[day.Unix()] = traffic.NewSalt(random)
		c.mu.Unlock()
	}
	kept := traffic.SaltsOver(now).Unix()
	c.mu.Lock()
	defer c.mu.Unlock()
	maps.DeleteFunc(c.salts, func(day int64, _ *traffic.Salt) bool { return day < kept })
	return nil
}

// renew fetches salts before they are needed, until ctx ends.
func (c *saltCache) renew(ctx context.Context) {
	for wait(ctx, renewSalts) {
		if err := c.fetch(ctx, time.Now()); err != nil {
			slog.Error("salts of visitor keys could not be renewed; tried again in ten minutes", "error", err)
		}
	}
}
