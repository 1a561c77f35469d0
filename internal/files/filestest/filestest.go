// Package filestest gives each test a folder of files of its own.
package filestest

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jundle/internal/files"
	"jundle/internal/store"
)

// New opens a folder for files, removed when the test ends.
func New(t *testing.T, s *store.Store, now func() time.Time) *files.Files {
	t.Helper()
	kept, err := files.Open(t.Context(), t.TempDir(), s, now)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, kept.Close()) })
	return kept
}
