package store

import (
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
)

// SessionUser is the key under which a session names its user, as a text. Its value
// is that of older sessions, which go on.
const SessionUser = "member"

// SessionWorkspace is the key under which a session keeps the workspace its user is in.
const SessionWorkspace = "workspace"

// SessionAgent is the key under which a session keeps the user agent it began with.
const SessionAgent = "agent"

// SessionDigest is what a session is kept under by its token, as the session library makes it
// (scs.HashTokenInStore).
func SessionDigest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

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
	agent, _ := values[SessionAgent].(string)
	_, err = s.store.pool.Exec(ctx, `
		insert into sessions (token, data, expiry, user_id, user_agent)
		select $1, $2, $3, $4::uuid, $5 where $4::uuid is null or exists (select from users where id = $4::uuid)
		on conflict (token) do update set data = excluded.data, expiry = excluded.expiry, user_id = excluded.user_id,
			user_agent = excluded.user_agent, used_at = now()
		where sessions.ended_at is null`, token, data, expiry, user, agent)
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

// NewSignIn tells of a session that began where its user had not signed in from before.
const NewSignIn LetterKind = "new sign-in"

// Session is where somebody is signed in.
type Session struct {
	ID        uuid.UUID
	UserAgent string
	CreatedAt time.Time
	UsedAt    time.Time
	// Current: it is the one of a certain digest.
	Current bool
}

// SessionsOf lists where a user is signed in, the one with a digest of a token first, then by last
// use.
func (s *Store) SessionsOf(ctx context.Context, user uuid.UUID, current string) ([]Session, error) {
	var list []Session
	err := s.db.WithContext(ctx).Raw(`
		select id, user_agent, created_at, used_at, token = @current as current from sessions
		where user_id = @user and ended_at is null and expiry > now() order by token = @current desc, used_at desc, id limit @most`,
		map[string]any{"user": user, "current": current, "most": sessionsShown}).Scan(&list).Error
	return list, err
}

// sessionsShown is how many sessions are listed at most.
const sessionsShown = 100

// SessionByID finds a session of a user.
func (s *Store) SessionByID(ctx context.Context, user, id uuid.UUID) (session Session, err error) {
	done := s.db.WithContext(ctx).Raw("select id, user_agent, created_at, used_at from sessions where user_id = ? and id = ?", user, id).
		Scan(&session)
	return session, foundRow(done)
}

// TellOfSignIn has a letter sent to a user about the session of a digest of a token.
func (s *Store) TellOfSignIn(ctx context.Context, user uuid.UUID, session string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var began Session
		if err := foundRow(tx.Raw("select id from sessions where user_id = ? and token = ?", user, session).Scan(&began)); err != nil {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: NewSignIn, User: user, Subject: began.ID})
	})
}

// EndSession ends one session of a user.
func (s *Store) EndSession(ctx context.Context, user, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Exec(
		"update sessions set data = '', ended_at = now() where user_id = ? and id = ? and ended_at is null", user, id))
}

// EndSessions ends every session of a user but one, by the digest of its token.
func (s *Store) EndSessions(ctx context.Context, user uuid.UUID, but string) error {
	return endSessions(s.db.WithContext(ctx), user, but)
}

func endSessions(tx *gorm.DB, user uuid.UUID, but string) error {
	return tx.Exec("update sessions set data = '', ended_at = now() where user_id = ? and token <> ? and ended_at is null", user, but).Error
}

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
