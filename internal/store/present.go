package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// PresentFor is how long somebody is taken to be at a page after they said so.
const PresentFor = 45 * time.Second

// BePresent notes that a user has a page of a workspace open to work on it, and says who else has, by
// e-mail address; ErrNotFound for a page that is not the workspace's.
func (s *Store) BePresent(ctx context.Context, workspace, page, user uuid.UUID, now time.Time) (others []string, err error) {
	done, err := s.pool.Exec(ctx, `
		insert into present (page_id, user_id, until) select id, $3, $4 from pages where id = $2 and workspace_id = $1
		on conflict (page_id, user_id) do update set until = excluded.until`, workspace, page, user, now.Add(PresentFor))
	if err != nil {
		return nil, err
	}
	if done.RowsAffected() == 0 {
		return nil, ErrNotFound
	}
	// Whoever is a member no more is not there, whatever they said.
	rows, err := s.pool.Query(ctx, `
		select email from present join users on users.id = user_id
		join memberships on memberships.user_id = users.id and workspace_id = $1
		where page_id = $2 and users.id <> $3 and until > $4 order by email`, workspace, page, user, now)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// LeavePage notes that a user does not have a page open any more.
func (s *Store) LeavePage(ctx context.Context, page, user uuid.UUID) error {
	_, err := s.pool.Exec(ctx, "delete from present where page_id = $1 and user_id = $2", page, user)
	return err
}

// ForgetPresent removes those who are there no more.
func (s *Store) ForgetPresent(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from present where until < $1", now)
	return err
}
