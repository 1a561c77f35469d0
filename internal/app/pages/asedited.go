package pages

import (
	"context"
	"errors"
	"fmt"

	"github.com/google/uuid"

	"jundle/internal/store"
)

// SetAsEdited lets each saved change of a page go live by itself, beginning with what
// waits, or no longer.
func (u Pages) SetAsEdited(ctx context.Context, member store.Member, id uuid.UUID, on bool) (store.Page, error) {
	if err := u.Store.SetAsEdited(ctx, member.WorkspaceID, member.ID, id, on); err != nil {
		return store.Page{}, err
	}
	if !on {
		return u.Store.Page(ctx, member.WorkspaceID, id)
	}
	page, err := u.GoLive(ctx, member.WorkspaceID, id)
	var full *store.QuotaError
	if errors.As(err, &full) {
		return u.Store.Page(ctx, member.WorkspaceID, id) // it goes live once it may
	}
	return page, err
}

// GoLive publishes what waits on a page that goes live as it is edited; a *store.QuotaError
// when that was as often as it may be in a day.
func (u Pages) GoLive(ctx context.Context, workspace, id uuid.UUID) (store.Page, error) {
	return u.Store.Publish(ctx, workspace, uuid.Nil, id, store.Publishing{AsEdited: true}, u.Now())
}

// goingLiveAtOnce is how many pages are looked after at a time.
const goingLiveAtOnce = 100

// GoLiveDue publishes what waits on pages that go live as they are edited: what whoever
// saved it did not come to. Pages that were published as often as they may be wait.
func (u Pages) GoLiveDue(ctx context.Context) error {
	due, err := u.Store.GoingLive(ctx, goingLiveAtOnce)
	if err != nil {
		return err
	}
	var failed []error
	for _, one := range due {
		var full *store.QuotaError
		if _, err := u.GoLive(ctx, one.WorkspaceID, one.ID); err != nil && !errors.As(err, &full) {
			failed = append(failed, fmt.Errorf("let page %s go live: %w", one.ID, err))
		}
	}
	return errors.Join(failed...)
}
