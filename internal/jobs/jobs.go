// Package jobs does work in the background as jobs in PostgreSQL, by river: once
// across all processes, with retries and limits. What is done stands in chores.go,
// export.go and letters.go; this file runs it.
//
// It holds no rules: a job calls what is to be done, by name.
package jobs

import (
	"context"
	"fmt"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivertype"

	"jundle/internal/app/domains"
	"jundle/internal/files"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const (
	// keptFor is how long jobs that are done stay in their table.
	keptFor = time.Hour
	// attempts is how often one is tried; what is done again and again comes again.
	attempts = 3
	// within is how long a job may take. One whose process was killed is taken up by
	// another after that.
	within = 30 * time.Minute
)

// Queues keep kinds of job from waiting for each other.
const (
	sumsQueue     = "sums"
	choresQueue   = "chores"
	exportsQueue  = "exports"
	checksQueue   = "checks"
	feedsQueue    = "feeds"
	domainsQueue  = "domains"
	webhooksQueue = "webhooks"
)

// Options are what jobs are done with.
type Options struct {
	// Store has a pool of its own, which the jobs use, too.
	Store *store.Store
	Files *files.Files
	// Outbound asks addresses whether they still answer.
	Outbound *outbound.Client
	// Domains look after hosts of creators' own; nil where there are none.
	Domains *domains.Domains
	Now     func() time.Time
	// WriteExport writes the export of a workspace.
	WriteExport func(ctx context.Context, export store.Export) error
	// Deliver writes and sends a letter.
	Deliver func(ctx context.Context, letter store.LetterOrder) error
}

// Jobs takes jobs and does them, its own and those of other processes.
type Jobs struct {
	client *river.Client[pgx.Tx]
}

// New makes it ready to take jobs. Start begins to do them.
func New(options Options) (*Jobs, error) {
	workers := river.NewWorkers()
	chores := choresOf(options)
	river.AddWorker(workers, &choreWorker{chores: chores})
	river.AddWorker(workers, &exportWorker{write: options.WriteExport})
	river.AddWorker(workers, &letterWorker{deliver: options.Deliver})
	client, err := river.NewClient(riverpgxv5.New(options.Store.Pool()), &river.Config{
		Queues: map[string]river.QueueConfig{
			// A day with very many events keeps back neither the other days nor busy visitors.
			sumsQueue: {MaxWorkers: 2}, choresQueue: {MaxWorkers: 1}, exportsQueue: {MaxWorkers: 2}, checksQueue: {MaxWorkers: 1},
			feedsQueue: {MaxWorkers: 1}, domainsQueue: {MaxWorkers: 1},
			webhooksQueue:      {MaxWorkers: 2},
			store.LettersQueue: {MaxWorkers: 4},
		},
		Workers: workers, PeriodicJobs: periodic(chores), JobTimeout: within, RescueStuckJobsAfter: within + time.Minute,
		MaxAttempts: attempts, CompletedJobRetentionPeriod: keptFor, CancelledJobRetentionPeriod: keptFor,
		Logger: slog.New(warnings{slog.Default().Handler()}), ErrorHandler: failures{},
	})
	if err != nil {
		return nil, fmt.Errorf("make the jobs ready: %w", err)
	}
	return &Jobs{client}, nil
}

// Start begins to do jobs.
func (j *Jobs) Start(ctx context.Context) error {
	if err := j.client.Start(context.WithoutCancel(ctx)); err != nil {
		return fmt.Errorf("begin to do jobs: %w", err)
	}
	return nil
}

// Stop breaks off what is being done, which is done again, here or elsewhere.
func (j *Jobs) Stop(ctx context.Context) error { return j.client.StopAndCancel(ctx) }

// warnings leaves out what the library says of its comings and goings.
type warnings struct{ slog.Handler }

func (w warnings) Enabled(ctx context.Context, level slog.Level) bool {
	return level >= slog.LevelWarn && w.Handler.Enabled(ctx, level)
}

func (w warnings) WithAttrs(attrs []slog.Attr) slog.Handler {
	return warnings{w.Handler.WithAttrs(attrs)}
}

func (w warnings) WithGroup(name string) slog.Handler { return warnings{w.Handler.WithGroup(name)} }

// failures says what failed.
type failures struct{}

// HandleError implements river.ErrorHandler.
func (failures) HandleError(ctx context.Context, job *rivertype.JobRow, err error) *river.ErrorHandlerResult {
	if ctx.Err() == nil {
		slog.Error("work in the background failed; it is tried again", "job", job.Kind, "args", string(job.EncodedArgs),
			"attempt", job.Attempt, "error", err)
	}
	return nil
}

// HandlePanic implements river.ErrorHandler.
func (failures) HandlePanic(_ context.Context, job *rivertype.JobRow, value any, trace string) *river.ErrorHandlerResult {
	slog.Error("work in the background broke off", "job", job.Kind, "args", string(job.EncodedArgs), "panic", value, "trace", trace)
	return nil
}
