package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// idempotencyKept is for how long it is known what was answered, idempotencyRuns how long a request may take: one that a
// process left when it was killed is done again afterwards.
const (
	idempotencyKept = 24 * time.Hour
	idempotencyRuns = 2 * time.Minute
)

// Answered is a request with a key as it is known.
type Answered struct {
	Request []byte // digest of what was asked
	// Status is 0 while it is being done.
	Status int
	Body   []byte
}

// BeginOnce notes that a request with a key is being done. It answers false, and what is known of it, where it was begun
// before.
func (s *Store) BeginOnce(ctx context.Context, owner, key string, request []byte, now time.Time) (begun bool, before Answered, err error) {
	err = s.pool.QueryRow(ctx, `
		insert into idempotency_keys (owner, key, request, created_at) values ($1, $2, $3, $4)
		on conflict (owner, key) do update set request = excluded.request, created_at = excluded.created_at, status = null, answer = null
		where idempotency_keys.created_at < $5 or idempotency_keys.status is null and idempotency_keys.created_at < $6
		returning true`, owner, key, request, now, now.Add(-idempotencyKept), now.Add(-idempotencyRuns)).Scan(&begun)
	if !errors.Is(err, pgx.ErrNoRows) {
		return begun, before, err
	}
	err = s.pool.QueryRow(ctx, `
		select request, coalesce(status, 0), answer from idempotency_keys where owner = $1 and key = $2`, owner, key).
		Scan(&before.Request, &before.Status, &before.Body)
	if errors.Is(err, pgx.ErrNoRows) {
		err = nil // it failed meanwhile, and may be asked for again
	}
	return false, before, err
}

// EndOnce keeps what was answered; a status of 0 forgets the key, so that the request can be made again.
func (s *Store) EndOnce(ctx context.Context, owner, key string, status int, answer []byte) error {
	if status == 0 {
		_, err := s.pool.Exec(ctx, "delete from idempotency_keys where owner = $1 and key = $2", owner, key)
		return err
	}
	_, err := s.pool.Exec(ctx, `
		update idempotency_keys set status = $3, answer = $4 where owner = $1 and key = $2`, owner, key, status, answer)
	return err
}

// ForgetOnce removes what is older than it is known for.
func (s *Store) ForgetOnce(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from idempotency_keys where created_at < $1", now.Add(-idempotencyKept))
	return err
}
