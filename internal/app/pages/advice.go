package pages

import (
	"context"
	"math/rand/v2"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/pull"
)

// OrderAdvice is how much the blocks of a page pull, and in which order they would be
// pressed more.
type OrderAdvice struct {
	// Seen is how likely each place is to be seen, from the first.
	Seen []float64
	// Pulls are those of blocks that enough visits were shown, by key.
	Pulls map[string]float64
	// Now are the blocks of the working copy that are switched on, in order.
	Now []page.Placed
	pull.Advice
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
	cells, err := u.Store.PullCells(ctx, workspace, id, u.Now().Add(-pullSpan))
	if err != nil {
		return OrderAdvice{}, err
	}
	now := of.Draft.SwitchedOn()
	model := pull.Fit(cells)
	return OrderAdvice{model.Seen, model.Pulls(cells), now, pull.Advise(cells, slotsOf(now), rand.NewPCG(adviceSeed, adviceSeed))}, nil
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
