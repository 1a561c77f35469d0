package pages

import (
	"context"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// State is how a page stands for its visitors.
type State string

// States, of which the first that holds is the page's.
const (
	Deleted     State = "deleted"
	Draft       State = "draft"
	Resting     State = "resting"
	PassThrough State = "pass-through"
	Closed      State = "closed"
	Solo        State = "solo"
	Live        State = "live"
)

// Listed is a page in the list of them.
type Listed struct {
	store.ListedPage
	State State
}

// List lists the pages of a workspace with what was counted in seven days and today.
func (u Pages) List(ctx context.Context, workspace uuid.UUID) ([]Listed, error) {
	zone, err := u.Store.Location(ctx, workspace)
	if err != nil {
		return nil, err
	}
	now := u.Now()
	rows, err := u.Store.ListPages(ctx, workspace, readings.WithToday(7, now, zone))
	if err != nil {
		return nil, err
	}
	listed := make([]Listed, len(rows))
	for i, row := range rows {
		listed[i] = Listed{row, stateOf(row, now)}
	}
	return listed, nil
}

// stateOf is the state of a page for visitors from nowhere in particular.
func stateOf(row store.ListedPage, now time.Time) State {
	takeover := func(is func(page.Takeover) bool) bool {
		for _, t := range row.Takeovers {
			if is(t) && t.Holds(audience.Audience{At: now}) {
				return true
			}
		}
		return false
	}
	switch {
	case row.DeleteAt != nil:
		return Deleted
	case row.LiveEdition == 0:
		return Draft
	case row.Resting != nil:
		return Resting
	case takeover(func(t page.Takeover) bool { return t.PassThrough != nil }):
		return PassThrough
	case row.Open != nil && !row.Open.Holds(now):
		return Closed
	case takeover(func(t page.Takeover) bool { return t.Solo != "" }):
		return Solo
	default:
		return Live
	}
}

// Label replaces the labels of a page.
func (u Pages) Label(ctx context.Context, workspace, id uuid.UUID, labels []string) error {
	var wrong invalid.List
	labels = invalid.Labels(&wrong, "labels", labels)
	if err := wrong.Err(); err != nil {
		return err
	}
	return u.Store.SetPageLabels(ctx, workspace, id, labels)
}
