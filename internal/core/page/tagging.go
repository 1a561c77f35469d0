package page

import (
	"strings"

	"jundle/internal/core/campaign"
	"jundle/internal/core/invalid"
)

// Tagging says whether clicks going out carry campaign tags, so that the
// creator's own site statistics agree with the page's figures.
type Tagging struct {
	On       bool   `json:"on"`
	Campaign string `json:"campaign" doc:"utm_campaign of clicks out of this page."`
}

// UntaggedSource is utm_source of clicks whose source is not known.
const UntaggedSource = "untagged"

func (t *Tagging) tidy(problems *invalid.List) {
	t.Campaign = campaign.Normalise(t.Campaign)
	if t.On && t.Campaign == "" {
		problems.Add("tagging/campaign", "Give the campaign a name, like spring_firing: it says in your statistics which page a visit came from.")
	}
}

// Tag puts the tags of a click on an address: where it came from, the page's
// campaign, and the block that was pressed. What is no web address, and tags that
// the destination has of its own, stay as they are.
func (t Tagging) Tag(address, source, medium, block string) string {
	if !t.On || !isWeb(address) {
		return address
	}
	if source == "" {
		source = UntaggedSource
	}
	tagged, _ := campaign.Add(address, campaign.Tags{Source: source, Medium: medium, Campaign: t.Campaign, Content: block}, false)
	return tagged
}

// isWeb tells a web address that was tidied from one of another kind.
func isWeb(address string) bool {
	return strings.HasPrefix(address, "https://") || strings.HasPrefix(address, "http://")
}

func (t Tagging) facts() []fact {
	value := ""
	if t.On {
		value = t.Campaign
	}
	return []fact{{"campaign of links going out", value}}
}
