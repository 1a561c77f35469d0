// Package storetest gives each test a real PostgreSQL database of its own.
package storetest

import (
	"context"
	"fmt"
	"os"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

// New opens a store on a fresh database, dropped when the test ends. The server
// is the one in JUNDLE_TEST_DATABASE_URL, which `make test` and
// `jundle with-postgres` set.
func New(t *testing.T) *store.Store {
	t.Helper()
	return With(t, store.Options{})
}

// With is New with options.
func With(t *testing.T, options store.Options) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), Migrated(t), options)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}

// URL makes a fresh, empty database, dropped when the test ends.
func URL(t *testing.T) string {
	t.Helper()
	return database(t, "template1")
}

// Migrated makes a fresh database with today's tables and nothing in them, dropped when
// the test ends.
func Migrated(t *testing.T) string {
	t.Helper()
	from, err := migrated.on(context.Background(), server(t))
	require.NoError(t, err)
	return database(t, from)
}

func server(t *testing.T) string {
	t.Helper()
	server := os.Getenv("JUNDLE_TEST_DATABASE_URL")
	require.NotEmpty(t, server, "no PostgreSQL to test on: run `make test-go`, or `go run ./cmd/jundle with-postgres -- go test ./...`")
	return server
}

// database makes a copy of another.
func database(t *testing.T, from string) string {
	t.Helper()
	name := "test_" + uuid.NewString()
	admin := func(format string, names ...any) {
		conn, err := pgx.Connect(context.Background(), server(t))
		require.NoError(t, err)
		defer conn.Close(context.Background())
		_, err = conn.Exec(context.Background(), fmt.Sprintf(format, names...))
		require.NoError(t, err)
	}
	quoted := pgx.Identifier{name}.Sanitize()
	admin("create database %s template %s", quoted, pgx.Identifier{from}.Sanitize())
	t.Cleanup(func() { admin("drop database %s with (force)", quoted) })
	address, err := within(server(t), name)
	require.NoError(t, err)
	return address
}
