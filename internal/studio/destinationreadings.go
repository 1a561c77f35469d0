package studio

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// DestinationReadings are the clicks that led to a destination, from all places that lead there.
type DestinationReadings struct {
	From   string       `json:"from" doc:"First day, YYYY-MM-DD."`
	To     string       `json:"to"`
	Clicks int          `json:"clicks"`
	Daily  []int        `json:"daily" nullable:"false" doc:"On each day of the range."`
	Uses   []PressedUse `json:"uses" nullable:"false" doc:"Most clicks first."`
	// Addresses are those that it had when it was clicked.
	Addresses []LedAddress `json:"addresses" nullable:"false" doc:"Where the clicks led when they were made; most clicks first."`
}

// LedAddress is an address that clicks led to.
type LedAddress struct {
	Address string `json:"address"`
	Clicks  int    `json:"clicks"`
}

// PressedUse is one place that leads to a destination and was pressed.
type PressedUse struct {
	Endpoint uuid.UUID `json:"endpoint" doc:"ID of the page or the short link."`
	Block    string    `json:"block,omitempty" doc:"Key of the button; absent for a short link."`
	Item     string    `json:"item,omitempty" doc:"Key of one of several things to press on it; absent where all of it leads there."`
	Title    string    `json:"title,omitempty" doc:"Of the button, or of the item."`
	Clicks   int       `json:"clicks"`
}

func (s *Server) addDestinationReadings() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-destination-readings", Method: http.MethodGet, Path: "/api/destinations/{destination}/readings",
		Summary: "Read the clicks that led to a destination, over all places that led there when they were made",
	}), func(ctx context.Context, in *struct {
		DestinationPath
		RangeQuery
	},
	) (*struct{ Body DestinationReadings }, error) {
		workspace := memberOf(ctx).WorkspaceID
		kept, err := s.destinations.Details(ctx, workspace, in.Destination)
		if err != nil {
			return nil, problem(err)
		}
		zone, err := s.zone(ctx)
		if err != nil {
			return nil, problem(err)
		}
		span, err := readings.ParseSpan(in.Range, s.Now(), earliest(kept.History, s.Now()), zone)
		if err != nil {
			return nil, refuse("range", err.Error())
		}
		clicks, err := s.Store.ClicksOfDestination(ctx, workspace, in.Destination, span.From(), span.To())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body DestinationReadings }{destinationReadings(span, clicks)}, nil
	})
}

// earliest is since when a destination is kept.
func earliest(history []store.FormerAddress, now time.Time) time.Time {
	first := now
	for _, each := range history {
		first = earlier(first, each.Since)
	}
	return first
}

func destinationReadings(span readings.Span, clicks []store.DestinationClicks) DestinationReadings {
	view := DestinationReadings{
		From: span.Date(0), To: span.Date(span.Len() - 1), Daily: make([]int, span.Len()), Uses: []PressedUse{}, Addresses: []LedAddress{},
	}
	days := make(map[string]int, span.Len())
	for i := range span.Len() {
		days[span.Date(i)] = i
	}
	for _, one := range clicks {
		i, within := days[one.Day]
		if !within {
			continue
		}
		view.Daily[i] += one.Clicks
		view.Clicks += one.Clicks
		at := slices.IndexFunc(view.Uses, func(use PressedUse) bool {
			return use.Endpoint == one.EndpointID && use.Block == one.Block && use.Item == one.Item
		})
		if at < 0 {
			at = len(view.Uses)
			view.Uses = append(view.Uses, PressedUse{Endpoint: one.EndpointID, Block: one.Block, Item: one.Item, Title: one.Title})
		}
		view.Uses[at].Clicks += one.Clicks
		at = slices.IndexFunc(view.Addresses, func(led LedAddress) bool { return led.Address == one.Address })
		if at < 0 {
			at = len(view.Addresses)
			view.Addresses = append(view.Addresses, LedAddress{Address: one.Address})
		}
		view.Addresses[at].Clicks += one.Clicks
	}
	slices.SortStableFunc(view.Addresses, func(a, b LedAddress) int { return cmp.Compare(b.Clicks, a.Clicks) })
	slices.SortStableFunc(view.Uses, func(a, b PressedUse) int { return cmp.Compare(b.Clicks, a.Clicks) })
	return view
}
