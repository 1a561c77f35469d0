package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

// Backlog is how much waits to be done.
type Backlog struct {
	Jobs []WaitingJobs
	// DaysDue is how many days wait to be summed up anew, and DueFor how long the first of them has.
	DaysDue int
	DueFor  time.Duration
	// Messages are those that wait to be sent to webhooks.
	Messages int
}

// WaitingJobs is how many jobs of a queue are in a state.
type WaitingJobs struct {
	Queue, State string
	Count        int
}

// Backlog counts what waits.
func (s *Store) Backlog(ctx context.Context) (Backlog, error) {
	var all Backlog
	rows, err := s.pool.Query(ctx, `
		select queue, state::text, count(*)::int from river_job
		where state in ('available', 'pending', 'running', 'retryable', 'scheduled', 'discarded') group by 1, 2`)
	if err == nil {
		all.Jobs, err = pgx.CollectRows(rows, pgx.RowToStructByPos[WaitingJobs])
	}
	if err != nil {
		return all, fmt.Errorf("count jobs: %w", err)
	}
	err = s.pool.QueryRow(ctx, `
		select (select count(*) from counted_days where due),
			coalesce((select extract(epoch from now() - min(due_from)) from counted_days where due and due_from < now()), 0) * interval '1 second',
			(select count(*) from webhook_deliveries where state = 'waiting')`).Scan(&all.DaysDue, &all.DueFor, &all.Messages)
	if err != nil {
		return all, fmt.Errorf("count what waits: %w", err)
	}
	return all, nil
}
