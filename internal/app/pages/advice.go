package pages

import (
	"context"
	"math/rand/v2"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/pull"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// OrderAdvice is how much the blocks of a page pull, and in which order they would be
// pressed more.
type OrderAdvice struct {
	pull.Model
	// Now are the blocks of the working copy that are switched on, in order.
	Now []page.Placed
	pull.Advice
	// Measured: how likely places are to be seen was measured.
	Measured bool
	// Came is what came of the latest change of order; nil for none in that time.
	Came *CameOfOrder
}

// CameOfOrder is how many visits pressed anything before an edition with another order, and after.
type CameOfOrder struct {
	store.OrderChange
	readings.Around
}

// adviceSeed is always the same: what is advised does not change from one look to the next.
const adviceSeed = 20_260_601

// Advice works out how much blocks of a page of a workspace pull, and a better order where
// there is one: within what stands under one heading.
func (u Pages) Advice(ctx context.Context, workspace, id uuid.UUID) (OrderAdvice, error) {
	of, err := u.Store.Page(ctx, workspace, id)
	if err != nil {
		return OrderAdvice{}, err
	}
	model, measured, err := u.pulls(ctx, workspace, id)
	if err != nil {
		return OrderAdvice{}, err
	}
	now := of.Draft.SwitchedOn()
	came, err := u.cameOfOrder(ctx, workspace, id)
	return OrderAdvice{
		Model: model, Now: now, Came: came, Measured: measured,
		Advice: model.Advise(slotsOf(now), rand.NewPCG(adviceSeed, adviceSeed)),
	}, err
}

// pulls works out how much blocks of a page of a workspace draw, by what came on screen where the page measures it.
func (u Pages) pulls(ctx context.Context, workspace, id uuid.UUID) (model pull.Model, measured bool, err error) {
	since := u.Now().Add(-pullSpan)
	cells, err := u.Store.PullCells(ctx, workspace, id, since)
	if err != nil {
		return model, false, err
	}
	looks, err := u.Store.Looks(ctx, workspace, id, since)
	if err != nil || !pull.Measured(looks) {
		return pull.Fit(cells), false, err
	}
	return pull.FitMeasured(cells, looks), true, nil
}

// cameOfOrder looks at the latest change of order in the time in which pull is worked out.
func (u Pages) cameOfOrder(ctx context.Context, workspace, id uuid.UUID) (*CameOfOrder, error) {
	now := u.Now()
	changes, err := u.Store.OrderChanges(ctx, workspace, id, now.Add(-pullSpan))
	if err != nil || len(changes) == 0 {
		return nil, err
	}
	var before time.Time
	if len(changes) > 1 {
		before = changes[1].At
	}
	zone, err := u.Store.Location(ctx, workspace)
	if err != nil {
		return nil, err
	}
	figures, err := u.Store.Figures(ctx, workspace, []uuid.UUID{id}, changes[0].At.AddDate(0, 0, -35), now)
	if err != nil {
		return nil, err
	}
	edit := readings.Edited{At: changes[0].At, Last: before, Now: now, Zone: zone}
	return &CameOfOrder{changes[0], readings.AroundPage(figures[id].Sums, edit)}, nil
}

// slotsOf are blocks in their places. What leads nowhere holds its place, and a heading ends
// what can change places; so does one that keeps an order by itself.
func slotsOf(now []page.Placed) []pull.Slot {
	slots := make([]pull.Slot, len(now))
	group, kept := 1, false
	for i, block := range now {
		if block.Heading != nil {
			group, kept = group+1, block.Heading.Order != ""
		}
		slots[i].Block = block.Key
		if len(block.Targets()) > 0 && !kept {
			slots[i].Group = group
		}
	}
	return slots
}
