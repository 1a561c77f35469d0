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
	"jundle/internal/core/linkcheck"
	"jundle/internal/store"
)

// KeptDestination is an address that the workspace keeps once.
type KeptDestination struct {
	ID        uuid.UUID               `json:"id"`
	Revision  int64                   `json:"revision" doc:"Sent back with a change; one made on an older revision gets 409."`
	Details   destination.Destination `json:"details"`
	CreatedAt time.Time               `json:"createdAt"`
	Health    *LinkHealth             `json:"health,omitempty" doc:"What came of asking the address last; absent before."`
}

// LinkHealth is what came of asking an address.
type LinkHealth struct {
	Verdict linkcheck.Verdict `json:"verdict" enum:"fine,gone,failing,unsure"`
	Says    string            `json:"says"`
	At      time.Time         `json:"at"`
}

// KeptDestinationDetails is a destination with where it led and what leads to it.
type KeptDestinationDetails struct {
	KeptDestination
	History    []FormerAddress  `json:"history" nullable:"false" doc:"Where it led, latest first, now included. At most 200."`
	Pages      []DestinationUse `json:"pages" nullable:"false" doc:"Pages whose working copy or published edition leads there."`
	ShortLinks []DestinationUse `json:"shortLinks" nullable:"false" doc:"At most 500."`
	Merged     []Merged         `json:"merged" nullable:"false" doc:"Destinations that were merged with it: what leads to them leads here."`
}

// Merged is a destination that was merged with another.
type Merged struct {
	ID      uuid.UUID `json:"id"`
	Title   string    `json:"title"`
	Address string    `json:"address" doc:"Where it led, and leads again when it is taken apart."`
}

// FormerAddress is where a destination led from a moment on.
type FormerAddress struct {
	Address string    `json:"address"`
	Since   time.Time `json:"since"`
}

// DestinationUse is a page or a short link that leads to a destination.
type DestinationUse struct {
	ID     uuid.UUID `json:"id"`
	Name   string    `json:"name"`
	Places int       `json:"places" doc:"In how many places it leads there: of a page in its working copy."`
}

// StaleDestination is the answer to a change that was made on an older revision.
type StaleDestination struct {
	huma.ErrorModel
	Current KeptDestinationDetails `json:"current"`
}

// DestinationPath names a destination.
type DestinationPath struct {
	Destination uuid.UUID `path:"destination"`
}

type destinationOutput struct{ Body KeptDestinationDetails }

func (s *Server) addDestinations() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-destinations", Method: http.MethodGet, Path: "/api/destinations",
		Summary: "List the workspace's destinations, latest first",
	}), s.listDestinations)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-destination", Method: http.MethodGet, Path: "/api/destinations/{destination}",
		Summary: "Get a destination with where it led and what leads to it",
	}), func(ctx context.Context, in *DestinationPath) (*destinationOutput, error) {
		found, err := s.destinations.Details(ctx, memberOf(ctx).WorkspaceID, in.Destination)
		return destinationOutputOf(found, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-destination", Method: http.MethodPut, Path: "/api/destinations/{destination}",
		Summary:     "Change a destination; all that leads there follows, in published editions too",
		Description: "Presses lead to the new address at once. What editions led to when they were published stays in the export.",
	}), s.changeDestination)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "merge-destination", Method: http.MethodPut, Path: "/api/destinations/{destination}/merged",
		Summary: "Have another destination stand for this one: all that leads here leads there",
	}), func(ctx context.Context, in *struct {
		DestinationPath
		Body struct {
			Into uuid.UUID `json:"into" doc:"The destination that stands for it."`
		}
	},
	) (*destinationOutput, error) {
		kept, err := s.destinations.Merge(ctx, memberOf(ctx).WorkspaceID, in.Destination, in.Body.Into)
		return destinationOutputOf(kept, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-destination-apart", Method: http.MethodDelete, Path: "/api/merged-destinations/{merged}",
		Summary:     "Have a destination that was merged with another stand for itself again",
		Description: "What was saved meanwhile stays with the other.",
	}), func(ctx context.Context, in *struct {
		Merged uuid.UUID `path:"merged"`
	},
	) (*destinationOutput, error) {
		apart, err := s.destinations.TakeApart(ctx, memberOf(ctx).WorkspaceID, in.Merged)
		return destinationOutputOf(apart, err)
	})
}

func shownDestination(row store.Destination) KeptDestination {
	shown := KeptDestination{ID: row.ID, Revision: row.Revision, CreatedAt: row.CreatedAt, Details: destination.Destination{
		Address: row.Address, Title: row.Title, Note: row.Note, Labels: row.Labels, Picture: row.Picture, Swaps: row.Swaps,
	}}
	if shown.Details.Labels == nil {
		shown.Details.Labels = []string{}
	}
	return shown
}

func (s *Server) listDestinations(ctx context.Context, in *struct {
	ListPart
	Search string `query:"search" maxLength:"200" doc:"In address, title, note and labels, whatever its case; all when left out."`
},
) (*partOutput[KeptDestination], error) {
	after, most, err := in.place()
	if err != nil {
		return nil, err
	}
	workspace := memberOf(ctx).WorkspaceID
	rows, err := s.Store.Destinations(ctx, workspace, in.Search, after, most+1)
	if err != nil {
		return nil, problem(err)
	}
	ids := make([]string, len(rows))
	for i, row := range rows {
		ids[i] = row.ID.String()
	}
	asked, err := s.Store.LinkChecks(ctx, workspace, ids)
	if err != nil {
		return nil, problem(err)
	}
	shown := func(row store.Destination) KeptDestination {
		one := shownDestination(row)
		if result, ok := asked[row.ID.String()]; ok && result.Address == row.Address {
			one.Health = &LinkHealth{result.Verdict(), result.String(), result.At}
		}
		return one
	}
	return listed(rows, most, shown, func(row store.Destination) cursor {
		return cursor{row.CreatedAt, row.ID.String()}
	}), nil
}

func destinationOutputOf(found destinations.Details, err error) (*destinationOutput, error) {
	if err != nil {
		return nil, problem(err)
	}
	details := KeptDestinationDetails{
		KeptDestination: shownDestination(found.Destination),
		History:         []FormerAddress{}, Pages: []DestinationUse{}, ShortLinks: []DestinationUse{}, Merged: []Merged{},
	}
	if asked := found.Asked; asked != nil && asked.Address == found.Destination.Address {
		details.Health = &LinkHealth{asked.Verdict(), asked.String(), asked.At}
	}
	for _, each := range found.Merged {
		details.Merged = append(details.Merged, Merged{each.ID, each.Title, each.Address})
	}
	for _, each := range found.History {
		details.History = append(details.History, FormerAddress(each))
	}
	for _, each := range found.Uses.Pages {
		details.Pages = append(details.Pages, DestinationUse(each))
	}
	for _, each := range found.Uses.ShortLinks {
		details.ShortLinks = append(details.ShortLinks, DestinationUse(each))
	}
	return &destinationOutput{details}, nil
}

func (s *Server) changeDestination(ctx context.Context, in *struct {
	DestinationPath
	Body struct {
		Revision int64                   `json:"revision" doc:"The revision the change was made on."`
		Details  destination.Destination `json:"details"`
	}
},
) (*destinationOutput, error) {
	member := memberOf(ctx)
	saved, err := s.destinations.Change(ctx, member.WorkspaceID, member.ID, in.Destination, in.Body.Revision, in.Body.Details)
	if !errors.Is(err, store.ErrStale) {
		return destinationOutputOf(saved, err)
	}
	out, err := destinationOutputOf(saved, nil)
	if err != nil {
		return nil, err
	}
	return nil, &StaleDestination{
		ErrorModel: huma.ErrorModel{
			Title: http.StatusText(http.StatusConflict), Status: http.StatusConflict,
			Detail: "This destination was changed elsewhere in the meantime. It is shown as it stands now; your last change was not saved over it.",
		},
		Current: out.Body,
	}
}
