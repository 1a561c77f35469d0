// Package destinations has what creators do with the addresses they keep once.
package destinations

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/core/linkcheck"
	"jundle/internal/store"
)

// Destinations does it in a store. Errors are *invalid.Error under the names of
// fields, or the store's.
type Destinations struct {
	Store *store.Store
	Now   func() time.Time
}

// Details are a destination with where it led, latest first, and what leads to it.
type Details struct {
	store.Destination
	History []store.FormerAddress
	Uses    store.DestinationUses
	// Merged are the destinations it stands for.
	Merged []store.Destination
	// Asked is what came of asking its address last; nil where it was not.
	Asked *linkcheck.Result
}

// Details of a destination of a workspace.
func (u Destinations) Details(ctx context.Context, workspace, id uuid.UUID) (Details, error) {
	found, err := u.Store.Destination(ctx, workspace, id)
	if err != nil {
		return Details{}, err
	}
	return u.details(ctx, found)
}

func (u Destinations) details(ctx context.Context, found store.Destination) (Details, error) {
	history, err := u.Store.HistoryOf(ctx, found.WorkspaceID, found.ID)
	if err != nil {
		return Details{}, err
	}
	uses, err := u.Store.UsesOf(ctx, found.WorkspaceID, found.ID)
	if err != nil {
		return Details{}, err
	}
	merged, err := u.Store.MergedInto(ctx, found.WorkspaceID, found.ID)
	if err != nil {
		return Details{}, err
	}
	details := Details{Destination: found, History: history, Uses: uses, Merged: merged}
	asked, err := u.Store.LinkChecks(ctx, found.WorkspaceID, []string{found.ID.String()})
	if result, ok := asked[found.ID.String()]; ok {
		details.Asked = &result
	}
	return details, err
}

// Change replaces what a user of a workspace says of a destination when it is still at
// revision; otherwise it answers store.ErrStale with the destination as it stands. All
// that leads there follows.
func (u Destinations) Change(
	ctx context.Context, workspace, user, id uuid.UUID, revision int64, change destination.Destination,
) (Details, error) {
	tidied, err := change.Tidy()
	if err != nil {
		return Details{}, err
	}
	if err := library.Check(ctx, u.Store, workspace, map[string][]string{"picture": tidied.Picture.Names()}); err != nil {
		return Details{}, err
	}
	saved, err := u.Store.SaveDestination(ctx, workspace, user, id, revision, tidied, u.Now())
	switch {
	case errors.Is(err, store.ErrDestinationTaken):
		return Details{}, invalid.One("address", "You keep this address already, as another destination. Nothing was changed.")
	case errors.Is(err, store.ErrNotWeb):
		return Details{}, invalid.One("address",
			"A short link leads here, and that needs a web page: an address that begins with https or http. Nothing was changed.")
	case err != nil && !errors.Is(err, store.ErrStale):
		return Details{}, err
	}
	details, failed := u.details(ctx, saved)
	if failed != nil {
		return Details{}, failed
	}
	return details, err
}
