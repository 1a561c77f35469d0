package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// CertificateFile is a certificate, its key, or what is on the way to one.
type CertificateFile struct {
	Name       string
	Content    []byte
	ModifiedAt time.Time
}

// WriteCertificateFile keeps one under its name.
func (s *Store) WriteCertificateFile(ctx context.Context, one CertificateFile) error {
	_, err := s.pool.Exec(ctx, `insert into certificate_files (name, content, modified_at) values ($1, $2, $3)
		on conflict (name) do update set content = excluded.content, modified_at = excluded.modified_at`, one.Name, one.Content, one.ModifiedAt)
	return err
}

// CertificateFile reads one; ErrNotFound.
func (s *Store) CertificateFile(ctx context.Context, name string) (one CertificateFile, err error) {
	err = s.pool.QueryRow(ctx, "select name, content, modified_at from certificate_files where name = $1", name).
		Scan(&one.Name, &one.Content, &one.ModifiedAt)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return one, err
}

// DeleteCertificateFiles deletes the one of a name, and those below it.
func (s *Store) DeleteCertificateFiles(ctx context.Context, name string) error {
	_, err := s.pool.Exec(ctx, "delete from certificate_files where name = $1 or starts_with(name, $1 || '/')", name)
	return err
}

// CertificateFiles lists the names below one; all for none.
func (s *Store) CertificateFiles(ctx context.Context, below string) ([]string, error) {
	rows, err := s.pool.Query(ctx,
		`select name from certificate_files where $1 = '' or starts_with(name, $1 || '/') order by name collate "C"`, below)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// TakeCertificateLock takes a lock that nobody has until a moment, or takes it anew; false where somebody
// else has it.
func (s *Store) TakeCertificateLock(ctx context.Context, name string, who uuid.UUID, now, until time.Time) (bool, error) {
	done, err := s.pool.Exec(ctx, `insert into certificate_locks (name, taken, until) values ($1, $2, $4)
		on conflict (name) do update set taken = excluded.taken, until = excluded.until
		where certificate_locks.taken = excluded.taken or certificate_locks.until < $3`, name, who, now, until)
	return done.RowsAffected() > 0, err
}

// LeaveCertificateLock gives a lock back.
func (s *Store) LeaveCertificateLock(ctx context.Context, name string, who uuid.UUID) error {
	_, err := s.pool.Exec(ctx, "delete from certificate_locks where name = $1 and taken = $2", name, who)
	return err
}
