// Package ingest takes what the public listener saw and brings it to the table.
//
// A hit becomes an event, by the rules of core, and is written to the log on
// disk before its visitor is answered; hits that come together are written
// together. From the log events go to the table in batches, and again where it
// is not sure that they arrived: the table knows an event by its ID. When the log
// is away, events go to a spool of plain files, and when that fails too they are
// held in memory, as many as a bound allows. What is shed beyond that is counted.
package ingest

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/traffic"
	"jundle/internal/countries"
	"jundle/internal/eventlog"
	"jundle/internal/store"
)

const (
	// Queue is how many events wait at most for the log at one time.
	queue = 8192
	// together is how many are written to the log in one entry.
	together = 512
	// gather is for how long events that nobody waits for are gathered, so that an
	// entry costs little for each of them.
	gather = time.Millisecond
	// held is how many are kept in memory while neither log nor spool takes them.
	held = 20_000
	// notice is how long a visitor waits for the log: what takes longer, a person
	// notices. Their event takes the spool then.
	notice = 100 * time.Millisecond
)

// Log is the part of the event log that a recorder needs.
type Log interface {
	Append(ctx context.Context, entry []byte) error
	Read(ctx context.Context, most int, wait time.Duration) ([]eventlog.Entry, error)
	Waiting(ctx context.Context) (uint64, error)
	Err() error
}

// Store is the part of the store that events go to.
type Store interface {
	RecordEvents(ctx context.Context, events []store.Event) error
	Salt(ctx context.Context, day time.Time) ([]byte, error)
}

// Options are what a recorder is made with.
type Options struct {
	Store  Store
	Agents *agents.List
	Log    Log
	// Countries tells where an address belongs; nil for nowhere known.
	Countries *countries.Table
	// SpoolDir is where events go while the log is away.
	SpoolDir string
	// FloodBudget is how many events of one page are counted from one client address
	// in an hour; no bound when 0.
	FloodBudget int
}

// Recorder takes hits and brings them to the table as events.
type Recorder struct {
	store     Store
	agents    *agents.List
	countries *countries.Table
	log       Log
	spool     *spool
	salts     *saltCache
	// flood bounds what is counted, and scrolls what tells how far visits got, which takes nothing from that; nil for no bound.
	flood, scrolls *floodGate

	queue   chan waiting
	held    chan []byte
	shed    atomic.Int64
	refused atomic.Int64
	waits   sync.Pool // of those whose event was kept in time

	ended   atomic.Bool
	ending  chan struct{} // closed when nothing more is taken
	written chan struct{} // closed when everything taken is written
	stop    context.CancelFunc
	moving  sync.WaitGroup // what moves events to the table
}

// waiting is an event on its way into the log, as JSON, and who waits for it, if
// anybody.
type waiting struct {
	line []byte
	by   *visitorWaiting
}

type visitorWaiting struct {
	kept chan struct{}
	// spooled says that the event is in the spool, and need not go to the log. One
	// that is on its way there already arrives twice, which the table knows.
	spooled atomic.Bool
}

// IDs take their random part from a pool: asking the system for each would be
// most of what an ID costs.
func init() { uuid.EnableRandPool() }

// NewRecorder starts a recorder. Close ends it.
func NewRecorder(ctx context.Context, options Options) (*Recorder, error) {
	files, err := openSpool(options.SpoolDir)
	if err != nil {
		return nil, err
	}
	salts, err := newSaltCache(ctx, options.Store)
	if err != nil {
		return nil, err
	}
	moving, stop := context.WithCancel(context.WithoutCancel(ctx))
	r := &Recorder{
		store: options.Store, agents: options.Agents, countries: options.Countries, log: options.Log, spool: files, salts: salts,
		queue: make(chan waiting, queue), held: make(chan []byte, held),
		waits:  sync.Pool{New: func() any { return &visitorWaiting{kept: make(chan struct{}, 1)} }},
		ending: make(chan struct{}), written: make(chan struct{}), stop: stop,
	}
	if options.FloodBudget > 0 {
		r.flood, r.scrolls = newFloodGate(options.FloodBudget), newFloodGate(options.FloodBudget)
	}
	go r.write()
	for _, move := range []func(context.Context){r.moveLog, r.moveSpool, salts.renew} {
		r.moving.Go(func() { move(moving) })
	}
	return r, nil
}

// Decide makes an event of a hit, by the rules and lists there are.
func (r *Recorder) Decide(hit Hit) store.Event {
	event := NewEvent(uuid.Must(uuid.NewV7()), hit, r.salts.of(hit.At), r.agents)
	event.Country = r.countries.Of(hit.Client)
	// What is left out anyway uses up nobody's budget.
	gate := r.flood
	if hit.Kind == traffic.Scroll {
		gate = r.scrolls
	}
	if gate != nil && event.Flags == 0 && !gate.within(hit.Client, hit.EndpointID, hit.At) {
		event.Flags |= traffic.Flood
	}
	return event
}

// Record keeps an event and returns once it is kept, in the log or, when that is
// slow, in the spool. It reports false when it is not: because the recorder is
// ending, or because nothing took it in time.
func (r *Recorder) Record(event store.Event) bool {
	by := r.waits.Get().(*visitorWaiting)
	line, taken := r.take(event)
	if !taken {
		return false
	}
	if !r.enqueue(waiting{line, by}) {
		return r.aside(line)
	}
	timer := time.NewTimer(notice)
	defer timer.Stop()
	select {
	case <-by.kept:
		r.waits.Put(by)
		return true
	case <-timer.C:
		if err := r.spool.add(append(line, '\n')); err != nil {
			slog.Error("the log is slow and the spool takes no events; an event may be lost if the process is killed", "error", err)
			return false // it is still being written; it counts when that succeeds
		}
		by.spooled.Store(true)
		return true
	case <-r.written: // it came in while the last were being written
		return len(by.kept) > 0
	}
}

// Note is Record for whom the answer need not wait: it returns once the event is
// on its way to the log. A process that is killed loses what is on its way.
func (r *Recorder) Note(event store.Event) bool {
	line, taken := r.take(event)
	if !taken {
		return false
	}
	return r.enqueue(waiting{line: line}) || r.aside(line)
}

// take writes an event down, unless the recorder is ending; what is not taken is
// shed.
func (r *Recorder) take(event store.Event) (line []byte, taken bool) {
	line, err := Encode(event)
	if err != nil {
		slog.Error("an event could not be written down", "error", err)
	}
	if err != nil || r.ended.Load() {
		r.shed.Add(1)
		return nil, false
	}
	return line, true
}

// enqueue puts an event on its way to the log. It reports false when there is no
// room.
func (r *Recorder) enqueue(one waiting) bool {
	select {
	case r.queue <- one:
		return true
	default:
		return false
	}
}

// aside puts an event that the log has no room for into the spool, or sheds it.
func (r *Recorder) aside(line []byte) bool {
	if err := r.spool.add(append(line, '\n')); err != nil {
		slog.Error("the log has no room and the spool takes no events", "error", err)
		r.shed.Add(1)
		return false
	}
	return true
}

// write takes events from the queue to the log, all that wait at once.
func (r *Recorder) write() {
	defer close(r.written)
	batch := make([]waiting, 0, together)
	for {
		select {
		case one := <-r.queue:
			batch = append(batch[:0], one)
		case <-r.ending:
			if len(r.queue) == 0 {
				return
			}
			continue
		}
		if one := batch[0]; one.by == nil {
			time.Sleep(gather) // nobody waits for it
		}
		for len(batch) < together && len(r.queue) > 0 {
			batch = append(batch, <-r.queue)
		}
		r.keep(batch)
		for _, one := range batch {
			if one.by != nil {
				one.by.kept <- struct{}{}
			}
		}
	}
}

// keep writes events to the first of log, spool and memory that takes them.
func (r *Recorder) keep(batch []waiting) {
	lines := make([][]byte, 0, len(batch))
	for _, one := range batch {
		if one.by == nil || !one.by.spooled.Load() {
			lines = append(lines, one.line)
		}
	}
	if len(lines) == 0 {
		return
	}
	entry := append(bytes.Join(lines, newline), '\n')
	if r.log.Append(context.Background(), entry) == nil {
		return
	}
	err := r.spool.add(entry)
	if err == nil {
		return
	}
	slog.Error("neither log nor spool takes events; they are held in memory", "error", err, "held", len(r.held))
	for _, line := range lines {
		select {
		case r.held <- line:
		default:
			r.shed.Add(1)
		}
	}
}

var newline = []byte{'\n'}

// Health is how things stand between a hit and the table.
type Health struct {
	// Log says why the log is closed, empty when it is open.
	Log string `json:"log"`
	// Spooled is how many bytes of events wait in the spool, Held how many events
	// in memory.
	Spooled int64 `json:"spooledBytes"`
	Held    int   `json:"held"`
	// Shed is how many events were lost since the start, Refused how many the
	// table refused for good; those are kept in a file of their own.
	Shed    int64 `json:"shed"`
	Refused int64 `json:"refused"`
}

// Health tells how things stand.
func (r *Recorder) Health() Health {
	health := Health{Spooled: r.spool.size(), Held: len(r.held), Shed: r.shed.Load(), Refused: r.refused.Load()}
	if err := r.log.Err(); err != nil {
		health.Log = err.Error()
	}
	return health
}

// Close takes no more hits, writes those that wait, and moves to the table what
// can be moved before ctx ends. The rest stays in the log and in the spool; only
// what is held in memory is lost, and the error says how much. Closing again is fine.
func (r *Recorder) Close(ctx context.Context) error {
	if !r.ended.Swap(true) {
		close(r.ending)
	}
	<-r.written
	r.drain(ctx)
	r.stop()
	r.moving.Wait()
	if lost := len(r.held); lost > 0 {
		return errors.Join(fmt.Errorf("%d events were held in memory and could not be stored before the end", lost), ctx.Err())
	}
	return nil
}

// drain waits until the log, the spool and what is held are empty or ctx ends.
func (r *Recorder) drain(ctx context.Context) {
	for {
		waiting, err := r.log.Waiting(ctx)
		if err == nil && waiting == 0 && r.spool.size() == 0 && len(r.held) == 0 || err != nil && len(r.held) == 0 {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(20 * time.Millisecond):
		}
	}
}
