package jobs

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"

	"jundle/internal/store"
)

// exportWithin is how long writing an export may take.
const exportWithin = 2 * time.Hour

// exportArgs name an export that is to be written.
type exportArgs struct {
	Workspace uuid.UUID `json:"workspace"`
	Export    uuid.UUID `json:"export"`
}

// Kind implements river.JobArgs.
func (exportArgs) Kind() string { return "export" }

type exportWorker struct {
	river.WorkerDefaults[exportArgs]
	write func(ctx context.Context, export store.Export) error
}

// Timeout implements river.Worker.
func (w *exportWorker) Timeout(*river.Job[exportArgs]) time.Duration { return exportWithin }

// Work implements river.Worker.
func (w *exportWorker) Work(ctx context.Context, job *river.Job[exportArgs]) error {
	return w.write(ctx, store.Export{WorkspaceID: job.Args.Workspace, ID: job.Args.Export, State: store.ExportRunning})
}

// Export has an export written, by whichever process is free.
func (j *Jobs) Export(ctx context.Context, export store.Export) error {
	_, err := j.client.Insert(ctx, exportArgs{export.WorkspaceID, export.ID}, &river.InsertOpts{Queue: exportsQueue})
	if err != nil {
		return fmt.Errorf("have an export written: %w", err)
	}
	return nil
}
