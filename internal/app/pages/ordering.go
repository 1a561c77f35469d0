package pages

import (
	"context"
	"errors"
	"fmt"
	"time"
)

const (
	// orderedAtOnce is how many pages are put in order at a time.
	orderedAtOnce = 20
	// pullSpan is over how long pull is worked out.
	pullSpan = 56 * 24 * time.Hour
)

// OrderDue puts pages in order that keep something in order by pull, each once a day.
func (u Pages) OrderDue(ctx context.Context) error {
	due, err := u.Store.TakePagesToOrder(ctx, orderedAtOnce, u.Now())
	if err != nil {
		return err
	}
	var failed []error
	for _, one := range due {
		model, _, err := u.pulls(ctx, one.WorkspaceID, one.ID)
		if err == nil {
			// Where it cannot be told which draws more, all stays where it is.
			if !model.Differ {
				continue
			}
			err = u.Store.PutInOrder(ctx, one.WorkspaceID, one.ID, model.Pulls, u.Now())
		}
		if err != nil {
			failed = append(failed, fmt.Errorf("put page %s in order: %w", one.ID, err))
		}
	}
	return errors.Join(failed...)
}
