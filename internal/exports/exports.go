// Package exports writes the export of a workspace into a file first, and lets it
// be downloaded then, so that a reader who is slow keeps nobody waiting. One is
// written at a time for a workspace, and a few in a process.
package exports

import (
	"context"
	"errors"
	"io"
	"log/slog"
	"os"
	"sync"
	"time"

	"github.com/google/uuid"

	"jundle/internal/archive"
	"jundle/internal/files"
	"jundle/internal/store"
)

const (
	// atOnce is how many are written at one time in the process; the others wait.
	atOnce = 2
	// sayEvery is how often whoever writes one says that it goes on.
	sayEvery = 5 * time.Second
	// KeptFor is for how long a finished export can be downloaded.
	KeptFor = 48 * time.Hour
)

// Exporter writes exports in the background. Close ends it.
type Exporter struct {
	store *store.Store
	files *files.Files
	now   func() time.Time

	ctx   context.Context
	stop  context.CancelFunc
	turn  chan struct{}
	under sync.WaitGroup

	mu   sync.Mutex
	runs map[uuid.UUID]run // under way in this process, by workspace
}

type run struct {
	export uuid.UUID
	stop   context.CancelFunc
}

// New makes an exporter that reads through a store of its own.
func New(s *store.Store, kept *files.Files, now func() time.Time) *Exporter {
	ctx, stop := context.WithCancel(context.Background())
	return &Exporter{store: s, files: kept.Through(s), now: now, ctx: ctx, stop: stop, turn: make(chan struct{}, atOnce), runs: make(map[uuid.UUID]run)}
}

// Close breaks off what is under way and waits for it.
func (e *Exporter) Close() {
	e.stop()
	e.under.Wait()
}

// Begin begins an export of a workspace and returns at once. It answers
// store.ErrRunning with the one that is under way, when there is one.
func (e *Exporter) Begin(ctx context.Context, workspace uuid.UUID) (store.Export, error) {
	begun, err := e.store.BeginExport(ctx, workspace, e.now())
	if err == nil {
		ctx, stop := context.WithCancel(e.ctx)
		// One that was asked to stop may not have noticed yet. It leaves now, so that
		// whoever begins and stops over and over has one at most that waits for a turn.
		e.breakOff(workspace)
		e.mu.Lock()
		e.runs[workspace] = run{begun.ID, stop}
		e.mu.Unlock()
		e.under.Go(func() { e.run(ctx, stop, begun) })
	}
	return begun, err
}

// Stop stops the export of a workspace that is under way, in whichever process. It
// answers store.ErrNotFound when there is none.
func (e *Exporter) Stop(ctx context.Context, workspace uuid.UUID) error {
	err := e.store.StopExport(ctx, workspace, e.now())
	if err == nil {
		e.breakOff(workspace)
	}
	return err
}

func (e *Exporter) breakOff(workspace uuid.UUID) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if run, ok := e.runs[workspace]; ok {
		run.stop()
	}
}

// run writes an export and notes how it ended.
func (e *Exporter) run(ctx context.Context, stop context.CancelFunc, export store.Export) {
	defer stop()
	defer func() {
		e.mu.Lock()
		defer e.mu.Unlock()
		if e.runs[export.WorkspaceID].export == export.ID {
			delete(e.runs, export.WorkspaceID)
		}
	}()
	progress := &progress{export: export}
	ended := make(chan struct{})
	e.under.Go(func() { e.sayAlive(ctx, stop, progress, ended) })
	err := e.write(ctx, progress)
	close(ended)
	result := progress.now()
	result.State = store.ExportReady
	if err != nil {
		result.State, result.Blob, result.Size = store.ExportFailed, "", 0
		if !errors.Is(err, context.Canceled) {
			slog.Error("an export failed", "workspace", export.WorkspaceID, "error", err)
		}
	}
	// Also when the process is ending: whoever waits for it is to know.
	ending, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
	defer cancel()
	if err := e.store.EndExport(ending, result, e.now()); err != nil && !errors.Is(err, store.ErrNotFound) {
		slog.Error("the end of an export could not be noted", "workspace", export.WorkspaceID, "error", err)
	}
}

// write makes the zip in a file of this machine and brings it to where files are
// kept.
func (e *Exporter) write(ctx context.Context, progress *progress) error {
	select {
	case e.turn <- struct{}{}:
		defer func() { <-e.turn }()
	case <-ctx.Done():
		return ctx.Err()
	}
	file, err := os.CreateTemp("", "jundle-export-*.zip")
	if err != nil {
		return err
	}
	defer func() { _ = errors.Join(file.Close(), os.Remove(file.Name())) }()
	workspace := progress.now().WorkspaceID
	err = archive.Write(ctx, e.store, e.files, workspace, file, func(done, of int) error {
		progress.set(done, of)
		return ctx.Err()
	})
	if err != nil {
		return err
	}
	size, err := file.Seek(0, io.SeekEnd)
	if err == nil {
		_, err = file.Seek(0, io.SeekStart)
	}
	if err != nil {
		return err
	}
	key, err := e.files.Put(ctx, workspace, "export.zip", file)
	if err == nil {
		progress.finish(key, size)
	}
	return err
}

// sayAlive notes how far an export is until it has ended, and stops it when
// somebody asked for that.
func (e *Exporter) sayAlive(ctx context.Context, stop context.CancelFunc, progress *progress, ended <-chan struct{}) {
	for {
		select {
		case <-ended:
			return
		case <-ctx.Done():
			return
		case <-time.After(sayEvery):
		}
		if err := e.store.ExportGoesOn(ctx, progress.now(), e.now()); errors.Is(err, store.ErrNotFound) {
			stop()
		}
	}
}

// progress is an export as it goes on.
type progress struct {
	mu     sync.Mutex
	export store.Export
}

func (p *progress) set(done, of int) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.export.Done, p.export.Parts = done, of
}

func (p *progress) finish(blob string, size int64) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.export.Blob, p.export.Size = blob, size
}

func (p *progress) now() store.Export {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.export
}
