// Package exports writes the export of a workspace into a file first, and lets it
// be downloaded then, so that a reader who is slow keeps nobody waiting. One is
// written at a time for a workspace, as a job.
package exports

import (
	"context"
	"errors"
	"fmt"
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
	// sayEvery is how often whoever writes one says that it goes on.
	sayEvery = 5 * time.Second
	// KeptFor is for how long a finished export can be downloaded.
	KeptFor = 48 * time.Hour
)

// Exporter begins, stops and writes exports.
type Exporter struct {
	store *store.Store
	files *files.Files
	now   func() time.Time
	queue func(ctx context.Context, export store.Export) error

	mu   sync.Mutex
	runs map[uuid.UUID]run // under way in this process, by workspace
}

type run struct {
	export uuid.UUID
	stop   context.CancelFunc
}

// New makes an exporter that reads through a store of its own. What it begins it gives
// to a queue, whose jobs call Write.
func New(s *store.Store, kept *files.Files, now func() time.Time, queue func(context.Context, store.Export) error) *Exporter {
	return &Exporter{store: s, files: kept.Through(s), now: now, queue: queue, runs: make(map[uuid.UUID]run)}
}

// Begin begins an export of a workspace and returns at once. It answers
// store.ErrRunning with the one that is under way, when there is one.
func (e *Exporter) Begin(ctx context.Context, workspace uuid.UUID) (store.Export, error) {
	begun, err := e.store.BeginExport(ctx, workspace, e.now())
	if err != nil {
		return begun, err
	}
	// One that was asked to stop may not have noticed yet.
	e.breakOff(workspace)
	if err := e.queue(ctx, begun); err != nil {
		failed := begun
		failed.State = store.ExportFailed
		return begun, errors.Join(err, e.store.EndExport(ctx, failed, e.now()))
	}
	return begun, nil
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

// Write writes an export that was begun, and notes how it ended. One that was stopped,
// or is another's by now, is left alone. When ctx ends, the export goes on with the next
// call.
func (e *Exporter) Write(ctx context.Context, export store.Export) error {
	switch err := e.store.ExportGoesOn(ctx, export, e.now()); {
	case errors.Is(err, store.ErrNotFound):
		return nil
	case err != nil:
		return fmt.Errorf("take up an export: %w", err)
	}
	writing, stop := context.WithCancel(ctx)
	defer stop()
	e.begun(export, stop)
	defer e.ended(export)
	progress := &progress{export: export}
	ended := make(chan struct{})
	var watching sync.WaitGroup
	watching.Go(func() { e.sayAlive(writing, stop, progress, ended) })
	err := e.write(writing, progress)
	close(ended)
	watching.Wait()
	if ctx.Err() != nil {
		return ctx.Err()
	}
	result := progress.now()
	result.State = store.ExportReady
	if err != nil {
		result.State, result.Blob, result.Size = store.ExportFailed, "", 0
		if !errors.Is(err, context.Canceled) {
			slog.Error("an export failed", "workspace", export.WorkspaceID, "error", err)
		}
	}
	if err := e.store.EndExport(ctx, result, e.now()); err != nil && !errors.Is(err, store.ErrNotFound) {
		return fmt.Errorf("note how an export ended: %w", err)
	}
	return nil
}

func (e *Exporter) begun(export store.Export, stop context.CancelFunc) {
	e.mu.Lock()
	defer e.mu.Unlock()
	e.runs[export.WorkspaceID] = run{export.ID, stop}
}

func (e *Exporter) ended(export store.Export) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.runs[export.WorkspaceID].export == export.ID {
		delete(e.runs, export.WorkspaceID)
	}
}

// write makes the zip in a file of this machine and brings it to where files are
// kept.
func (e *Exporter) write(ctx context.Context, progress *progress) error {
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
