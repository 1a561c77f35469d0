package campaign_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/campaign"
)

func TestAValueIsWrittenOneWay(t *testing.T) {
	for given, kept := range map[string]string{
		"Letter": "letter", " letter ": "letter", "Kiln  Opening\tJune": "kiln_opening_june", "Töpfe & Co": "töpfe_&_co", "a\x00b": "ab", "\xff": "", "": "",
		strings.Repeat("é", 150): strings.Repeat("é", 100),
	} {
		assert.Equal(t, kept, campaign.Normalise(given), "%q", given)
	}
}

func TestTagsAreReadOutOfAnAddress(t *testing.T) {
	for query, tags := range map[string]campaign.Tags{
		"":    {},
		"a=b": {},
		"utm_source=Studio+Letter&utm_medium=e-mail&utm_campaign=Spring%20Firing&utm_term=bowls&utm_content=top": {
			Source: "studio_letter", Medium: "e-mail", Campaign: "spring_firing", Term: "bowls", Content: "top",
		},
		"utm_source=first&utm_source=second":     {Source: "first"},
		"utm_source=a&%zz=broken&utm_medium=b;c": {Source: "a"},
	} {
		assert.Equal(t, tags, campaign.Read(query), query)
	}
}

func FuzzRead(f *testing.F) {
	f.Add("utm_source=a%20b&utm_term=%ff")
	f.Fuzz(func(t *testing.T, query string) {
		tags := campaign.Read(query)
		for _, value := range []string{tags.Source, tags.Medium, tags.Campaign, tags.Term, tags.Content} {
			if !utf8.ValidString(value) || campaign.Normalise(value) != value {
				t.Fatalf("%q gave %q", query, value)
			}
		}
	})
}
