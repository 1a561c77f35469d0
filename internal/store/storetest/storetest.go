// Package storetest gives each test a real PostgreSQL database of its own.
package storetest

import (
	"context"
	"fmt"
	"net/url"
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
	s, err := store.Open(t.Context(), URL(t), options)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}

// URL makes a fresh, empty database, dropped when the test ends.
func URL(t *testing.T) string {
	t.Helper()
	server := os.Getenv("JUNDLE_TEST_DATABASE_URL")
	require.NotEmpty(t, server, "no PostgreSQL to test on: run `make test-go`, or `go run ./cmd/jundle with-postgres -- go test ./...`")
	address, err := url.Parse(server)
	require.NoError(t, err)
	name := "test_" + uuid.NewString()
	admin := func(format string) {
		conn, err := pgx.Connect(context.Background(), server)
		require.NoError(t, err)
		defer conn.Close(context.Background())
		_, err = conn.Exec(context.Background(), fmt.Sprintf(format, pgx.Identifier{name}.Sanitize()))
		require.NoError(t, err)
	}
	admin("create database %s")
	t.Cleanup(func() { admin("drop database %s with (force)") })
	address.Path = "/" + name
	return address.String()
}
