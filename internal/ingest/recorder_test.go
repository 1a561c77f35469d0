package ingest_test

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

// table stands in for the database where a test needs it to fail.
type table struct {
	mu       sync.Mutex
	failures int
	events   map[uuid.UUID]store.Event
}

func (t *table) RecordEvents(_ context.Context, events []store.Event) error {
	t.mu.Lock()
	defer t.mu.Unlock()
	for _, event := range events {
		t.events[event.ID] = event
	}
	if t.failures > 0 {
		t.failures--
		return errors.New("connection lost after the rows were written")
	}
	return nil
}

func (t *table) Salt(context.Context, time.Time) ([]byte, error) { return []byte("salt"), nil }
func (t *table) DestroySalts(context.Context, time.Time) error   { return nil }

func hit() ingest.Hit {
	return ingest.Hit{
		At: time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC), PageID: uuid.New(), PageHost: "pages.example", Edition: 1, Kind: traffic.View,
		Method: "GET", Client: "192.0.2.7", UserAgent: "Mozilla/5.0 (X11; Linux x86_64; rv:140.0)",
	}
}

func TestABatchThatFailsIsTriedAgainAndStoredOnce(t *testing.T) {
	list, err := agents.Load()
	require.NoError(t, err)
	rows := &table{failures: 1, events: map[uuid.UUID]store.Event{}}
	recorder := ingest.NewRecorder(rows, list)
	for range 1200 {
		require.True(t, recorder.Record(hit()))
	}
	require.NoError(t, recorder.Close(t.Context()))
	assert.Len(t, rows.events, 1200)
	assert.Zero(t, recorder.Shed())
	assert.False(t, recorder.Record(hit()), "nothing is taken after the end")
	assert.EqualValues(t, 1, recorder.Shed())
}

func TestAnEventKeepsItsEvidenceAndNoAddress(t *testing.T) {
	list, err := agents.Load()
	require.NoError(t, err)
	card := uuid.New()
	seen := hit()
	seen.Tag, seen.Referrer, seen.Own = "card", "photoloft.example", true
	seen.Sources = []source.Source{{ID: card.String(), Tags: []string{"card"}}}
	event := ingest.NewEvent(uuid.New(), seen, []byte("salt"), list)
	assert.Equal(t, card, *event.SourceID)
	assert.Equal(t, "tag", event.Evidence)
	assert.Equal(t, "photoloft.example", event.Referrer)
	assert.Equal(t, traffic.Own, event.Flags)
	assert.NotContains(t, string(event.Visitor), "192.0.2.7")

	seen.Tag = "unknown"
	event = ingest.NewEvent(uuid.New(), seen, []byte("salt"), list)
	assert.Nil(t, event.SourceID)
	assert.Equal(t, "untagged", event.Evidence)
	assert.Equal(t, "unknown", event.Tag, "what stood in the address is kept")
}
