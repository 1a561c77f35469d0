package store

import (
	"context"
	"fmt"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// partitions makes the monthly parts of the events table as they are needed and
// remembers which are there.
type partitions struct {
	mu    sync.Mutex
	there map[string]bool
}

// ensure makes the parts that a batch of events goes to.
func (p *partitions) ensure(ctx context.Context, pool *pgxpool.Pool, events []Event) error {
	for _, event := range events {
		month := monthOf(event.At)
		if p.has(month) {
			continue
		}
		if err := makePartition(ctx, pool, month); err != nil {
			return fmt.Errorf("make the part of the events table for %s: %w", month.Format("January 2006"), err)
		}
		p.mu.Lock()
		p.there[partitionName(month)] = true
		p.mu.Unlock()
	}
	return nil
}

func (p *partitions) has(month time.Time) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.there[partitionName(month)]
}

func monthOf(at time.Time) time.Time {
	year, month, _ := at.UTC().Date()
	return time.Date(year, month, 1, 0, 0, 0, 0, time.UTC)
}

func partitionName(month time.Time) string { return "events_" + month.Format("2006_01") }

// makePartition makes one part unless it is there. The lock keeps two processes
// from making it at once.
func makePartition(ctx context.Context, pool *pgxpool.Pool, month time.Time) error {
	return pgx.BeginFunc(ctx, pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock(hashtext('jundle partitions'))"); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, fmt.Sprintf("create table if not exists %s partition of events for values from ('%s') to ('%s')",
			pgx.Identifier{partitionName(month)}.Sanitize(), month.Format(time.RFC3339), month.AddDate(0, 1, 0).Format(time.RFC3339)))
		return err
	})
}
