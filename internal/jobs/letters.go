package jobs

import (
	"context"
	"errors"
	"time"

	"github.com/riverqueue/river"

	"jundle/internal/mail"
	"jundle/internal/store"
)

// letterWithin is how long writing and sending a letter may take.
const letterWithin = 2 * time.Minute

type letterWorker struct {
	river.WorkerDefaults[store.LetterOrder]
	deliver func(ctx context.Context, letter store.LetterOrder) error
}

// Timeout implements river.Worker.
func (w *letterWorker) Timeout(*river.Job[store.LetterOrder]) time.Duration { return letterWithin }

// Work implements river.Worker.
func (w *letterWorker) Work(ctx context.Context, job *river.Job[store.LetterOrder]) error {
	err := w.deliver(ctx, job.Args)
	var refused *mail.RefusedError
	if errors.As(err, &refused) {
		return river.JobCancel(err)
	}
	return err
}
