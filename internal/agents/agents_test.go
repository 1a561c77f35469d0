package agents

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
)

func load(t *testing.T) *List {
	t.Helper()
	list, err := Load()
	require.NoError(t, err)
	return list
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
			assert.NotEqual(t, traffic.AgentPerson, list.Agent(agent), agent)
		}
	}
	assert.Greater(t, samples, 1000)
}

func TestPeoplesBrowsersAreNot(t *testing.T) {
	list := load(t)
	for _, agent := range []string{
		"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.5 Mobile/15E148 Safari/604.1",
		"Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/148.0.0.0 Mobile Safari/537.36",
		"Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0",
	} {
		assert.Equal(t, traffic.AgentPerson, list.Agent(agent), agent)
	}
}

func TestAHostileAgentCostsNoMoreThanALongOne(t *testing.T) {
	list := load(t)
	assert.Equal(t, traffic.AgentPerson, list.Agent(strings.Repeat("a", 100_000)))
	assert.Len(t, Cut(strings.Repeat("é", 100_000)), MaxLength)
	assert.Equal(t, 1, list.answers.Len())
}
