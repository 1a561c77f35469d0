package starters_test

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/icons"
	"jundle/internal/media"
	"jundle/internal/starters"
)

func keys() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("key%d", n) }
}

func TestEveryStarterIsAPageThatCouldBePublishedAsItIs(t *testing.T) {
	require.GreaterOrEqual(t, len(starters.All()), 8)
	themes := map[string]bool{}
	for _, starter := range starters.All() {
		doc := starter.Document("Quarrow Clay", keys())
		tidy, err := page.Tidy(doc)
		require.NoError(t, err, starter.ID)
		assert.Equal(t, doc, tidy, "%s is stored as it ships", starter.ID)
		assert.Equal(t, "Quarrow Clay", doc.Header.Name)
		themes[doc.Look.Theme] = true
		for _, figure := range look.Figures(doc.Look) {
			assert.True(t, figure.Passes, "%s: %s", starter.ID, figure.Description)
		}
		for where, names := range doc.Media() {
			for _, name := range names {
				_, ok := starters.File(name)
				assert.True(t, ok, "%s shows %s at %s", starter.ID, name, where)
			}
		}
		for _, row := range doc.Rows() {
			if block, ok := doc.Find(row.Key); ok {
				for _, target := range block.Targets() {
					leads, err := url.Parse(target.Address)
					require.NoError(t, err)
					host := leads.Hostname() + leads.Opaque
					assert.True(t, strings.HasSuffix(host, ".example") || leads.Scheme == "tel", target.Address)
				}
			}
		}
		for _, icon := range iconsOf(doc) {
			_, ok := icons.Find(icon.Set, icon.Name)
			assert.True(t, ok, "%s wants the icon %s", starter.ID, icon.Name)
		}
	}
	assert.Greater(t, len(themes), 6, "they do not all look alike")
}

func iconsOf(doc page.Document) []page.Icon {
	var found []page.Icon
	for _, item := range doc.Icons.Items {
		found = append(found, item.Icon)
	}
	for _, block := range doc.Blocks {
		if block.Button != nil && block.Button.Icon != nil {
			found = append(found, *block.Button.Icon)
		}
		if block.Contact != nil && block.Contact.Icon != nil {
			found = append(found, *block.Contact.Icon)
		}
	}
	return found
}

func TestTheDrawingsAreAsHarmlessAsUploadedOnes(t *testing.T) {
	maker, ok := starters.Find("maker")
	require.True(t, ok)
	seen := 0
	for _, starter := range starters.All() {
		for _, names := range starter.Document("x", keys()).Media() {
			for _, name := range names {
				drawing, _ := starters.File(name)
				kept, err := media.Drawing(drawing.Bytes)
				require.NoError(t, err)
				assert.Equal(t, strings.Count(string(drawing.Bytes), "<path"), strings.Count(string(kept.Bytes), "<path"))
				seen++
			}
		}
	}
	assert.Greater(t, seen, 8)
	cover := maker.Document("x", keys()).Header.Cover
	assert.Equal(t, [2]int{840, 300}, [2]int{cover.Width, cover.Height})
	assert.NotEmpty(t, cover.Palette)
	_, ok = starters.Find("nobody")
	assert.False(t, ok)
}
