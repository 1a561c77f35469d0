package agents

import (
	"compress/gzip"
	"encoding/json"
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/networks"
)

func load(t *testing.T) *List {
	t.Helper()
	list, err := Load()
	require.NoError(t, err)
	return list
}

// Found by what they say of themselves alone, without the list: this is what counts for programs that no list
// knows yet. Source: the sample agents of the npm package crawler-user-agents, version in libdata.
func TestMostCrawlersAreKnownByTheirNamesAlone(t *testing.T) {
	var entries []struct{ Instances []string }
	require.NoError(t, json.Unmarshal(crawlerList, &entries))
	found, all := 0, 0
	for _, entry := range entries {
		for _, agent := range entry.Instances {
			all++
			if traffic.NamesProgram(agent) {
				found++
			}
		}
	}
	t.Logf("%d of %d known by their names alone", found, all)
	assert.Greater(t, float64(found), 0.7*float64(all))
}

// Source: the sample agents of the npm package crawler-user-agents, version in
// libdata.
func TestEverySampleOfTheCrawlerListIsFlagged(t *testing.T) {
	var entries []struct{ Instances []string }
	require.NoError(t, json.Unmarshal(crawlerList, &entries))
	list, samples := load(t), 0
	for _, entry := range entries {
		for _, agent := range entry.Instances {
			samples++
			assert.NotEqual(t, traffic.AgentPerson, list.Classify(agent).Agent, agent)
		}
	}
	assert.Greater(t, samples, 1000)
}

type browser struct{ Agent, Device string }

// browsers are those of the npm package user-agents, which gathers them from
// real visits; version in libdata.
func browsers(t *testing.T) []browser {
	t.Helper()
	file, err := os.Open("libdata/browsers.json.gz")
	require.NoError(t, err)
	defer file.Close()
	unpacked, err := gzip.NewReader(file)
	require.NoError(t, err)
	var all []browser
	require.NoError(t, json.NewDecoder(unpacked).Decode(&all))
	require.Greater(t, len(all), 500)
	return all
}

// share asserts that something holds for at least 99.5 % of the browsers.
func share(t *testing.T, all []browser, what string, holds func(browser) bool) {
	t.Helper()
	var not []string
	for _, each := range all {
		if !holds(each) {
			not = append(not, each.Device+": "+each.Agent)
		}
	}
	assert.LessOrEqual(t, float64(len(not)), 0.005*float64(len(all)), "%s, of %d not:\n%s", what, len(all), strings.Join(not, "\n"))
}

func TestNoBrowserOfAPersonIsFlagged(t *testing.T) {
	list := load(t)
	for _, each := range browsers(t) {
		flags := traffic.Flag(traffic.Signals{Method: "GET", UserAgent: each.Agent, Agent: list.Classify(each.Agent).Agent})
		assert.Zero(t, flags, each.Agent)
	}
}

func TestTheClassOfDeviceIsThatOfTheListOfBrowsers(t *testing.T) {
	list, class := load(t), map[string]traffic.Device{"mobile": traffic.Phone, "tablet": traffic.Tablet, "desktop": traffic.Desktop}
	share(t, browsers(t), "same class", func(each browser) bool { return list.Classify(each.Agent).Device == class[each.Device] })
}

// The words that are searched for first must never hide a match of the whole
// list.
func TestSearchingForWordsFirstFindsWhatTheExpressionsFind(t *testing.T) {
	var entries []struct {
		Pattern   string
		Instances []string
	}
	require.NoError(t, json.Unmarshal(crawlerList, &entries))
	for _, entry := range entries {
		one, err := newPatterns([]string{entry.Pattern})
		require.NoError(t, err)
		whole := regexp.MustCompile(entry.Pattern)
		for _, agent := range entry.Instances {
			assert.Equal(t, whole.MatchString(agent), one.match(agent, strings.ToLower(agent)), "%s in %s", entry.Pattern, agent)
		}
	}
}

func BenchmarkKnowingANewUserAgent(b *testing.B) {
	list, err := Load()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		list.Classify(
			fmt.Sprintf(
				"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.%d Mobile/15E148 "+
					"Safari/604.1",
				i,
			),
		)
	}
}

func TestTheBrowserInsideAnAppIsAPersonAndNamesItsNetwork(t *testing.T) {
	list := load(t)
	apps, err := networks.Apps()
	require.NoError(t, err)
	for _, app := range apps {
		known := list.Classify(app.Sample)
		assert.Equal(t, app.Network, known.App)
		assert.Equal(t, traffic.AgentPerson, known.Agent, app.Sample)
	}
	plain := list.Classify(
		"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Mobile/15E148 Photoloft/31.0",
	)
	assert.Empty(t, plain.App, "no list knows it")
	assert.Equal(t, []string{"Photoloft"}, plain.Products)
}

func TestAHostileAgentCostsNoMoreThanALongOne(t *testing.T) {
	list := load(t)
	assert.Equal(t, traffic.AgentPerson, list.Classify(strings.Repeat("a", 100_000)).Agent)
	assert.Len(t, Cut(strings.Repeat("é", 100_000)), MaxLength)
	assert.LessOrEqual(t, len(products(strings.Repeat("ab/1 ", 100_000))), 12)
	assert.Equal(t, 1, list.answers.Len())
}
