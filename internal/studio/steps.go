package studio

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/store"
)

// StepTaken is a step that a save did, took back or did again.
type StepTaken struct {
	Key    string          `json:"key" minLength:"1" maxLength:"40" doc:"What the client calls it; parts of one step share it."`
	Name   string          `json:"name" maxLength:"200" doc:"What was done, in words."`
	Way    store.StepWay   `json:"way" enum:"done,undone,redone"`
	Before json.RawMessage `json:"before,omitempty" doc:"The working copy before it, of all but the first."`
}

// stepsTaken reads steps. Nothing is lost with a working copy that cannot be read: two
// steps are then one.
func stepsTaken(given []StepTaken) []store.StepTaken {
	steps := make([]store.StepTaken, len(given))
	for i, step := range given {
		steps[i] = store.StepTaken{Key: step.Key, Name: step.Name, Way: step.Way}
		var before page.Document
		if len(step.Before) > 0 && json.Unmarshal(step.Before, &before) == nil {
			steps[i].Before = &before
		}
	}
	return steps
}

// StepState is a step that can be undone, or done again.
type StepState struct {
	Key    string `json:"key"`
	Name   string `json:"name" doc:"What was done, in words."`
	Undone bool   `json:"undone" doc:"It was taken back, and can be done again."`
	// AlsoOn is set where a block was moved from one page to another.
	AlsoOn *uuid.UUID `json:"alsoOn,omitempty" doc:"The other page that it changed; it is to be undone on both."`
}

// StepDocuments are the working copy before a step and after it.
type StepDocuments struct {
	Before page.Document `json:"before"`
	After  page.Document `json:"after"`
}

// StepPath names a step of a page.
type StepPath struct {
	PagePath
	Step string `path:"step" maxLength:"40"`
}

func (s *Server) addSteps() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-steps", Method: http.MethodGet, Path: "/api/pages/{page}/steps",
		Summary: "List what the member did to the working copy and can undo, in order",
	}), func(ctx context.Context, in *PagePath) (*listOutput[StepState], error) {
		steps, err := s.Store.Steps(ctx, memberOf(ctx).WorkspaceID, memberOf(ctx).ID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		states := make([]StepState, len(steps))
		for i, step := range steps {
			states[i] = StepState(step)
		}
		return &listOutput[StepState]{states}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-step", Method: http.MethodGet, Path: "/api/pages/{page}/steps/{step}",
		Summary: "Get the working copy before a step and after it",
	}), func(ctx context.Context, in *StepPath) (*struct{ Body StepDocuments }, error) {
		found, err := s.Store.StepDocuments(ctx, memberOf(ctx).WorkspaceID, memberOf(ctx).ID, in.Page, in.Step)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body StepDocuments }{StepDocuments(found)}, nil
	})
}
