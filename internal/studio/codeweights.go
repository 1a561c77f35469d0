package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/pagecheck"
	"jundle/internal/core/tracking"
)

// weighWithin is how long a tracking code may take to be weighed, and maxScript the largest
// script that is, in bytes.
const (
	weighWithin = 12 * time.Second
	maxScript   = 2 << 20
)

// CodeWeight is what one address of a tracking code costs each visitor.
type CodeWeight struct {
	Address string `json:"address"`
	Bytes   int    `json:"bytes" doc:"As it is sent, compressed where its host does that; 0 where it gave no answer."`
	Millis  int    `json:"millis" doc:"How long that takes on a slow line of a phone, 1.6 Mbit a second."`
}

func (s *Server) addCodeWeights() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "weigh-tracking-code", Method: http.MethodPost, Path: "/api/tracking-codes/weight",
		Summary: "Say what a tracking code costs each visitor in bytes and time, without what its scripts load in turn",
	}), s.weighCode)
}

func (s *Server) weighCode(ctx context.Context, in *struct {
	Body struct {
		Code string `json:"code" maxLength:"8192"`
	}
},
) (*listOutput[CodeWeight], error) {
	elements, err := tracking.Read(in.Body.Code)
	if err != nil {
		return nil, refuse("code", sentence(err))
	}
	weights := []CodeWeight{}
	ctx, cancel := context.WithTimeout(ctx, weighWithin)
	defer cancel()
	done, err := s.describing.Take(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, noTurn(err)
	}
	defer done()
	for _, each := range elements {
		if each.Src == "" || len(weights) == tracking.MaxHosts {
			continue
		}
		if !s.limits.mayFetch(memberOf(ctx).WorkspaceID.String()) {
			return nil, tooMany("These were many codes in a short time. Wait a few seconds and try again; nothing was changed.", fetchPause)
		}
		weight := CodeWeight{Address: each.Src}
		answer, err := s.Outbound.Fetch(ctx, each.Src, map[string]string{"Accept": "*/*", "Accept-Encoding": "gzip"}, maxScript)
		if err == nil && answer.IsOK() {
			weight.Bytes = len(answer.Body)
			weight.Millis = int(pagecheck.OnSlowLine(int64(weight.Bytes)).Milliseconds())
		}
		weights = append(weights, weight)
	}
	return &listOutput[CodeWeight]{weights}, nil
}
