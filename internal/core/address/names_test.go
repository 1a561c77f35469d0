package address_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/address"
	"jundle/internal/fuzzing"
)

func TestAPageAddressIsShortPlainAndFree(t *testing.T) {
	for text, want := range map[string]string{
		"quarrow-clay": "quarrow-clay", "Quarrow-Clay": "quarrow-clay", " abc ": "abc",
		"4ever": "4ever", strings.Repeat("a", 40): strings.Repeat("a", 40),
	} {
		got, err := address.ParsePageAddress(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got)
	}
	for text, says := range map[string]string{
		"ab": "at least 3", strings.Repeat("a", 41): "at most 40", "-abc": "single hyphens inside", "abc-": "single hyphens inside",
		"a--b": "single hyphens inside", "a b c": "single hyphens inside", "töpferei": "single hyphens inside",
		"a_b_c": "single hyphens inside", "admin": "kept for the service", "API": "kept for the service", "../etc": "single hyphens inside",
	} {
		_, err := address.ParsePageAddress(text)
		require.ErrorIs(t, err, address.ErrRefused, text)
		assert.Contains(t, err.Error(), says, text)
	}
}

func TestATagIsShortEnoughToTypeOffACard(t *testing.T) {
	got, err := address.ParseTag("Card-2")
	require.NoError(t, err)
	assert.Equal(t, "card-2", got)
	for text, says := range map[string]string{
		"": "at least one", strings.Repeat("a", 21): "at most 20", "a/b": "letters a to z", "-": "letters a to z", "a--b": "letters a to z",
	} {
		_, err := address.ParseTag(text)
		require.ErrorIs(t, err, address.ErrRefused, text)
		assert.Contains(t, err.Error(), says, text)
	}
}

func TestASuggestedTagIsValidAndFree(t *testing.T) {
	none := func(string) bool { return false }
	assert.Equal(t, "photoloft", address.SuggestTag("Photoloft", none))
	assert.Equal(t, "studio-letter", address.SuggestTag("  Studio  letter!", none))
	assert.Equal(t, "source", address.SuggestTag("…", none))
	for name, want := range map[string]string{
		"Naïve Ünïcode": "naive-unicode", "Töpferei Großmann": "topferei-grossmann", "Łódź": "lodz",
		"Кузница": "kuznitsa", "陶芸": "tao-yun",
	} {
		assert.Equal(t, want, address.SuggestTag(name, none), "letters of other alphabets are written in a to z")
	}
	taken := map[string]bool{"card": true, "card-2": true}
	assert.Equal(t, "card-3", address.SuggestTag("Card", func(tag string) bool { return taken[tag] }))

	rapid.Check(t, func(t *rapid.T) {
		name := rapid.String().Draw(t, "name")
		left := rapid.IntRange(0, 30).Draw(t, "suggestions refused before one is free")
		tag := address.SuggestTag(name, func(string) bool { left--; return left >= 0 })
		if parsed, err := address.ParseTag(tag); err != nil || parsed != tag {
			t.Fatalf("%q suggested %q: %v", name, tag, err)
		}
	})
}

func FuzzParsePageAddress(f *testing.F) {
	f.Add("quarrow-clay")
	f.Add("a--b")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			name, err := address.ParsePageAddress(text)
			if err == nil && (len(name) < 3 || len(name) > 40 || strings.Trim(name, "abcdefghijklmnopqrstuvwxyz0123456789-") != "") {
				t.Fatalf("%q was taken as %q", text, name)
			}
		})
	})
}

func ExampleSuggestTag() {
	taken := map[string]bool{"printed-card": true}
	fmt.Println(address.SuggestTag("Printed card", func(tag string) bool { return taken[tag] }))
	// Output: printed-card-2
}

func ExampleSame() {
	fmt.Println(address.Same("https://Kiln.example", "https://kiln.example:443/?utm_source=card"))
	// Output: true
}
