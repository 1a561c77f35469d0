package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/destinations"
	"jundle/internal/core/destination"
	"jundle/internal/store"
)

// ManyBody is a change of all destinations that a search finds.
type ManyBody struct {
	Search string           `json:"search" maxLength:"200" doc:"As in the list; empty for all."`
	Change destination.Many `json:"change"`
	Digest string           `json:"digest,omitempty" maxLength:"64" doc:"Of the plan that is to be carried out; nothing is changed without."`
}

// ManyPlan is what a change of many destinations does.
type ManyPlan struct {
	Rows    []ManyRow    `json:"rows" nullable:"false" doc:"What is changed, and what cannot be. At most 1,000."`
	Digest  string       `json:"digest" doc:"Sent back to carry it out."`
	More    bool         `json:"more" doc:"The search finds more than are changed at once."`
	Changed *ManyChanged `json:"changed,omitempty" doc:"Set when it was carried out."`
	Stale   bool         `json:"stale" doc:"It was to be carried out, and is another by now: nothing was changed."`
}

// ManyRow is what becomes of one destination.
type ManyRow struct {
	ID     uuid.UUID `json:"id"`
	Title  string    `json:"title"`
	Before ManyState `json:"before"`
	After  ManyState `json:"after"`
	Wrong  string    `json:"wrong,omitempty" doc:"Why this one cannot be changed."`
}

// ManyState is what of a destination is changed.
type ManyState struct {
	Address string   `json:"address"`
	Labels  []string `json:"labels" nullable:"false"`
}

// ManyChanged is a change of many destinations that was made.
type ManyChanged struct {
	ID       uuid.UUID  `json:"id"`
	At       time.Time  `json:"at"`
	Count    int        `json:"count"`
	UndoneAt *time.Time `json:"undoneAt,omitempty"`
}

// ManyUndone is what came of undoing a change.
type ManyUndone struct {
	Back int `json:"back" doc:"How many are as they were before."`
	Stay int `json:"stay" doc:"How many were changed since, and stay so."`
}

// changesListed is for how long a change of many destinations is offered to be undone.
const changesListed = 7 * 24 * time.Hour

func (s *Server) addManyDestinations() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-many-destinations", Method: http.MethodPost, Path: "/api/destination-changes",
		Summary:     "Change all destinations that a search finds, or tell what that would do",
		Description: "In one step, all that can be or none.",
	}), s.changeMany)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-destination-changes", Method: http.MethodGet, Path: "/api/destination-changes",
		Summary: "List the changes of many destinations of the last week, latest first",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[ManyChanged], error) {
		rows, err := s.Store.ManyChanges(ctx, memberOf(ctx).WorkspaceID, s.Now().Add(-changesListed))
		if err != nil {
			return nil, problem(err)
		}
		all := make([]ManyChanged, len(rows))
		for i, row := range rows {
			all[i] = ManyChanged(row)
		}
		return &listOutput[ManyChanged]{all}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "undo-destination-change", Method: http.MethodPost, Path: "/api/destination-changes/{change}/undo",
		Summary: "Put back what a change made of destinations, but for what was changed since",
	}), func(ctx context.Context, in *struct {
		Change uuid.UUID `path:"change"`
	},
	) (*struct{ Body ManyUndone }, error) {
		back, stay, err := s.destinations.UndoMany(ctx, memberOf(ctx), in.Change)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body ManyUndone }{ManyUndone{back, stay}}, nil
	})
}

func (s *Server) changeMany(ctx context.Context, in *struct{ Body ManyBody }) (*struct{ Body ManyPlan }, error) {
	member, out := memberOf(ctx), &struct{ Body ManyPlan }{}
	if in.Body.Digest == "" {
		plan, err := s.destinations.PlanMany(ctx, member.WorkspaceID, in.Body.Search, in.Body.Change)
		if err != nil {
			return nil, problem(err)
		}
		out.Body = planOf(plan)
		return out, nil
	}
	plan, changed, err := s.destinations.ChangeMany(ctx, member, in.Body.Search, in.Body.Change, in.Body.Digest)
	if err != nil && !errors.Is(err, store.ErrStale) {
		return nil, problem(err)
	}
	out.Body = planOf(plan)
	if out.Body.Stale = err != nil; !out.Body.Stale {
		made := ManyChanged(changed)
		out.Body.Changed = &made
	}
	return out, nil
}

func planOf(plan destinations.ManyPlan) ManyPlan {
	shown := ManyPlan{Rows: make([]ManyRow, len(plan.Rows)), Digest: plan.Digest, More: plan.More}
	for i, row := range plan.Rows {
		shown.Rows[i] = ManyRow{
			ID: row.ID, Title: row.Title, Before: ManyState{row.Before.Address, row.Before.Labels},
			After: ManyState{row.After.Address, row.After.Labels}, Wrong: row.Wrong,
		}
	}
	return shown
}
