package storetest

import (
	"context"
	"crypto/sha256"
	"fmt"
	"io/fs"
	"net/url"
	"sync"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/store"
)

// template is a database that has been migrated and holds nothing. Copying it takes a
// tenth of the time of migrating an empty one. It is made once for each server and
// schema, whichever of the test programs comes first.
type template struct {
	once sync.Once
	name string
	err  error
}

var migrated template

func (t *template) on(ctx context.Context, server string) (string, error) {
	t.once.Do(func() {
		if t.name, t.err = nameOfTemplate(); t.err == nil {
			t.err = t.make(ctx, server)
		}
	})
	return t.name, t.err
}

// nameOfTemplate has a digest of the migrations. A template that lacks tables of a
// library is brought up to date in each copy, as any database is.
func nameOfTemplate() (string, error) {
	sum := sha256.New()
	err := fs.WalkDir(store.Migrations, ".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		text, err := fs.ReadFile(store.Migrations, path)
		fmt.Fprintln(sum, path, len(text))
		_, _ = sum.Write(text)
		return err
	})
	return fmt.Sprintf("template_%x", sum.Sum(nil)[:12]), err
}

func (t *template) make(ctx context.Context, server string) error {
	conn, err := pgx.Connect(ctx, server)
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	// The lock ends with the connection.
	if _, err := conn.Exec(ctx, "select pg_advisory_lock(hashtextextended($1, 0))", t.name); err != nil {
		return err
	}
	there := false
	if err := conn.QueryRow(ctx, "select exists (select from pg_database where datname = $1)", t.name).Scan(&there); err != nil || there {
		return err
	}
	// It gets its name once it is whole: whoever is killed on the way leaves none.
	unfinished := "unfinished_" + uuid.NewString()
	if _, err := conn.Exec(ctx, "create database "+pgx.Identifier{unfinished}.Sanitize()); err != nil {
		return err
	}
	address, err := within(server, unfinished)
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, address)
	if err != nil {
		return err
	}
	s.Close()
	_, err = conn.Exec(
		ctx,
		fmt.Sprintf("alter database %s rename to %s", pgx.Identifier{unfinished}.Sanitize(), pgx.Identifier{t.name}.Sanitize()),
	)
	return err
}

// within is the address of a database on a server.
func within(server, database string) (string, error) {
	address, err := url.Parse(server)
	if err != nil {
		return "", err
	}
	address.Path = "/" + database
	return address.String(), nil
}
