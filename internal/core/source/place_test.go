package source_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/invalid"
	"jundle/internal/core/source"
)

func TestAPlaceIsWrittenTheOneWayItIsKept(t *testing.T) {
	clean, err := source.Place{
		Kind: source.Film, Profiles: []string{
			"wavecastle.example/quarrow",
			"https://wavecastle.example/quarrow",
		}, Names: []string{" Wave Castle ", "wave_castle", ""}, Networks: []string{"Wavecastle"},
	}.Clean()
	require.NoError(t, err)
	assert.Equal(t, source.Place{
		Kind: source.Film, Medium: "video", Profiles: []string{"https://wavecastle.example/quarrow"},
		Names: []string{"wave_castle"}, Networks: []string{"Wavecastle"},
	}, clean)
	chosen, err := source.Place{Kind: source.Print, Medium: "Flyer"}.Clean()
	require.NoError(t, err)
	assert.Equal(t, "flyer", chosen.Medium)
}

func TestWhatIsWrongWithAPlaceIsSaidAllAtOnce(t *testing.T) {
	many := make([]string, 12)
	for i := range many {
		many[i] = strings.Repeat("x", i+1)
	}
	_, err := source.Place{Kind: "billboard", Profiles: []string{"javascript:alert(1)", "mailto:ilse@quarrow.example"}, Names: many}.Clean()
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	var where []string
	for _, problem := range wrong.Problems {
		where = append(where, problem.Where)
	}
	assert.Equal(t, []string{"kind", "profiles", "profiles", "names"}, where)
}

func TestAnAdoptedPlaceIsKnownByWhatItWasKnownBy(t *testing.T) {
	adopted := func(key string, evidence source.Evidence) string {
		place, err := source.Place{Kind: source.Profile}.Adopting(key).Clean()
		require.NoError(t, err)
		attributor := source.NewAttributor([]source.Candidate{{
			ID: "adopted", Names: place.Names, Hosts: source.HostsOf(place.Profiles),
			Networks: place.Networks,
		}}, known)
		return attributor.Attribute(evidence, june).Source
	}
	assert.Equal(t, "adopted", adopted("campaign:guild", source.Evidence{Campaign: from("guild")}))
	assert.Equal(t, "adopted", adopted("network:Findwell", source.Evidence{Referrer: "findwell.example"}))
	assert.Equal(t, "adopted", adopted("network:Chatpond", source.Evidence{App: "Chatpond"}))
	assert.Equal(t, "adopted", adopted("host:potters.example", source.Evidence{Referrer: "www.potters.example"}))
}
