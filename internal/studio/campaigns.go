package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/address"
	"jundle/internal/core/campaign"
)

// TaggedAddress is an address with campaign tags on it.
type TaggedAddress struct {
	Address string        `json:"address" doc:"The finished address."`
	Tags    campaign.Tags `json:"tags" doc:"As they are written."`
	Kept    []string      `json:"kept" nullable:"false" doc:"Tags that the address had already and kept."`
}

func (s *Server) addCampaigns() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "tag-address", Method: http.MethodPost, Path: "/api/tagged-address", Summary: "Put campaign tags on an address; nothing is kept",
	}), s.tagAddress)
}

func (s *Server) tagAddress(_ context.Context, in *struct {
	Body struct {
		Address   string        `json:"address"`
		Tags      campaign.Tags `json:"tags"`
		Overwrite bool          `json:"overwrite,omitempty" doc:"Replace tags that the address has already."`
	}
},
) (*struct{ Body TaggedAddress }, error) {
	link, err := address.ParseLink(in.Body.Address)
	if err != nil {
		return nil, refuse("address", err.Error())
	}
	if !link.IsWeb() {
		return nil, refuse("address", "Only addresses of web pages can carry tags.")
	}
	out := TaggedAddress{Tags: in.Body.Tags.Normalised(), Kept: []string{}}
	finished, kept := campaign.Add(link.URL, out.Tags, in.Body.Overwrite)
	out.Address, out.Kept = finished, append(out.Kept, kept...)
	return &struct{ Body TaggedAddress }{out}, nil
}
