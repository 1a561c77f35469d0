package source_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/source"
)

func TestTheTagInTheEntryAddressNamesTheSource(t *testing.T) {
	sources := []source.Source{{ID: "loft", Tags: []string{"loft", "old-loft"}}, {ID: "card", Tags: []string{"card"}}}
	cases := []struct {
		name, tag string
		want      source.Attribution
	}{
		{"a present tag", "card", source.Attribution{SourceID: "card", By: source.ByTag}},
		{"a past tag keeps working", "old-loft", source.Attribution{SourceID: "loft", By: source.ByTag}},
		{"no tag", "", source.Attribution{By: source.Untagged}},
		{"a tag nobody has", "flyer", source.Attribution{By: source.Untagged}},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, source.Attribute(source.Evidence{Tag: c.tag}, sources))
		})
	}
}
