package pages

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/core/trial"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// NewTrial is a trial that is to begin.
type NewTrial struct {
	Kind     page.TrialKind
	Block    string
	Variants []page.Variant
	Days     int
	// Worth is the smallest difference that would be worth having, as a share.
	Worth float64
}

// paceDays is by how many days past the pace of visits is judged.
const paceDays = 28

// PlanTrial says what a trial on a page of a workspace could find, as it would begin now.
func (u Pages) PlanTrial(ctx context.Context, workspace, id uuid.UUID, wanted NewTrial) (trial.Plan, error) {
	edition, err := u.Store.LiveEdition(ctx, workspace, id)
	if err != nil {
		return trial.Plan{}, err
	}
	tidy, err := u.tidyTrial(wanted, edition.Document)
	if err != nil {
		return trial.Plan{}, err
	}
	return u.planOf(ctx, workspace, id, tidy, wanted.Days)
}

func (u Pages) tidyTrial(wanted NewTrial, on page.Document) (page.Trial, error) {
	least, most := trial.Days()
	if wanted.Days < least || wanted.Days > most {
		return page.Trial{}, invalid.One("days", "A trial lasts %d to %d days.", least, most)
	}
	now := u.Now().UTC().Truncate(time.Minute)
	return page.Trial{
		ID: NewKey(), Kind: wanted.Kind, Block: wanted.Block, Variants: wanted.Variants, From: now, Until: now.AddDate(0, 0, wanted.Days),
	}.Tidy(on)
}

// planOf judges by the last four weeks: how often what is compared was shown, and pressed.
func (u Pages) planOf(ctx context.Context, workspace, id uuid.UUID, tried page.Trial, days int) (trial.Plan, error) {
	span := readings.WithToday(paceDays, u.Now(), time.UTC)
	reading, err := rollup.Read(ctx, u.Store, workspace, id, span)
	if err != nil {
		return trial.Plan{}, err
	}
	variants := len(tried.Variants) + 1
	pressed := reading.AnyOf(tried.Keys)
	each := float64(reading.Total.Visits) / float64(max(1, reading.Total.Visitors))
	return trial.NewPlan(pressed.Rate, pressed.Of*days/span.Len()/variants, variants, each), nil
}

// BeginTrial begins a trial on a page of the member's workspace.
func (u Pages) BeginTrial(ctx context.Context, member store.Member, id uuid.UUID, wanted NewTrial) error {
	if _, err := u.Store.Page(ctx, member.WorkspaceID, id); err != nil {
		return err
	}
	plan, err := u.PlanTrial(ctx, member.WorkspaceID, id, wanted)
	if errors.Is(err, store.ErrNotFound) {
		return invalid.One("page", "Publish the page first: a trial is of what visitors see.")
	}
	if err != nil {
		return err
	}
	return u.Store.BeginTrial(ctx, member.WorkspaceID, member.ID, id, u.Now(), func(on page.Document) (store.Trial, error) {
		tried, err := u.tidyTrial(wanted, on)
		return store.Trial{ID: tried.ID, Trial: tried, Plan: plan, Worth: wanted.Worth, BeganAt: tried.From, Until: tried.Until}, err
	})
}
