package files

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gocloud.dev/gcerrors"

	"jundle/internal/store"
)

const (
	// collectedAtOnce is how many files are dealt with in one go.
	collectedAtOnce = 500
	// looseFor is how long a blob may belong to nothing: longer than any upload, or
	// any export, takes.
	looseFor = 2 * time.Hour
)

// Collect deletes files that nothing refers to, and the bytes of all that are
// gone.
func (f *Files) Collect(ctx context.Context) error {
	for {
		n, err := f.store.CollectMedia(ctx, collectedAtOnce, f.now())
		if err != nil {
			return err
		}
		if n < collectedAtOnce {
			break
		}
	}
	for {
		loose, err := f.store.LooseBlobs(ctx, f.now().Add(-looseFor), collectedAtOnce)
		if err != nil {
			return err
		}
		for _, key := range loose {
			if err := f.bucket.Delete(ctx, key); err != nil && gcerrors.Code(err) != gcerrors.NotFound {
				return fmt.Errorf("delete the bytes of a file that is gone: %w", err)
			}
			if err := f.store.ForgetBlob(ctx, key); err != nil {
				return err
			}
		}
		if len(loose) < collectedAtOnce {
			return nil
		}
	}
}

// MoveOutOfRows brings bytes that are still in rows of the database to the blob
// store, a file at a time. It can be interrupted at any moment and goes on from
// there. Progress hears of each.
func (f *Files) MoveOutOfRows(ctx context.Context, progress func(done, of int)) error {
	of, err := f.store.CountUnmoved(ctx)
	if err != nil || of == 0 {
		return err
	}
	for done := 1; ; done++ {
		file, err := f.store.NextUnmoved(ctx)
		if errors.Is(err, store.ErrNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		key := newBlob(file.WorkspaceID, file.Name)
		if err := f.write(ctx, key, file.Bytes); err != nil {
			return err
		}
		if err := f.store.Moved(ctx, file, key); err != nil {
			return err
		}
		progress(min(done, of), of)
	}
}
