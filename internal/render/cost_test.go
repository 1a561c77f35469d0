package render_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/render"
)

func BenchmarkDrawingTheCostliestPage(b *testing.B) {
	doc, err := page.Tidy(pagetest.Costliest())
	require.NoError(b, err)
	for b.Loop() {
		_, _, err := render.Page(doc, render.Visit{
			Origin: "https://pages.example", Address: "quarrow-clay", Edition: 1, To: audience.Audience{At: pagetest.Moment},
		})
		require.NoError(b, err)
	}
}
