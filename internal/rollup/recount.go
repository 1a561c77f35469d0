package rollup

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/source"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

// Recounted is what a recount did.
type Recounted struct {
	Days    int // of pages
	Changed int // events that are decided differently, or by newer rules
}

// Recount puts every raw event through the rules and lists of today and makes
// every sum anew. Days whose raw events are deleted keep the sums they have. When
// ctx ends, what was done so far stands, and the rest is as it was.
func Recount(ctx context.Context, s *store.Store, list *agents.List, networks *source.Networks, ours []string,
	progress func(done, of int),
) (Recounted, error) {
	var did Recounted
	days, err := s.DaysWithEvents(ctx)
	if err != nil {
		return did, err
	}
	attributors := make(map[uuid.UUID]*source.Attributor)
	for i, day := range days {
		if attributors[day.EndpointID] == nil {
			sources, err := s.Attributable(ctx, day.EndpointID)
			if err != nil {
				return did, err
			}
			attributor := source.NewAttributor(sources, networks, ours...)
			own, err := s.HostsOfEndpoint(ctx, day.EndpointID)
			if err != nil {
				return did, err
			}
			store.AddOurs(attributor, own)
			attributors[day.EndpointID] = attributor
		}
		changed, err := s.RecountDay(ctx, day, func(event store.Event) store.Event {
			return ingest.Recount(event, attributors[day.EndpointID], list)
		})
		if err != nil {
			return did, fmt.Errorf("recount: %w", err)
		}
		did.Changed += changed
		did.Days++
		// Deciding and summing up are the two halves of the work.
		progress(i+1, 2*len(days))
	}
	_, err = All(ctx, s, func(done, of int) { progress(of+done, 2*of) })
	return did, err
}
