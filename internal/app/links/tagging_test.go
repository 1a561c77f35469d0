package links_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/links"
	"jundle/internal/core/campaign"
	"jundle/internal/store"
)

func TestATaggedAddressKeepsItsOwnTagsAndNamesValuesThatAreNearlyKnown(t *testing.T) {
	u, workspace := open(t, store.DefaultQuotas)
	require.NoError(t, u.Store.RememberCampaign(t.Context(), workspace, campaign.Tags{Source: "newsletter"}, now))
	tagged, err := u.Tag(t.Context(), workspace, "kiln.example/?utm_medium=letter", campaign.Tags{Source: "Newsleter", Medium: "email"}, false)
	require.NoError(t, err)
	assert.Equal(t, "https://kiln.example/?utm_medium=letter&utm_source=newsleter", tagged.Address)
	assert.Equal(t, []string{"utm_medium"}, tagged.Kept)
	assert.Equal(t, []links.NearValue{{Tag: "utm_source", Value: "newsleter", Known: "newsletter"}}, tagged.Near)
	for _, bad := range []string{"mailto:ilse@kiln.example", "javascript:alert(1)", ""} {
		_, err := u.Tag(t.Context(), workspace, bad, campaign.Tags{}, false)
		assert.Equal(t, "address", about(t, err), bad)
	}
}
