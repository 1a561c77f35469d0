package team_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/team"
)

func TestARoleMayWhatThoseBelowItMay(t *testing.T) {
	for _, c := range []struct {
		has, needed team.Role
		may         bool
	}{
		{team.Runs, team.Runs, true},
		{team.Runs, team.Edits, true},
		{team.Runs, team.Reads, true},
		{team.Edits, team.Runs, false},
		{team.Edits, team.Edits, true},
		{team.Edits, team.Reads, true},
		{team.Reads, team.Runs, false},
		{team.Reads, team.Edits, false},
		{team.Reads, team.Reads, true},
		{"", team.Reads, false},
		{"owner", team.Reads, false},
		{team.Runs, "", false},
	} {
		assert.Equal(t, c.may, c.has.May(c.needed), "%q for %q", c.has, c.needed)
	}
}
