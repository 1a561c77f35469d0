// Package agents tells people's browsers from programs by what they call
// themselves. What it knows comes from the vendored crawler list; the rule that
// uses it is in core/traffic.
package agents

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	lru "github.com/hashicorp/golang-lru/v2"

	"jundle/internal/core/traffic"
)

//go:embed libdata/crawler-user-agents.json
var crawlerList []byte

// MaxLength is how much of a user agent is looked at and kept, in bytes. Real
// ones are shorter; a longer one must not cost more.
const MaxLength = 512

// remembered bounds how many user agents are kept with their answer.
const remembered = 20_000

// List knows the agents of the vendored list. It is safe for concurrent use.
type List struct {
	crawlers, previews *regexp.Regexp
	samples            map[traffic.Agent]string
	answers            *lru.Cache[string, traffic.Agent]
}

// Load reads the vendored list.
func Load() (*List, error) {
	var entries []struct {
		Pattern   string   `json:"pattern"`
		Tags      []string `json:"tags"`
		Instances []string `json:"instances"`
	}
	if err := json.Unmarshal(crawlerList, &entries); err != nil {
		return nil, fmt.Errorf("crawler list: %w", err)
	}
	var crawlers, previews []string
	list := &List{samples: map[traffic.Agent]string{}}
	for _, entry := range entries {
		kind, patterns := traffic.AgentCrawler, &crawlers
		if slices.Contains(entry.Tags, "social-preview") {
			kind, patterns = traffic.AgentPreview, &previews
		}
		*patterns = append(*patterns, entry.Pattern)
		if list.samples[kind] == "" && len(entry.Instances) > 0 {
			list.samples[kind] = entry.Instances[0]
		}
	}
	var err error
	if list.crawlers, err = regexp.Compile(strings.Join(crawlers, "|")); err != nil {
		return nil, fmt.Errorf("crawler list: %w", err)
	}
	if list.previews, err = regexp.Compile(strings.Join(previews, "|")); err != nil {
		return nil, fmt.Errorf("crawler list: %w", err)
	}
	list.answers, err = lru.New[string, traffic.Agent](remembered)
	return list, err
}

// Sample is a user agent of that kind out of the list; empty for a person.
func (l *List) Sample(kind traffic.Agent) string { return l.samples[kind] }

// Cut shortens a user agent to what is looked at.
func Cut(userAgent string) string {
	if len(userAgent) > MaxLength {
		userAgent = userAgent[:MaxLength]
	}
	return strings.ToValidUTF8(userAgent, "")
}

// Agent says what a user agent is. Each is looked up once and remembered.
func (l *List) Agent(userAgent string) traffic.Agent {
	userAgent = Cut(userAgent)
	if answer, ok := l.answers.Get(userAgent); ok {
		return answer
	}
	answer := traffic.AgentPerson
	switch {
	case l.previews.MatchString(userAgent):
		answer = traffic.AgentPreview
	case l.crawlers.MatchString(userAgent):
		answer = traffic.AgentCrawler
	}
	l.answers.Add(userAgent, answer)
	return answer
}
