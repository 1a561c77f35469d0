package traffic

import "strings"

// Flags are the reasons why an event is not counted. They are stored as a
// number, so a bit never changes its meaning.
type Flags uint16

// The reasons, each a bit.
const (
	// Crawler: the user agent is in the crawler list, or empty, or names itself one.
	Crawler Flags = 1 << iota
	// Preview: a network fetching a card for a post.
	Preview
	// Prefetch: the browser announced that nobody is looking yet, or only the
	// head was asked for.
	Prefetch
	// Own: the browser of a signed-in member of the workspace.
	Own
	// Repeat: the same visitor did the same again within 30 s; only the last
	// of a run counts.
	Repeat
	// Flood: beyond what one client address may add to one page in an hour.
	Flood
)

// Reasons lists every flag with its name, in the order in which an event with
// several is accounted for.
var Reasons = []struct {
	Flag Flags
	Name string
}{{Crawler, "crawler"}, {Preview, "preview"}, {Prefetch, "prefetch"}, {Own, "own"}, {Flood, "flood"}, {Repeat, "repeat"}}

// Reason names the first reason in the order of Reasons, or "" for a counted
// event, so that the reasons of all events add up to the number left out.
func (f Flags) Reason() string {
	for _, reason := range Reasons {
		if f&reason.Flag != 0 {
			return reason.Name
		}
	}
	return ""
}

// Agent is what the user-agent data says of a browser.
type Agent int

// What a user agent can be, as far as counting goes.
const (
	AgentPerson Agent = iota
	AgentCrawler
	AgentPreview
)

// Signals are the parts of a request that flags are made from.
type Signals struct {
	Method    string
	UserAgent string
	// Agent is what the list of known agents says of UserAgent.
	Agent Agent
	// Purpose holds the values of Sec-Purpose and Purpose, in that order.
	Purpose []string
	// Own is set when the browser carries the mark of a signed-in member.
	Own bool
}

// Flag gives an event its flags. Repeat is not among them: it depends on the
// events before and is set by MarkRepeats.
func Flag(signals Signals) Flags {
	var flags Flags
	if strings.TrimSpace(signals.UserAgent) == "" || signals.Agent == AgentCrawler {
		flags |= Crawler
	}
	if signals.Agent == AgentPreview {
		flags |= Preview
	}
	if signals.Method == "HEAD" || announcesPrefetch(signals.Purpose) {
		flags |= Prefetch
	}
	if signals.Own {
		flags |= Own
	}
	return flags
}

// Reflag gives an event that was stored its flags anew. What its request showed
// when it came stays as it was seen; what a list says of its user agent is asked
// again. Repeat is set anew by MarkRepeats.
func Reflag(stored Flags, userAgent string, agent Agent) Flags {
	return stored&(Prefetch|Own|Flood) | Flag(Signals{UserAgent: userAgent, Agent: agent})
}

// announcesPrefetch reads Sec-Purpose (Fetch standard: "prefetch" with optional
// parameters such as "prerender") and the older Purpose.
func announcesPrefetch(values []string) bool {
	for _, value := range values {
		value = strings.ToLower(value)
		for _, word := range []string{"prefetch", "prerender", "preview"} {
			if strings.Contains(value, word) {
				return true
			}
		}
	}
	return false
}
