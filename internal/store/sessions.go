package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// SessionUser is the key under which a session names its user, as a text. Its value
// is that of older sessions, which go on.
const SessionUser = "member"

// Sessions is the store of the session library (scs.CtxStore). It knows the user
// of a session, so that sessions end with them.
type Sessions struct{ store *Store }

// Sessions returns the sessions kept in this store.
func (s *Store) Sessions() Sessions { return Sessions{s} }

var _ scs.CtxStore = Sessions{}

// FindCtx implements scs.CtxStore.
func (s Sessions) FindCtx(ctx context.Context, token string) (data []byte, found bool, err error) {
	err = s.store.pool.QueryRow(ctx, "select data from sessions where token = $1 and expiry > now() and ended_at is null", token).Scan(&data)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// CommitCtx implements scs.CtxStore. A session that was ended in the meantime
// stays ended.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return fmt.Errorf("read a session: %w", err)
	}
	var user *uuid.UUID
	if text, ok := values[SessionUser].(string); ok {
		if id, err := uuid.Parse(text); err == nil {
			user = &id
		}
	}
	_, err = s.store.pool.Exec(ctx, `
		insert into sessions (token, data, expiry, user_id)
		select $1, $2, $3, $4::uuid where $4::uuid is null or exists (select from users where id = $4::uuid)
		on conflict (token) do update set data = excluded.data, expiry = excluded.expiry, user_id = excluded.user_id
		where sessions.ended_at is null`, token, data, expiry, user)
	return err
}

// DeleteCtx implements scs.CtxStore: it ends a session for good.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	_, err := s.store.pool.Exec(ctx, "update sessions set data = '', ended_at = now() where token = $1 and ended_at is null", token)
	return err
}

// Find implements scs.Store; the library calls FindCtx instead.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit implements scs.Store; the library calls CommitCtx instead.
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete implements scs.Store; the library calls DeleteCtx instead.
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// CountSessions is how many sessions are not ended.
func (s *Store) CountSessions(ctx context.Context) (n int, err error) {
	err = s.pool.QueryRow(ctx, "select count(*) from sessions where ended_at is null").Scan(&n)
	return n, err
}

// ForgetSessions removes what is over: sessions past their expiry.
func (s *Store) ForgetSessions(ctx context.Context) error {
	_, err := s.pool.Exec(ctx, "delete from sessions where expiry < now()")
	return err
}
