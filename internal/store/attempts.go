package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// Budget is how often something may be tried: Burst times at once, and once more
// after each Pause.
type Budget struct {
	Burst int
	Pause time.Duration
}

// Attempt is somebody trying something that is bounded by a budget. Key is a
// digest: what is kept of it tells neither who nor what.
type Attempt struct {
	Key []byte
	Budget
}

// TakeAttempt uses up one attempt, or says how long to wait for the next. It is
// counted in the database, so that all processes agree.
func (s *Store) TakeAttempt(ctx context.Context, attempt Attempt, now time.Time) (wait time.Duration, err error) {
	var until time.Time
	full := now.Add(time.Duration(attempt.Burst) * attempt.Pause)
	err = s.pool.QueryRow(ctx, `
		insert into attempts (key, until) values ($1, $2::timestamptz + $3::interval)
		on conflict (key) do update set until = greatest(attempts.until, $2::timestamptz) + $3::interval
		where greatest(attempts.until, $2::timestamptz) + $3::interval <= $4::timestamptz
		returning until`, attempt.Key, now, attempt.Pause, full).Scan(&until)
	if err == nil || !errors.Is(err, pgx.ErrNoRows) {
		return 0, err
	}
	err = s.pool.QueryRow(ctx, "select until from attempts where key = $1", attempt.Key).Scan(&until)
	return max(until.Add(attempt.Pause).Sub(full), time.Second), err
}

// NoteAttempt keeps a key until a time, for Known to find.
func (s *Store) NoteAttempt(ctx context.Context, key []byte, until time.Time) error {
	_, err := s.pool.Exec(ctx, `
		insert into attempts (key, until) values ($1, $2)
		on conflict (key) do update set until = greatest(attempts.until, excluded.until)`, key, until)
	return err
}

// Known tells whether a key was noted and is not over.
func (s *Store) Known(ctx context.Context, key []byte, now time.Time) (known bool, err error) {
	err = s.pool.QueryRow(ctx, "select exists (select from attempts where key = $1 and until > $2)", key, now).Scan(&known)
	return known, err
}

// ForgetAttempts removes those whose budget is whole again.
func (s *Store) ForgetAttempts(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from attempts where until < $1", now)
	return err
}
