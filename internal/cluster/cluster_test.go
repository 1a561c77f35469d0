package cluster

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAClusterKeepsItsDataBetweenRunsAndWantsItsPassword(t *testing.T) {
	dir, err := os.MkdirTemp("/var/tmp", "jundle-cluster-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	options := Options{Dir: filepath.Join(dir, "pg"), Throwaway: true, Say: t.Logf}

	first, err := Start(t.Context(), options)
	require.NoError(t, err)
	require.NoError(t, first.CreateDatabase(t.Context(), "kept"))
	require.NoError(t, first.CreateDatabase(t.Context(), "kept"), "asking twice is no mistake")
	stranger, err := pgx.ParseConfig(first.URL("kept"))
	require.NoError(t, err)
	stranger.Password = "guessed"
	_, err = pgx.ConnectConfig(t.Context(), stranger)
	assert.ErrorContains(t, err, "password")
	require.NoError(t, first.Stop())

	second, err := Start(t.Context(), options)
	require.NoError(t, err)
	defer func() { require.NoError(t, second.Stop()) }()
	conn, err := pgx.Connect(t.Context(), second.URL("kept"))
	require.NoError(t, err)
	require.NoError(t, conn.Close(t.Context()))
}

func TestAClosedFolderAboveIsNoticed(t *testing.T) {
	dir, err := os.MkdirTemp("/var/tmp", "jundle-closed-")
	require.NoError(t, err)
	defer os.RemoveAll(dir)
	assert.False(t, openToOthers(filepath.Join(dir, "below")))
	require.NoError(t, os.Chmod(dir, 0o755))
	assert.True(t, openToOthers(filepath.Join(dir, "below")))
}
