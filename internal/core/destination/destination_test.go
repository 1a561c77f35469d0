package destination_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
)

func TestAReferenceFollowsItsDestinationUntilAnotherAddressIsTyped(t *testing.T) {
	kiln := destination.Known{ID: "0197a000-0000-7000-8000-000000000001", Address: "https://kiln.example/new", Former: []string{
		"https://kiln.example/old", "https://kiln.example/new",
	}}
	for _, c := range []struct {
		name      string
		reference destination.Reference
		meant     bool
	}{
		{"as it leads now", destination.Reference{Address: "https://kiln.example/new", ID: kiln.ID}, true},
		{"read before it was changed", destination.Reference{Address: "https://kiln.example/old", ID: kiln.ID}, true},
		{"typed over", destination.Reference{Address: "https://kiln.example/other", ID: kiln.ID}, false},
		{"its address, typed without naming it", destination.Reference{Address: "https://kiln.example/new"}, false},
		{"another destination", destination.Reference{
			Address: "https://kiln.example/new", ID: "0197a000-0000-7000-8000-000000000002",
		}, false},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.meant, c.reference.Meant(kiln)) })
	}
	for text, is := range map[string]bool{kiln.ID: true, "": false, "' or 1=1": false, strings.ToUpper(kiln.ID): false} {
		assert.Equal(t, is, destination.IsID(text), text)
	}
}

func TestADestinationIsKeptOneWay(t *testing.T) {
	tidied, err := destination.Destination{
		Address: " kiln.example/dates ",
		Title:   "  Kiln\tdates ",
		Labels:  []string{"#Spring", "spring"},
	}.Tidy()
	require.NoError(t, err)
	assert.Equal(t, destination.Destination{Address: "https://kiln.example/dates", Title: "Kiln dates", Labels: []string{"Spring"}}, tidied)

	_, err = destination.Destination{Address: "javascript:alert(1)", Title: strings.Repeat("x", 121), Note: strings.Repeat("x", 501)}.Tidy()
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	assert.Len(t, wrong.Problems, 3)
}
