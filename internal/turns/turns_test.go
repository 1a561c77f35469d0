package turns_test

import (
	"context"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/turns"
)

func TestNoMoreGoesOnAtOnceThanThereAreTurns(t *testing.T) {
	given := turns.New[int](3, 2, 1000)
	var now, most atomic.Int32
	var of [2]atomic.Int32
	var work sync.WaitGroup
	for i := range 400 {
		work.Go(func() {
			done, err := given.Take(t.Context(), i%2)
			if !assert.NoError(t, err) {
				return
			}
			defer done()
			assert.LessOrEqual(t, of[i%2].Add(1), int32(2), "of one's")
			running := now.Add(1)
			assert.LessOrEqual(t, running, int32(3), "in all")
			for before := most.Load(); running > before && !most.CompareAndSwap(before, running); before = most.Load() {
			}
			now.Add(-1)
			of[i%2].Add(-1)
		})
	}
	work.Wait()
	assert.Positive(t, most.Load())
}

func TestWhoAsksForVeryMuchIsRefusedAndNobodyElse(t *testing.T) {
	given := turns.New[string](2, 1, 1)
	done, err := given.Take(t.Context(), "greedy")
	require.NoError(t, err)
	ended, cancel := context.WithCancel(t.Context())
	var waiting sync.WaitGroup
	waiting.Go(func() {
		_, err := given.Take(ended, "greedy")
		assert.ErrorIs(t, err, context.Canceled)
	})
	require.Eventually(t, func() bool {
		_, err := given.Take(cancelled(), "greedy")
		return err == turns.ErrBusy //nolint:errorlint // it is not wrapped
	}, testTimeout, tick)
	other, err := given.Take(t.Context(), "modest")
	require.NoError(t, err)
	other()
	cancel()
	waiting.Wait()
	done()
	done, err = given.Take(t.Context(), "greedy")
	require.NoError(t, err, "and then again")
	done()
}

const (
	testTimeout = 5 * time.Second
	tick        = time.Millisecond
)

// cancelled is a context that ended already: who asks with it waits for nothing.
func cancelled() context.Context {
	ended, cancel := context.WithCancel(context.Background())
	cancel()
	return ended
}
