package icons_test

import (
	"encoding/json"
	"os"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
	"jundle/internal/icons"
)

func TestEveryIconDrawsSomethingHarmless(t *testing.T) {
	path := regexp.MustCompile(`^[MmLlHhVvCcSsQqTtAaZz0-9eE.,\s+-]+$`)
	elements := regexp.MustCompile(`^(<(path|circle|rect|line|polyline|polygon|ellipse)( [a-z0-9-]+="[^"<>&]*")+/>)+$`)
	marks, signs := 0, 0
	for _, icon := range append(icons.Search("a", 10_000), icons.Search("e", 10_000)...) {
		if icon.Set == icons.Marks {
			marks++
			assert.Regexp(t, path, icon.Draws, icon.Name)
			assert.Regexp(t, `^#[0-9a-f]{6}$`, icon.Colour, icon.Name)
			continue
		}
		signs++
		assert.Regexp(t, elements, icon.Draws, icon.Name)
	}
	assert.Greater(t, marks, 1000)
	assert.Greater(t, signs, 1000)
}

// The hosts are data, so that no network is named here: each mark's own name
// under a common ending, and below it.
func TestAMarkIsFoundByTheHostOfAProfile(t *testing.T) {
	hosts, err := os.ReadFile("libdata/hosts.json")
	require.NoError(t, err)
	var cases map[string]string
	require.NoError(t, json.Unmarshal(hosts, &cases))
	require.NotEmpty(t, cases)
	for host, want := range cases {
		icon, ok := icons.ForHost(host)
		require.True(t, ok, host)
		assert.Equal(t, want, icon.Name, host)
	}
	for _, host := range []string{"quarrow.example", "photoloft.example", "localhost", "", "127.0.0.1", "co.uk", "[::1]"} {
		_, ok := icons.ForHost(host)
		assert.False(t, ok, host)
	}
}

func TestSignsAreFoundByWhatTheyShowAndWhatTheyAreFor(t *testing.T) {
	found := icons.Search("camera", 5)
	require.Len(t, found, 5)
	assert.Equal(t, "camera", found[0].Name)
	assert.NotEmpty(t, icons.Search("email", 5), "by the words an icon is filed under")
	assert.Empty(t, icons.Search("no icon is called this", 5))
	for _, icon := range icons.Search("", 50) {
		assert.Equal(t, icons.Signs, icon.Set)
	}
	_, ok := icons.Find("signs", "no-such")
	assert.False(t, ok)
	camera, ok := icons.Find("signs", "camera")
	assert.True(t, ok)
	assert.Equal(t, "camera", camera.Title)
}

func FuzzForHost(f *testing.F) {
	f.Add("www.quarrow.example")
	_, _ = icons.ForHost("") // which reads the libraries, once in a process
	f.Fuzz(func(t *testing.T, host string) {
		fuzzing.Bounded(t, func() { _, _ = icons.ForHost(host) })
	})
}
