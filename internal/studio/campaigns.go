package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/campaign"
)

// TaggedAddress is an address with campaign tags on it.
type TaggedAddress struct {
	Address string        `json:"address" doc:"The finished address."`
	Tags    campaign.Tags `json:"tags" doc:"As they are written."`
	Kept    []string      `json:"kept" nullable:"false" doc:"Tags that the address had already and kept."`
	Near    []NearValue   `json:"near" nullable:"false" doc:"Values that are nearly ones used before."`
}

// NearValue is a value that is nearly one that was used before.
type NearValue struct {
	Tag   string `json:"tag" enum:"utm_source,utm_medium,utm_campaign,utm_term,utm_content"`
	Value string `json:"value"`
	Known string `json:"known"`
}

func (s *Server) addCampaigns() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "tag-address", Method: http.MethodPost, Path: "/api/tagged-address",
		Summary: "Put campaign tags on an address; nothing is kept",
	}), s.tagAddress)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-campaign-values", Method: http.MethodGet, Path: "/api/campaign-values",
		Summary: "List the values of campaign tags used so far, by tag, latest first",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body map[string][]string }, error) {
		values, err := s.Store.CampaignValues(ctx, memberOf(ctx).WorkspaceID)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body map[string][]string }{values}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remember-campaign-values", Method: http.MethodPost, Path: "/api/campaign-values",
		Summary: "Note the values of campaign tags as used",
	}), func(ctx context.Context, in *struct{ Body campaign.Tags }) (*struct{}, error) {
		if err := s.Store.RememberCampaign(ctx, memberOf(ctx).WorkspaceID, in.Body.Normalised(), s.Now()); err != nil {
			return nil, problem(err)
		}
		return nil, nil
	})
}

func (s *Server) tagAddress(ctx context.Context, in *struct {
	Body struct {
		Address   string        `json:"address" maxLength:"8000"`
		Tags      campaign.Tags `json:"tags"`
		Overwrite bool          `json:"overwrite,omitempty" doc:"Replace tags that the address has already."`
	}
},
) (*struct{ Body TaggedAddress }, error) {
	tagged, err := s.links.Tag(ctx, memberOf(ctx).WorkspaceID, in.Body.Address, in.Body.Tags, in.Body.Overwrite)
	if err != nil {
		return nil, problem(err)
	}
	out := TaggedAddress{Address: tagged.Address, Tags: tagged.Tags, Kept: append([]string{}, tagged.Kept...), Near: []NearValue{}}
	for _, near := range tagged.Near {
		out.Near = append(out.Near, NearValue(near))
	}
	return &struct{ Body TaggedAddress }{out}, nil
}
