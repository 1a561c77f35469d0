package store

import (
	"context"
	"errors"
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

// forget has every part looked for again.
func (p *partitions) forget() {
	p.mu.Lock()
	defer p.mu.Unlock()
	clear(p.there)
}

func monthOf(at time.Time) time.Time {
	year, month, _ := at.UTC().Date()
	return time.Date(year, month, 1, 0, 0, 0, 0, time.UTC)
}

const partitionLayout = "events_2006_01"

func partitionName(month time.Time) string { return month.Format(partitionLayout) }

// lockPartitions keeps others from making parts until the transaction ends.
func lockPartitions(ctx context.Context, tx pgx.Tx) error {
	_, err := tx.Exec(ctx, "select pg_advisory_xact_lock(hashtext('jundle partitions'))")
	return err
}

// makePartition makes one part unless it is there. The lock keeps two processes
// from making it at once.
func makePartition(ctx context.Context, pool *pgxpool.Pool, month time.Time) error {
	return pgx.BeginFunc(ctx, pool, func(tx pgx.Tx) error {
		if err := lockPartitions(ctx, tx); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, fmt.Sprintf("create table if not exists %s partition of events for values from ('%s') to ('%s')",
			pgx.Identifier{partitionName(month)}.Sanitize(), month.Format(time.RFC3339), month.AddDate(0, 1, 0).Format(time.RFC3339)))
		return err
	})
}

// emptyAfter is how long after its month an empty part is dropped: events may wait
// in a log for a while.
const emptyAfter = 60 * 24 * time.Hour

// dropPartitions drops the parts of the events table for months that are long over
// and of which nothing is kept.
func (s *Store) dropPartitions(ctx context.Context, now time.Time) error {
	months, err := partitionMonths(ctx, s.pool)
	if err != nil {
		return err
	}
	var failed []error
	for _, month := range months {
		if month.AddDate(0, 1, 0).Add(emptyAfter).Before(now) {
			failed = append(failed, s.dropPartition(ctx, month))
		}
	}
	return errors.Join(failed...)
}

// querier is a pool or a transaction.
type querier interface {
	Query(ctx context.Context, query string, args ...any) (pgx.Rows, error)
}

// partitionMonths are the months that the events table has a part for, in order.
func partitionMonths(ctx context.Context, from querier) ([]time.Time, error) {
	rows, err := from.Query(ctx, "select inhrelid::regclass::text from pg_inherits where inhparent = 'events'::regclass order by 1")
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (time.Time, error) {
		var name string
		if err := row.Scan(&name); err != nil {
			return time.Time{}, err
		}
		return time.Parse(partitionLayout, name)
	})
}

func (s *Store) dropPartition(ctx context.Context, month time.Time) error {
	name := pgx.Identifier{partitionName(month)}.Sanitize()
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var filled bool
		if err := tx.QueryRow(ctx, "select exists (select from "+name+")").Scan(&filled); err != nil || filled {
			return err
		}
		// Whoever stores events does not wait for this, but the other way round.
		if _, err := tx.Exec(ctx, "set local lock_timeout = '2s'; lock table events in access exclusive mode"); err != nil {
			return err
		}
		if err := tx.QueryRow(ctx, "select exists (select from "+name+")").Scan(&filled); err != nil || filled {
			return err
		}
		_, err := tx.Exec(ctx, "drop table "+name)
		return err
	})
}
