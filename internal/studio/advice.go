package studio

import (
	"context"
	"math"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/pages"
	"jundle/internal/core/pull"
	"jundle/internal/core/readings"
)

// OrderAdvice is how much the blocks of a page pull, and in which order they would be
// pressed more.
type OrderAdvice struct {
	Seen     []*float64  `json:"seen" nullable:"false" doc:"How likely each place is to be seen; that seen most is 1. Null where it cannot be told."`
	Measured bool        `json:"measured" doc:"How likely places are to be seen was measured, of all openings of the page, and not worked out."`
	Blocks   []BlockPull `json:"blocks" nullable:"false" doc:"What is shown now and leads somewhere, in its order."`
	Told     OrderTold   `json:"told" enum:"few,fixed,some,all" doc:"few: too few visits; fixed: nothing changed places; some, all: of which blocks."`
	Enough   int         `json:"enough" doc:"How many visits must have been shown a block before anything is said of it."`
	Offered  bool        `json:"offered" doc:"There is a better order, and even the least of its gain is one."`
	Order    []string    `json:"order" nullable:"false" doc:"Keys of what is shown, in the better order."`
	Gain     float64     `json:"gain" doc:"More presses per 100 visits."`
	Low      float64     `json:"low" doc:"95 % interval of the gain."`
	High     float64     `json:"high"`
	// Came is what came of the latest change of order.
	Came *CameOfOrder `json:"came,omitempty" doc:"Absent where the order was not changed in that time."`
}

// OrderTold says of which blocks of a page it can be told how much they draw, whatever their place.
type OrderTold string

// What can be told: nothing for too few visits, or because nothing ever changed places; of some blocks; of all.
const (
	OrderFew   OrderTold = "few"
	OrderFixed OrderTold = "fixed"
	OrderSome  OrderTold = "some"
	OrderAll   OrderTold = "all"
)

// CameOfOrder is how many visits pressed anything before an edition with another order, and after.
type CameOfOrder struct {
	Edition int             `json:"edition"`
	At      time.Time       `json:"at"`
	Around  readings.Around `json:"around"`
}

// BlockPull is how much a block pulls.
type BlockPull struct {
	Block string   `json:"block"`
	Title string   `json:"title"`
	Place int      `json:"place"`
	Pull  *float64 `json:"pull,omitempty" doc:"1 is the mean of those it changed places with; absent where that cannot be told."`
}

func (s *Server) addAdvice() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-order-advice", Method: http.MethodGet, Path: "/api/pages/{page}/order",
		Summary: "Tell how much blocks pull, and a better order where there is one", Description: "Of the last eight weeks.",
	}), func(ctx context.Context, in *PagePath) (*struct{ Body OrderAdvice }, error) {
		// It takes a while, and each waits for the one before.
		select {
		case s.advising <- struct{}{}:
			defer func() { <-s.advising }()
		case <-ctx.Done():
			return nil, problem(ctx.Err())
		}
		found, err := s.pages.Advice(ctx, memberOf(ctx).WorkspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body OrderAdvice }{adviceOf(found)}, nil
	})
}

func adviceOf(found pages.OrderAdvice) OrderAdvice {
	advice := OrderAdvice{
		Seen: []*float64{}, Blocks: []BlockPull{}, Told: OrderAll, Enough: pull.Enough, Offered: found.Offered, Order: found.Order,
		Gain: found.Gain, Low: found.Low, High: found.High, Measured: found.Measured,
	}
	for _, seen := range found.Seen {
		if math.IsNaN(seen) {
			advice.Seen = append(advice.Seen, nil)
		} else {
			advice.Seen = append(advice.Seen, &seen)
		}
	}
	switch {
	case found.Few:
		advice.Told = OrderFew
	case len(found.Pulls) == 0:
		advice.Told = OrderFixed
	case found.Untold > 0:
		advice.Told = OrderSome
	}
	if found.Came != nil {
		advice.Came = &CameOfOrder{found.Came.Edition, found.Came.At, found.Came.Around}
	}
	for _, block := range found.Now {
		if len(block.Targets()) == 0 {
			continue
		}
		one := BlockPull{Block: block.Key, Title: block.Title(), Place: block.Place}
		if pulls, known := found.Pulls[block.Key]; known {
			one.Pull = &pulls
		}
		advice.Blocks = append(advice.Blocks, one)
	}
	return advice
}
