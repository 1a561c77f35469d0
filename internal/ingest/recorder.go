// Package ingest takes what the public listener saw and brings it to the table:
// it decides flags, source and visitor key by the rules of core, gathers events
// into batches and stores them.
//
// A hit is handed over without waiting, so that no visitor waits for the
// database. While the database is away hits are held in memory, as many as
// Capacity; beyond that they are shed, counted and reported.
package ingest

import (
	"context"
	"fmt"
	"log/slog"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// Hit is one view or click as the public listener saw it.
type Hit struct {
	At       time.Time
	PageID   uuid.UUID
	Sources  []source.Source
	PageHost string
	Edition  int
	Kind     traffic.Kind
	Block    string
	Item     string
	Place    int
	Tag      string
	// Referrer is the host of the Referer, without path and query.
	Referrer string
	Method   string
	Purpose  []string
	// Client is the visitor's address. It goes into the visitor key and no
	// further.
	Client    string
	UserAgent string
	Own       bool
}

const (
	// Capacity is how many hits wait at most.
	Capacity = 100_000
	// batchSize and batchWait say when a batch goes to the table: when it is
	// full, or this long after its first hit.
	batchSize = 500
	batchWait = 150 * time.Millisecond
	retryWait = time.Second
)

// Store is the part of the store a recorder needs.
type Store interface {
	RecordEvents(ctx context.Context, events []store.Event) error
	Salt(ctx context.Context, day time.Time) ([]byte, error)
	DestroySalts(ctx context.Context, before time.Time) error
}

// Recorder takes hits and stores them as events.
type Recorder struct {
	store  Store
	agents *agents.List
	salts  saltBook
	hits   chan Hit
	shed   atomic.Int64
	ending chan struct{} // closed when the recorder is to end
	end    sync.Once
	done   chan struct{} // closed when it has ended
}

// NewRecorder starts a recorder. Close ends it.
func NewRecorder(store Store, list *agents.List) *Recorder {
	r := &Recorder{store: store, agents: list, salts: saltBook{store: store}, hits: make(chan Hit, Capacity), ending: make(chan struct{}), done: make(chan struct{})}
	go r.run()
	return r
}

// Record hands over a hit. It never waits. It reports false when the hit had to
// be shed, because Capacity hits are waiting already or the recorder is ending.
func (r *Recorder) Record(hit Hit) bool {
	if !r.isEnding() {
		select {
		case r.hits <- hit:
			return true
		default:
		}
	}
	r.shed.Add(1)
	return false
}

func (r *Recorder) isEnding() bool {
	select {
	case <-r.ending:
		return true
	default:
		return false
	}
}

// Shed is how many hits were shed since the start.
func (r *Recorder) Shed() int64 { return r.shed.Load() }

// Close stores what is waiting and ends the recorder. When ctx ends first, the
// rest is lost and the error says how much.
func (r *Recorder) Close(ctx context.Context) error {
	r.end.Do(func() { close(r.ending) })
	select {
	case <-r.done:
		return nil
	case <-ctx.Done():
		return fmt.Errorf("%d hits could not be stored before the end: %w", len(r.hits), ctx.Err())
	}
}

func (r *Recorder) run() {
	defer close(r.done)
	for {
		select {
		case first := <-r.hits:
			r.keep(r.gather(first))
		case <-r.ending:
			for len(r.hits) > 0 {
				r.keep(r.gather(<-r.hits))
			}
			return
		}
	}
}

// gather fills a batch, for as long as batchWait and no longer; at the end, with
// what is there.
func (r *Recorder) gather(first Hit) []Hit {
	batch := []Hit{first}
	timer := time.NewTimer(batchWait)
	defer timer.Stop()
	for len(batch) < batchSize {
		select {
		case hit := <-r.hits:
			batch = append(batch, hit)
			continue
		default:
		}
		select {
		case hit := <-r.hits:
			batch = append(batch, hit)
		case <-timer.C:
			return batch
		case <-r.ending:
			if len(r.hits) == 0 {
				return batch
			}
		}
	}
	return batch
}

// keep stores a batch, again and again until the database takes it. Event IDs
// are made once, so a batch that was stored without our hearing of it is not
// stored twice.
func (r *Recorder) keep(batch []Hit) {
	ids := make([]uuid.UUID, len(batch))
	for i := range ids {
		ids[i] = uuid.Must(uuid.NewV7())
	}
	for attempt := 1; ; attempt++ {
		err := r.try(batch, ids)
		if err == nil {
			return
		}
		slog.Error("events could not be stored yet; they are kept and tried again", "events", len(batch), "attempt", attempt, "waiting", len(r.hits), "error", err)
		if r.isEnding() && attempt >= 3 {
			slog.Error("events are lost: the database did not come back before the end", "events", len(batch))
			return
		}
		time.Sleep(retryWait)
	}
}

func (r *Recorder) try(batch []Hit, ids []uuid.UUID) error {
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	events := make([]store.Event, len(batch))
	for i, hit := range batch {
		salt, err := r.salts.of(ctx, hit.At)
		if err != nil {
			return err
		}
		events[i] = NewEvent(ids[i], hit, salt, r.agents)
	}
	return r.store.RecordEvents(ctx, events)
}
