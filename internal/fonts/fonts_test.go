package fonts_test

import (
	"io/fs"
	"path"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/look"
	"jundle/internal/fonts"
)

func TestEveryPairHasItsFontsInEverySlice(t *testing.T) {
	require.GreaterOrEqual(t, len(look.Pairs), 12)
	for _, pair := range look.Pairs {
		needed := fonts.Needed(pair, "Aäł", "Aäł")
		if pair.ID == "device" {
			assert.Empty(t, needed)
			continue
		}
		assert.GreaterOrEqual(t, len(needed), 6, pair.Name)
		for _, file := range needed {
			data, err := fonts.Bytes(path.Base(file.Path))
			require.NoError(t, err, file.Path)
			// Source: WOFF 2.0 (W3C), section 4.1: the signature.
			assert.Equal(t, "wOF2", string(data[:4]), file.Path)
			if strings.HasSuffix(file.Path, "plain.woff2") {
				assert.Less(t, len(data), 24_000, "%s is to travel quickly", file.Path)
			}
		}
	}
}

func TestAPageLoadsOnlyTheSlicesItsTextNeeds(t *testing.T) {
	pair, _ := look.FindPair("almanac")
	paths := func(headings, text string) []string {
		var found []string
		for _, file := range fonts.Needed(pair, headings, text) {
			found = append(found, strings.TrimSuffix(path.Base(file.Path), ".woff2"))
		}
		return found
	}
	assert.Equal(t, []string{"fraunces-700-plain", "karla-400-plain", "karla-600-plain"}, paths("Quarrow Clay", "Dates – 24 €"))
	assert.Equal(t, []string{"fraunces-700-plain", "karla-400-plain", "karla-400-accents", "karla-600-plain", "karla-600-accents"},
		paths("Quarrow Clay", "Öffnung"))
	assert.Equal(t, []string{"fraunces-700-plain", "fraunces-700-ext"}, paths("Łask", "窯")[:2])
	assert.Empty(t, paths("", "窯"), "what no slice holds is drawn by the device")
}

func TestNothingBesideTheFontsIsHandedOut(t *testing.T) {
	for _, name := range []string{"", "no-400-plain.woff2", "../fonts.go", "karla.LICENSE", "libdata/karla-400-plain.woff2"} {
		_, err := fonts.Bytes(name)
		assert.ErrorIs(t, err, fs.ErrNotExist, name)
	}
}
