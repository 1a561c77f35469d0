package store

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
)

// EndpointKind is what stands behind an address.
type EndpointKind string

// What can stand behind an address.
const (
	PageKind EndpointKind = "page"
	LinkKind EndpointKind = "link"
)

// OperatorEntry is what somebody who runs the service did, and why.
type OperatorEntry struct {
	ID uuid.UUID `gorm:"primaryKey"`
	At time.Time
	// Who is their name on the machine.
	Who     string
	Did     string
	Subject string
	Because string
}

// TableName implements schema.Tabler.
func (OperatorEntry) TableName() string { return "operator_journal" }

// ErrAlready: it is so already.
var ErrAlready = errors.New("it is so already")

// OperatorJournal lists what those who run the service did, the latest first.
func (s *Store) OperatorJournal(ctx context.Context, most int) (entries []OperatorEntry, err error) {
	err = s.db.WithContext(ctx).Order("at desc, id desc").Limit(most).Find(&entries).Error
	return entries, err
}

// operate does something and notes it, both or neither.
func (s *Store) operate(ctx context.Context, entry OperatorEntry, do func(tx *gorm.DB) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := do(tx); err != nil {
			return err
		}
		entry.ID = newID()
		return tx.Create(&entry).Error
	})
}

// SuspendAccount keeps somebody out: their sessions end, and neither they nor their programs get in.
// Their pages go on. ErrNotFound; ErrAlready.
func (s *Store) SuspendAccount(ctx context.Context, email string, note OperatorEntry) error {
	note.Did, note.Subject = "suspend account", email
	return s.operate(ctx, note, func(tx *gorm.DB) error {
		user, err := lockUser(tx, email)
		if err != nil {
			return err
		}
		if user.SuspendedAt != nil {
			return ErrAlready
		}
		if err := endSessions(tx, user.ID, ""); err != nil {
			return err
		}
		return tx.Model(&user).Updates(map[string]any{"suspended_at": note.At, "suspended_because": note.Because}).Error
	})
}

// RestoreAccount lets somebody in again; ErrNotFound, ErrAlready.
func (s *Store) RestoreAccount(ctx context.Context, email string, note OperatorEntry) error {
	note.Did, note.Subject = "restore account", email
	return s.operate(ctx, note, func(tx *gorm.DB) error {
		user, err := lockUser(tx, email)
		if err != nil {
			return err
		}
		if user.SuspendedAt == nil {
			return ErrAlready
		}
		return tx.Model(&user).Updates(map[string]any{"suspended_at": nil, "suspended_because": ""}).Error
	})
}

func lockUser(tx *gorm.DB, email string) (user User, err error) {
	err = tx.Raw("select * from users where email = ? for update", email).Take(&user).Error
	return user, found(err)
}

// TakeDown takes what stands behind an address away from visitors, a page or a short link. Whoever keeps
// it sees that, and why. ErrNotFound where no such thing stands behind it; ErrAlready.
func (s *Store) TakeDown(ctx context.Context, kind EndpointKind, address string, note OperatorEntry) error {
	note.Did, note.Subject = "take down "+string(kind), address
	return s.operate(ctx, note, func(tx *gorm.DB) error {
		return setTakenDown(tx, kind, address, &note.At, note.Because)
	})
}

// PutBack shows what was taken down to visitors again; ErrNotFound, ErrAlready.
func (s *Store) PutBack(ctx context.Context, kind EndpointKind, address string, note OperatorEntry) error {
	note.Did, note.Subject = "put back "+string(kind), address
	return s.operate(ctx, note, func(tx *gorm.DB) error { return setTakenDown(tx, kind, address, nil, "") })
}

// tableOf is where things of a kind are kept.
var tableOf = map[EndpointKind]string{PageKind: "pages", LinkKind: "short_links"}

func setTakenDown(tx *gorm.DB, kind EndpointKind, address string, at *time.Time, because string) error {
	var row struct {
		ID          uuid.UUID
		TakenDownAt *time.Time
	}
	err := tx.Raw(`select endpoints.id, taken_down_at from endpoints join addresses on endpoint_id = endpoints.id
		where domain_id = ? and address = ? and exists (select from `+tableOf[kind]+` kept where kept.id = endpoints.id)
		for update of endpoints`, SharedDomain, strings.ToLower(address)).Take(&row).Error
	if err != nil {
		return found(err)
	}
	if (row.TakenDownAt == nil) == (at == nil) {
		return ErrAlready
	}
	err = tx.Exec("update endpoints set taken_down_at = ?, taken_down_because = ? where id = ?", at, because, row.ID).Error
	if err != nil {
		return err
	}
	return announce(tx, row.ID)
}

// TakenDown tells whether a page or a short link of a workspace was taken down, and why; nil otherwise.
func (s *Store) TakenDown(ctx context.Context, workspace, id uuid.UUID) (at *time.Time, because string, err error) {
	err = s.pool.QueryRow(ctx, "select taken_down_at, taken_down_because from endpoints where workspace_id = $1 and id = $2", workspace, id).
		Scan(&at, &because)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, "", nil
	}
	return at, because, err
}

// TakenDownLinks are the short links of a workspace that are taken down, and why.
func (s *Store) TakenDownLinks(ctx context.Context, workspace uuid.UUID) (map[uuid.UUID]string, error) {
	rows, err := s.pool.Query(ctx, `
		select id, taken_down_because from endpoints join short_links using (id)
		where endpoints.workspace_id = $1 and taken_down_at is not null`, workspace)
	if err != nil {
		return nil, err
	}
	taken := make(map[uuid.UUID]string)
	var id uuid.UUID
	var because string
	_, err = pgx.ForEachRow(rows, []any{&id, &because}, func() error { taken[id] = because; return nil })
	return taken, err
}

// KnownAccount is an account as those who run the service see it.
type KnownAccount struct {
	Email       string
	CreatedAt   time.Time
	SuspendedAt *time.Time
	Because     string
	Workspaces  int
	Pages       int
}

// Accounts lists accounts with a part in their e-mail address, the latest first.
func (s *Store) Accounts(ctx context.Context, part string, most int) ([]KnownAccount, error) {
	rows, err := s.pool.Query(ctx, `
		select email, users.created_at, suspended_at, suspended_because,
			(select count(*) from memberships where user_id = users.id)::int,
			(select count(*) from memberships join pages using (workspace_id) where user_id = users.id)::int
		from users where position(lower($1) in email) > 0 order by users.created_at desc, users.id desc limit $2`, part, most)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[KnownAccount])
}

// KnownEndpoint is a page or a short link as those who run the service see it.
type KnownEndpoint struct {
	Address     string
	Runners     []string // e-mail addresses of those who run its workspace
	TakenDownAt *time.Time
	Because     string
}

// Endpoints lists pages or short links with a part in their address, in the order of these.
func (s *Store) Endpoints(ctx context.Context, kind EndpointKind, part string, most int) ([]KnownEndpoint, error) {
	rows, err := s.pool.Query(ctx, `
		select address, coalesce((
				select array_agg(email order by email) from memberships join users on users.id = user_id
				where memberships.workspace_id = endpoints.workspace_id and role = 'runs'), '{}'),
			taken_down_at, taken_down_because
		from addresses join endpoints on endpoints.id = endpoint_id
		where present and position(lower($1) in address) > 0 and exists (select from `+tableOf[kind]+` kept where kept.id = endpoints.id)
		order by address limit $2`, part, most)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[KnownEndpoint])
}
