// Package agents knows what user agents say: whether a person's browser or a
// program is asking, whose app it runs in, and on what class of device. What it
// knows comes from vendored lists; the rules that use it are in core/traffic and
// core/source.
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
	"jundle/internal/networks"
)

//go:embed libdata/crawler-user-agents.json
var crawlerList []byte

// MaxLength is how much of a user agent is looked at and kept, in bytes. Real
// ones are shorter; a longer one must not cost more.
const MaxLength = 512

// remembered bounds how many user agents are kept with their answer.
const remembered = 20_000

// Classification is what is known of a user agent.
type Classification struct {
	Agent  traffic.Agent
	Device traffic.Device
	// App is the network whose app's browser it is marked as; empty for none.
	App string
	// Products are the names of the products it lists (RFC 9110 s10.1.5), without
	// those that every browser lists.
	Products []string
}

// List knows the agents of the vendored lists. It is safe for concurrent use.
type List struct {
	crawlers, previews patterns
	apps               []networks.App
	samples            map[traffic.Agent]string
	answers            *lru.Cache[string, Classification]
}

// Load reads the vendored lists.
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
	if list.crawlers, err = newPatterns(crawlers); err != nil {
		return nil, fmt.Errorf("crawler list: %w", err)
	}
	if list.previews, err = newPatterns(previews); err != nil {
		return nil, fmt.Errorf("crawler list: %w", err)
	}
	if list.apps, err = networks.Apps(); err != nil {
		return nil, err
	}
	list.answers, err = lru.New[string, Classification](remembered)
	return list, err
}

// Sample is a user agent of that kind out of the list; empty for a person.
func (l *List) Sample(kind traffic.Agent) string { return l.samples[kind] }

// Cut shortens a user agent to what is looked at and kept.
func Cut(userAgent string) string {
	if len(userAgent) > MaxLength {
		userAgent = userAgent[:MaxLength]
	}
	return strings.ReplaceAll(strings.ToValidUTF8(userAgent, ""), "\x00", "")
}

// Classify says what a user agent is. Each is looked at once and remembered.
func (l *List) Classify(userAgent string) Classification {
	userAgent = Cut(userAgent)
	if answer, ok := l.answers.Get(userAgent); ok {
		return answer
	}
	answer := Classification{Agent: l.agent(userAgent), Device: traffic.DeviceOf(userAgent), Products: products(userAgent)}
	for _, app := range l.apps {
		if app.Mark.MatchString(userAgent) {
			answer.App = app.Network
			break
		}
	}
	l.answers.Add(userAgent, answer)
	return answer
}

func (l *List) agent(userAgent string) traffic.Agent {
	lower := strings.ToLower(userAgent)
	switch {
	case l.previews.match(userAgent, lower):
		return traffic.AgentPreview
	case l.crawlers.match(userAgent, lower), traffic.NamesProgram(lower):
		return traffic.AgentCrawler
	}
	return traffic.AgentPerson
}

// everyBrowsers are products that say nothing of an app.
var everyBrowsers = []string{"Mozilla", "AppleWebKit", "Chrome", "Safari", "Version", "Mobile", "Gecko", "Firefox", "Build"}

var product = regexp.MustCompile(`([\pL\pN_.-]{2,40})/[\w.]`)

// products lists the names of a user agent's products, within reason.
func products(userAgent string) []string {
	const most = 12
	var names []string
	for _, found := range product.FindAllStringSubmatch(userAgent, most) {
		if !slices.Contains(everyBrowsers, found[1]) {
			names = append(names, found[1])
		}
	}
	return names
}
