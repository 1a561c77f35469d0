package destinations

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"

	"github.com/google/uuid"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/store"
)

const (
	// MaxMany is how many destinations are changed at most at once.
	MaxMany = 1000
	// manyBytes is how much is said of them together.
	manyBytes = 4 << 20
)

// ManyPlan is what a change of many destinations would do.
type ManyPlan struct {
	Rows []ManyRow
	// Digest names the plan: the same change of the same destinations.
	Digest string
	// More tells that there are more destinations than are changed at once.
	More bool
}

// ManyRow is what becomes of one destination. Wrong says why it cannot be, and is empty
// where it can.
type ManyRow struct {
	store.DestinationChange
	Title string
	Wrong string
}

// possible are the changes of a plan that can be made.
func (p ManyPlan) possible() []store.DestinationChange {
	var all []store.DestinationChange
	for _, row := range p.Rows {
		if row.Wrong == "" {
			all = append(all, row.DestinationChange)
		}
	}
	return all
}

// PlanMany works out what a change would do to the destinations that a search finds. Only
// what it changes is among the rows.
func (u Destinations) PlanMany(ctx context.Context, workspace uuid.UUID, search string, change destination.Many) (ManyPlan, error) {
	change, err := change.Tidy()
	if err != nil {
		return ManyPlan{}, err
	}
	found, err := u.Store.Destinations(ctx, workspace, search, nil, MaxMany+1)
	if err != nil {
		return ManyPlan{}, err
	}
	plan := ManyPlan{Rows: []ManyRow{}, More: len(found) > MaxMany}
	bytes := 0
	for _, one := range found[:min(len(found), MaxMany)] {
		row := ManyRow{Title: one.Title}
		row.ID, row.Before = one.ID, stateOf(one.Address, one.Swaps, one.Labels)
		becomes, err := change.Apply(destination.Destination{Address: one.Address, Title: one.Title, Labels: one.Labels, Swaps: one.Swaps})
		if err != nil {
			row.Wrong = err.Error()
		}
		row.After = stateOf(becomes.Address, becomes.Swaps, becomes.Labels)
		if row.Wrong == "" && same(row.Before, row.After) {
			continue
		}
		if bytes += row.Before.Bytes() + row.After.Bytes(); bytes > manyBytes {
			plan.More = true
			break
		}
		plan.Rows = append(plan.Rows, row)
	}
	if err := u.refuseTaken(ctx, workspace, plan.Rows); err != nil {
		return ManyPlan{}, err
	}
	text, err := json.Marshal(plan.possible())
	if err != nil {
		return ManyPlan{}, err
	}
	sum := sha256.Sum256(text)
	plan.Digest = hex.EncodeToString(sum[:])
	return plan, nil
}

func stateOf(address string, swaps destination.Swaps, labels []string) store.DestinationState {
	return store.DestinationState{
		Address: address, Swaps: append(destination.Swaps{}, swaps...), Labels: append([]string{}, labels...),
	}
}

func same(a, b store.DestinationState) bool {
	first, firstErr := json.Marshal(a)
	second, secondErr := json.Marshal(b)
	return errors.Join(firstErr, secondErr) == nil && string(first) == string(second)
}

// refuseTaken marks rows whose new address is kept as another destination, or would be
// by an earlier row.
func (u Destinations) refuseTaken(ctx context.Context, workspace uuid.UUID, rows []ManyRow) error {
	var addresses []string
	for _, row := range rows {
		addresses = append(addresses, row.After.Address)
	}
	kept, err := u.Store.KeptAmong(ctx, workspace, addresses)
	if err != nil {
		return err
	}
	for i := range rows {
		row := &rows[i]
		if row.Wrong != "" || row.After.Address == row.Before.Address {
			continue
		}
		if kept[row.After.Address] {
			row.Wrong = "You keep that address already, as another destination. Merge the two instead."
			continue
		}
		kept[row.After.Address] = true
	}
	return nil
}

// ChangeMany makes a change that was planned: store.ErrStale with what it would do now
// when the plan is another.
func (u Destinations) ChangeMany(
	ctx context.Context, member store.Member, search string, change destination.Many, digest string,
) (ManyPlan, store.ManyChanged, error) {
	plan, err := u.PlanMany(ctx, member.WorkspaceID, search, change)
	if err != nil {
		return plan, store.ManyChanged{}, err
	}
	if plan.Digest != digest {
		return plan, store.ManyChanged{}, store.ErrStale
	}
	if len(plan.possible()) == 0 {
		return plan, store.ManyChanged{}, invalid.One("", "There is nothing to be changed.")
	}
	changed, err := u.Store.ChangeMany(ctx, member.WorkspaceID, member.ID, plan.possible(), u.Now())
	if errors.Is(err, store.ErrDestinationTaken) {
		err = store.ErrStale // somebody was quicker
	}
	return plan, changed, err
}

// UndoMany puts back what a change of many destinations made of them, but for what was
// changed since.
func (u Destinations) UndoMany(ctx context.Context, member store.Member, id uuid.UUID) (back, stay int, err error) {
	back, stay, err = u.Store.UndoMany(ctx, member.WorkspaceID, member.ID, id, u.Now())
	if errors.Is(err, store.ErrDestinationTaken) {
		err = invalid.One("", "One of these addresses is kept as another destination by now. Nothing was changed.")
	}
	return back, stay, err
}

// Merge has one destination stand for another from now on.
func (u Destinations) Merge(ctx context.Context, workspace, other, into uuid.UUID) (Details, error) {
	if other == into {
		return Details{}, invalid.One("into", "Choose another destination: this is the same.")
	}
	err := u.Store.MergeDestinations(ctx, workspace, other, into)
	if errors.Is(err, store.ErrNotWeb) {
		return Details{}, invalid.One("into", "A short link leads to the one, and the other is no web page. Nothing was changed.")
	}
	if errors.Is(err, store.ErrManyMerged) {
		return Details{}, invalid.One("into", "At most 50 destinations are merged into one. Nothing was changed.")
	}
	if err != nil {
		return Details{}, err
	}
	return u.Details(ctx, workspace, into)
}

// TakeApart has a destination that was merged with another stand for itself again.
func (u Destinations) TakeApart(ctx context.Context, workspace, id uuid.UUID) (Details, error) {
	err := u.Store.TakeApart(ctx, workspace, id)
	switch {
	case errors.Is(err, store.ErrDestinationTaken):
		return Details{}, invalid.One("", "Its address is kept as another destination by now. Nothing was changed.")
	case errors.Is(err, store.ErrNotWeb):
		return Details{}, invalid.One("", "A short link leads to it, and its address is no web page. Nothing was changed.")
	case err != nil:
		return Details{}, err
	}
	return u.Details(ctx, workspace, id)
}
