// Package eventlog keeps what happened on disk until it is in the table. It is a
// JetStream stream: in a server inside this process by default, in a cluster by
// address. What Append accepted is handed out by Read until it is acknowledged,
// also after the process was killed.
//
// It knows nothing of events: what it carries are bytes.
package eventlog

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"github.com/nats-io/nats.go"
	"github.com/nats-io/nats.go/jetstream"
)

const (
	stream   = "JUNDLE"
	subject  = "jundle.events"
	consumer = "table"
	// appendWithin is how long an append may take before it counts as failed.
	appendWithin = time.Second
	// acknowledgeWithin is how long what was read stays with its reader.
	acknowledgeWithin = 10 * time.Second
	flushWithin       = 500 * time.Millisecond
)

// Options say where the log is.
type Options struct {
	// Dir holds the log of the server in this process.
	Dir string
	// ClusterURL is the address of a cluster to use instead; several with commas
	// between.
	ClusterURL string
	// Replicas is on how many nodes of the cluster an entry is kept.
	Replicas int
	// MaxBytes bounds the log; when it is full, Append fails.
	MaxBytes int64
}

// Log is the log of events.
type Log struct {
	options Options
	closing chan struct{}
	once    sync.Once
	ended   chan struct{}
	retry   chan struct{} // asks for the log to be opened again

	mu   sync.Mutex
	link *link
	down error // why it is closed for the moment; nil when open
}

// link is an open way to the log.
type link struct {
	server  *embedded // nil with a cluster
	conn    *nats.Conn
	js      jetstream.JetStream
	stream  jetstream.Stream
	reading jetstream.Consumer
}

// reopenAfter is the time between two attempts to open a closed log.
const reopenAfter = 2 * time.Second

// Open starts or joins the log. A log that cannot be opened now is returned all
// the same, closed: Append fails, and it is tried again until Close.
func Open(ctx context.Context, options Options) *Log {
	l := &Log{options: options, closing: make(chan struct{}), ended: make(chan struct{}), retry: make(chan struct{}, 1)}
	if err := l.connect(ctx); err != nil {
		l.failed(err)
	}
	go l.keepOpen()
	return l
}

// keepOpen opens the log again after failures, beside those who use it, so that
// nobody waits for it.
func (l *Log) keepOpen() {
	defer close(l.ended)
	for {
		select {
		case <-l.closing:
			return
		case <-l.retry:
		}
		for l.Err() != nil {
			select {
			case <-l.closing:
				return
			case <-time.After(reopenAfter):
			}
			l.disconnect()
			if err := l.connect(context.Background()); err != nil {
				slog.Error("the log of events cannot be opened; events go to the spool and it is tried again", "error", err)
				continue
			}
			slog.Info("the log of events is open again")
		}
	}
}

func (l *Log) connect(ctx context.Context) error {
	opened, err := l.options.connect(ctx)
	if err != nil {
		opened.close()
		return err
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	l.link, l.down = opened, nil
	return nil
}

func (l *Log) disconnect() {
	l.mu.Lock()
	before := l.link
	l.link = nil
	l.mu.Unlock()
	before.close()
}

func (l *link) close() {
	if l == nil {
		return
	}
	if l.conn != nil {
		_ = l.conn.FlushTimeout(flushWithin) // what was acknowledged is to be heard
		l.conn.Close()
	}
	if l.server != nil {
		l.server.stop()
	}
}

// connect returns a link also when it fails, to be closed.
func (o Options) connect(ctx context.Context) (*link, error) {
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	l := &link{}
	var err error
	// Only what is acknowledged counts as kept, so nothing is to be buffered while
	// the connection is away.
	options := []nats.Option{nats.Name("jundle"), nats.MaxReconnects(-1), nats.ReconnectWait(time.Second), nats.ReconnectBufSize(-1)}
	if o.ClusterURL == "" {
		if l.server, err = startEmbedded(o); err != nil {
			return l, err
		}
		options = append(options, nats.InProcessServer(l.server))
	}
	if l.conn, err = nats.Connect(o.ClusterURL, options...); err != nil {
		return l, fmt.Errorf("connect: %w", err)
	}
	if l.js, err = jetstream.New(l.conn, jetstream.WithDefaultTimeout(5*time.Second)); err != nil {
		return l, err
	}
	l.stream, err = l.js.CreateOrUpdateStream(ctx, jetstream.StreamConfig{
		Name: stream, Subjects: []string{subject}, Retention: jetstream.WorkQueuePolicy, Storage: jetstream.FileStorage,
		Discard: jetstream.DiscardNew, MaxBytes: o.MaxBytes, Replicas: max(1, o.Replicas),
	})
	if err != nil {
		return l, fmt.Errorf("open the stream: %w", err)
	}
	l.reading, err = l.js.CreateOrUpdateConsumer(ctx, stream, jetstream.ConsumerConfig{
		Durable: consumer, AckPolicy: jetstream.AckExplicitPolicy, AckWait: acknowledgeWithin, MaxAckPending: 4096, MaxDeliver: -1,
	})
	if err != nil {
		return l, fmt.Errorf("open the consumer: %w", err)
	}
	return l, nil
}

// open returns the way to the log, or why there is none.
func (l *Log) open() (*link, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.link, l.down
}

// failed closes the log after a failure. A server in this process is started
// anew: after a disk was full it does not come back by itself.
func (l *Log) failed(err error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.down != nil {
		return
	}
	slog.Error("the log of events failed; events go to the spool and it is tried again", "error", err)
	l.down = err
	select {
	case l.retry <- struct{}{}:
	default:
	}
}

// Append keeps an entry. When it returns without an error, the entry is in the
// log. After a failure the log stays closed for a moment, so that nobody waits
// for it in vain.
func (l *Log) Append(ctx context.Context, entry []byte) error {
	link, err := l.open()
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, appendWithin)
	defer cancel()
	if _, err := link.js.Publish(ctx, subject, entry); err != nil {
		err = fmt.Errorf("append to the log: %w", err)
		l.failed(err)
		return err
	}
	return nil
}

// Entry is one entry as it was appended.
type Entry struct{ message jetstream.Msg }

// Data is what was appended.
func (e Entry) Data() []byte { return e.message.Data() }

// Done takes the entry off the log.
func (e Entry) Done() error { return e.message.Ack() }

// Again leaves the entry in the log, to be handed out again after a while.
func (e Entry) Again(after time.Duration) error { return e.message.NakWithDelay(after) }

// Read returns up to most entries, waiting up to wait for the first, or not at all
// for 0. It returns
// none when there is nothing, or when ctx ends.
func (l *Log) Read(ctx context.Context, most int, wait time.Duration) ([]Entry, error) {
	link, err := l.open()
	if err != nil {
		return nil, err
	}
	batch, err := link.reading.FetchNoWait(most)
	entries, err := gather(batch, err)
	if err == nil && len(entries) == 0 && wait > 0 {
		waiting, cancel := context.WithTimeout(ctx, wait)
		defer cancel()
		batch, err = link.reading.Fetch(1, jetstream.FetchContext(waiting))
		entries, err = gather(batch, err)
		if waiting.Err() != nil {
			err = nil // nothing came, or nobody waits any more
		}
	}
	if err != nil {
		err = fmt.Errorf("read the log: %w", err)
		if len(entries) == 0 {
			l.failed(err)
		}
	}
	return entries, err
}

func gather(batch jetstream.MessageBatch, err error) ([]Entry, error) {
	if err != nil {
		return nil, err
	}
	var entries []Entry
	for message := range batch.Messages() {
		entries = append(entries, Entry{message})
	}
	if err := batch.Error(); err != nil && !errors.Is(err, nats.ErrTimeout) && !errors.Is(err, jetstream.ErrNoMessages) {
		return entries, err
	}
	return entries, nil
}

// Waiting is how many entries are in the log.
func (l *Log) Waiting(ctx context.Context) (uint64, error) {
	link, err := l.open()
	if err != nil {
		return 0, err
	}
	// An entry leaves the stream when it is done. The consumer's own count may lag.
	info, err := link.stream.Info(ctx)
	if err != nil {
		return 0, err
	}
	return info.State.Msgs, nil
}

// Err says why the log is closed, nil when it is open.
func (l *Log) Err() error {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.down
}

var errClosed = errors.New("the log was closed")

// Close ends the use of the log for good. What is in it stays.
func (l *Log) Close() {
	l.once.Do(func() { close(l.closing) })
	<-l.ended
	l.mu.Lock()
	l.down = errClosed
	l.mu.Unlock()
	l.disconnect()
}
