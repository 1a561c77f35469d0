package jobs

import (
	"context"
	"errors"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/files/filestest"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// process begins to do jobs, as one process among others.
func process(t *testing.T, address string, write func(context.Context, store.Export) error) *Jobs {
	t.Helper()
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	j, err := New(Options{Store: s, Files: filestest.New(t, s, time.Now), Now: time.Now, WriteExport: write})
	require.NoError(t, err)
	require.NoError(t, j.Start(t.Context()))
	t.Cleanup(func() { _ = j.Stop(context.Background()) })
	return j
}

// done counts the jobs that were done, by what they were.
func done(t *testing.T, s *store.Store, where string) (n int) {
	t.Helper()
	require.NoError(t, s.Pool().QueryRow(t.Context(), "select count(*) from river_job where state = 'completed' and "+where).Scan(&n))
	return n
}

func TestAChoreIsDoneOnceHoweverManyProcessesThereAre(t *testing.T) {
	address := storetest.Migrated(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	none := func(context.Context, store.Export) error { return nil }
	for range 3 {
		process(t, address, none)
	}
	chores := choresOf(Options{Store: s, Files: filestest.New(t, s, time.Now), Now: time.Now})
	for _, each := range chores {
		is := "kind = 'chore' and args->>'name' = '" + each.name + "'"
		require.Eventually(t, func() bool { return done(t, s, is) > 0 }, 20*time.Second, 20*time.Millisecond, each.name)
		if each.every >= 10*time.Minute {
			assert.Equal(t, 1, done(t, s, is), each.name)
		}
	}
}

func TestAnExportThatAProcessLeavesIsTakenUpByAnother(t *testing.T) {
	address := storetest.Migrated(t)
	begun := make(chan uuid.UUID, 2)
	first := process(t, address, func(ctx context.Context, export store.Export) error {
		begun <- export.ID
		<-ctx.Done() // as if there were very much to write
		return ctx.Err()
	})
	export := store.Export{ID: uuid.New(), WorkspaceID: uuid.New()}
	require.NoError(t, first.Export(t.Context(), export))
	assert.Equal(t, export.ID, <-begun)
	require.NoError(t, first.Stop(t.Context()))

	process(t, address, func(_ context.Context, again store.Export) error {
		begun <- again.ID
		return nil
	})
	select {
	case id := <-begun:
		assert.Equal(t, export.ID, id)
	case <-time.After(30 * time.Second):
		assert.Fail(t, "nobody took it up")
	}
}

func TestWhatFailsIsTriedAgain(t *testing.T) {
	address := storetest.Migrated(t)
	var tried atomic.Int32
	j := process(t, address, func(context.Context, store.Export) error {
		tried.Add(1)
		return errors.New("the disk is full")
	})
	require.NoError(t, j.Export(t.Context(), store.Export{ID: uuid.New()}))
	require.Eventually(t, func() bool { return tried.Load() >= 2 }, 20*time.Second, 20*time.Millisecond)
}
