package store

import (
	"context"
	"fmt"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
)

// migrateJobs makes the tables of background jobs, which are those of the library
// (river). The lock keeps two processes from doing so at once.
func migrateJobs(ctx context.Context, pool *pgxpool.Pool) error {
	conn, err := pool.Acquire(ctx)
	if err != nil {
		return fmt.Errorf("migrate the tables of jobs: %w", err)
	}
	defer conn.Release()
	const lock = "hashtextextended('jundle jobs', 0)"
	if _, err := conn.Exec(ctx, "select pg_advisory_lock("+lock+")"); err != nil {
		return fmt.Errorf("migrate the tables of jobs: %w", err)
	}
	defer func() { _, _ = conn.Exec(context.WithoutCancel(ctx), "select pg_advisory_unlock("+lock+")") }()
	migrator, err := rivermigrate.New(riverpgxv5.New(pool), nil)
	if err == nil {
		_, err = migrator.Migrate(ctx, rivermigrate.DirectionUp, nil)
	}
	if err != nil {
		return fmt.Errorf("migrate the tables of jobs: %w", err)
	}
	return nil
}

// Pool is the store's pool of connections, for the library that runs jobs.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }
