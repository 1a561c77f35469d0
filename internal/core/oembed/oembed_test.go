package oembed

import (
	"encoding/json"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
)

func TestEveryProviderOnTheListIsFoundByAPageOfIts(t *testing.T) {
	found := 0
	for _, each := range providers() {
		for _, text := range each.Patterns {
			page := strings.ReplaceAll(text, "*", "a1")
			parsed, err := url.Parse(page)
			if err != nil || parsed.Scheme != "https" && parsed.Scheme != "http" {
				continue
			}
			_, ok := Find(page)
			assert.True(t, ok, page)
			found++
		}
	}
	assert.Greater(t, found, 800, "the list must have been read")
}

func TestAPageOfNobodyOnTheListHasNoEndpoint(t *testing.T) {
	for _, page := range []string{
		"https://quarrow.example/film", "mailto:ilse@quarrow.example", "", "https://",
	} {
		_, ok := Find(page)
		assert.False(t, ok, page)
	}
	// The host of a pattern is held against the host, and nothing else of the address.
	for _, each := range providers() {
		host := hostOf(strings.ReplaceAll(each.Patterns[0], "*", "a"))
		_, ok := Find("https://quarrow.example/" + host + "/watch")
		assert.False(t, ok, host)
	}
}

func TestAnEndpointIsAskedWithTheAddressOfThePage(t *testing.T) {
	named, ok := Named("https://wavecastle.example/watch/forty-hours", "https://api.wavecastle.example/oembed?key=1&format=json")
	require.True(t, ok)
	asked, err := url.Parse(named.Request("https://wavecastle.example/watch/forty-hours?a=1&b=2"))
	require.NoError(t, err)
	assert.Equal(t, url.Values{
		"key": {"1"}, "format": {"json"}, "maxwidth": {"520"}, "url": {"https://wavecastle.example/watch/forty-hours?a=1&b=2"},
	}, asked.Query())
	_, ok = Named("https://wavecastle.example/watch/forty-hours", "https://elsewhere.example/oembed")
	assert.False(t, ok, "a page cannot have another site asked")
}

// film is an endpoint of the invented network, and an answer as in section 2.3.4 of oEmbed.
func film(t *testing.T, change map[string]any) (Player, error) {
	t.Helper()
	named, ok := Named("https://wavecastle.example/watch/forty-hours", "https://wavecastle.example/oembed")
	require.True(t, ok)
	said := map[string]any{
		"version": "1.0", "type": "video", "provider_name": "Wavecastle", "width": 425, "height": 344,
		"title":         "Forty hours &amp; a night",
		"html":          `<iframe width="425" height="344" src="https://player.wavecastle.example/forty-hours?a=1&amp;b=2"></iframe>`,
		"thumbnail_url": "https://wavecastle.example/stills/forty-hours.jpg",
	}
	for name, value := range change {
		said[name] = value
	}
	data, err := json.Marshal(said)
	require.NoError(t, err)
	return Read(data, named)
}

func TestTheAnswerSaysWhichPlayerAndWhichPicture(t *testing.T) {
	player, err := film(t, nil)
	require.NoError(t, err)
	assert.Equal(t, Player{
		Title: "Forty hours & a night", Provider: "Wavecastle", Frame: "https://player.wavecastle.example/forty-hours?a=1&b=2",
		Width: 425, Height: 344, Still: "https://wavecastle.example/stills/forty-hours.jpg",
	}, player)
}

func TestAPlayerMayBeAsWideAsItsPlace(t *testing.T) {
	player, err := film(t, map[string]any{
		"type": "rich", "width": "100%", "height": "166", "html": `<iframe src="//wavecastle.example/sound"></iframe>`,
	})
	require.NoError(t, err)
	assert.Equal(t, [2]int{0, 166}, [2]int{player.Width, player.Height})
	assert.Equal(t, "https://wavecastle.example/sound", player.Frame)
	player, err = film(t, map[string]any{
		"width": nil, "height": nil, "html": `<iframe src="https://wavecastle.example/film" width="100%"></iframe>`,
	})
	require.NoError(t, err)
	assert.Equal(t, [2]int{}, [2]int{player.Width, player.Height})
}

func TestAHostileAnswerShowsNothing(t *testing.T) {
	for name, change := range map[string]struct {
		answer map[string]any
		want   error
	}{
		"a player of another site":   {map[string]any{"html": `<iframe src="https://evil.example/"></iframe>`}, ErrOtherHost},
		"one that looks like it":     {map[string]any{"html": `<iframe src="https://wavecastle.example.evil.example/">`}, ErrOtherHost},
		"one with a name before it":  {map[string]any{"html": `<iframe src="https://wavecastle.example@evil.example/"></iframe>`}, ErrOtherHost},
		"a name and a password":      {map[string]any{"html": `<iframe src="https://a:b@wavecastle.example/"></iframe>`}, ErrOtherHost},
		"a script instead":           {map[string]any{"html": `<script src="https://wavecastle.example/x.js"></script>`}, ErrNoPlayer},
		"a script as the address":    {map[string]any{"html": `<iframe src="javascript:alert(1)"></iframe>`}, ErrNoPlayer},
		"a document in the address":  {map[string]any{"html": `<iframe src="data:text/html,x"></iframe>`}, ErrNoPlayer},
		"a document in an attribute": {map[string]any{"html": `<iframe srcdoc="<b>x</b>"></iframe>`}, ErrNoPlayer},
		"a picture":                  {map[string]any{"type": "photo"}, ErrNoPlayer},
		"a title that is none":       {map[string]any{"title": []string{"x"}}, ErrNoPlayer},
	} {
		_, err := film(t, change.answer)
		assert.ErrorIs(t, err, change.want, name)
	}
	_, err := Read([]byte("<html>"), Endpoint{})
	require.ErrorIs(t, err, ErrNoPlayer)
	player, err := film(t, map[string]any{
		"thumbnail_url": "file:///etc/passwd", "width": -4, "height": 1e9, "html": `<iframe src="https://wavecastle.example/"></iframe>`,
	})
	require.NoError(t, err)
	assert.Equal(t, Player{Title: "Forty hours & a night", Provider: "Wavecastle", Frame: "https://wavecastle.example/"}, player)
}

func TestAPageShowsPlayersOfItsOwnSiteOnly(t *testing.T) {
	const page = "https://wavecastle.example/watch/forty-hours"
	for frame, want := range map[string]bool{
		"https://player.wavecastle.example/1": true, "http://player.wavecastle.example/1": false, "https://evil.example/": false,
		"https://a@wavecastle.example/": false, "https://x;sandbox;.wavecastle.example/": false,
		"javascript:alert(1)": false, "": false, "https:///x": false,
	} {
		assert.Equal(t, want, MayShow(page, frame), frame)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"type":"video","html":"<iframe src=\"//wavecastle.example/\">","width":"1e3","height":null}`))
	f.Add([]byte(`{"type":"rich","html":"<iframe src='https://[::1'>"}`))
	named, _ := Named("https://wavecastle.example/1", "https://wavecastle.example/oembed")
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() {
			player, err := Read(data, named)
			if err == nil && !MayShow("https://wavecastle.example/1", player.Frame) {
				t.Fatalf("%q is shown", player.Frame)
			}
		})
	})
}
