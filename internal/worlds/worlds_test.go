package worlds_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/worlds"
)

// few of the two hundred that `make worlds` goes through; their seeds are the same.
const few = 12

func TestReadingsHoldAgainstWorldsWhoseTrueValuesAreKnown(t *testing.T) {
	for _, finding := range worlds.All(few) {
		t.Log(finding)
		assert.True(t, finding.Holds(true), "%s", finding)
	}
}

func TestAFindingHoldsWithinItsBoundsAndFewCasesAreGivenRoom(t *testing.T) {
	covered := worlds.Finding{What: "an interval holds the truth", Held: 89, Of: 100, Least: 0.93, Most: 0.97}
	assert.False(t, covered.Holds(false))
	assert.True(t, covered.Holds(true))
	exact := worlds.Finding{What: "every count is exact", Held: 11, Of: 12, Least: 1, Most: 1}
	assert.False(t, exact.Holds(true), "one that is not is one too many")
	covered.Held = 70
	assert.False(t, covered.Holds(true))
	assert.Equal(t, "| an interval holds the truth | 70 of 100 | 70.0 % (60.4 to 78.1) | 93 to 97 % |", covered.String())
}
