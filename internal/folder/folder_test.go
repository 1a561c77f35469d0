package folder_test

import (
	"context"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/folder"
)

func TestAFolderIsOneProcesssAtATime(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "made", "when", "missing")
	first, err := folder.Take(dir)
	require.NoError(t, err)
	_, err = folder.Take(dir)
	var used *folder.InUseError
	require.ErrorAs(t, err, &used)
	assert.Equal(t, dir, used.Dir)

	waits := make(chan struct{})
	taken := make(chan error)
	go func() {
		second, err := folder.Await(context.Background(), dir, time.Minute, func() { close(waits) })
		_ = second.Release()
		taken <- err
	}()
	<-waits
	require.NoError(t, first.Release())
	require.NoError(t, <-taken, "who waits gets it")

	third, err := folder.Take(dir)
	require.NoError(t, err)
	_, err = folder.Await(t.Context(), dir, 0, nil)
	require.ErrorAs(t, err, &used, "nobody waits for ever")
	ended, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = folder.Await(ended, dir, time.Minute, nil)
	require.ErrorIs(t, err, context.Canceled)
	require.NoError(t, third.Release())
}
