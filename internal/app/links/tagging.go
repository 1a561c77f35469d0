package links

import (
	"context"

	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/core/campaign"
	"jundle/internal/core/invalid"
)

// Tagged is an address with campaign tags on it.
type Tagged struct {
	Address string
	// Tags as they are written.
	Tags campaign.Tags
	// Kept names the tags that the address had already and kept.
	Kept []string
	// Near are values that are nearly ones the workspace used before.
	Near []NearValue
}

// NearValue is the value of a tag that is nearly a known one.
type NearValue struct{ Tag, Value, Known string }

// Tag puts campaign tags on an address of a web page, over those it has where that is
// wanted. Nothing is kept.
func (u Links) Tag(ctx context.Context, workspace uuid.UUID, text string, tags campaign.Tags, overwrite bool) (Tagged, error) {
	link, err := address.ParseLink(text)
	if err != nil {
		return Tagged{}, invalid.One("address", "%s", err)
	}
	if !link.IsWeb() {
		return Tagged{}, invalid.One("address", "Only addresses of web pages can carry tags.")
	}
	tagged := Tagged{Tags: tags.Normalised()}
	known, err := u.Store.CampaignValues(ctx, workspace)
	if err != nil {
		return Tagged{}, err
	}
	values := tagged.Tags.ByName()
	for _, tag := range campaign.Names {
		if near := campaign.Near(values[tag], known[tag]); near != "" {
			tagged.Near = append(tagged.Near, NearValue{tag, values[tag], near})
		}
	}
	tagged.Address, tagged.Kept = campaign.Add(link.URL, tagged.Tags, overwrite)
	return tagged, nil
}
