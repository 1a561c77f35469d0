package ingest

import (
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/campaign"
	"jundle/internal/core/destination"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// Hit is one view or click as the public listener saw it.
type Hit struct {
	At         time.Time
	EndpointID uuid.UUID
	// Attributor holds the sources of the page.
	Attributor *source.Attributor
	PageHost   string
	Edition    int
	Kind       traffic.Kind
	Block      string
	Item       string
	// Outcome is where a short link led.
	Outcome string
	// Led is the destination that a click leads to, if any.
	Led   destination.Target
	Place int
	Tag   string
	// Query is that of the address; campaign tags are read from it.
	Query string
	// Referrer is the host of the Referer, without path and query.
	Referrer string
	Method   string
	Purpose  []string
	// Client is the visitor's address. It goes into the visitor key and no
	// further.
	Client    string
	UserAgent string
	// Languages is its Accept-Language.
	Languages string
	Own       bool
}

// NewEvent decides everything about a hit that the rules decide from the hit
// itself: source, visitor key and flags.
func NewEvent(id uuid.UUID, hit Hit, salt *traffic.Salt, list *agents.List) store.Event {
	userAgent := agents.Cut(hit.UserAgent)
	known := list.Classify(userAgent)
	event := store.Event{
		ID:         id,
		At:         hit.At,
		EndpointID: hit.EndpointID,
		Edition:    hit.Edition,
		Kind:       hit.Kind,
		Block:      hit.Block,
		Item:       hit.Item,
		Outcome:    hit.Outcome,
		Led:        hit.Led,
		Place:      hit.Place,
		Tag:        hit.Tag,
		Campaign:   campaign.Read(hit.Query),
		Referrer:   hit.Referrer,
		UserAgent:  userAgent,
		Visitor:    salt.VisitorKey(hit.Client, userAgent, hit.PageHost),
		Rules:      traffic.RulesVersion,
		Flags: traffic.Flag(traffic.Signals{
			Method: hit.Method, UserAgent: userAgent, Agent: known.Agent, Purpose: hit.Purpose, Own: hit.Own,
		}),
	}
	event.Language = traffic.LanguageOf(hit.Languages)
	event.Attribution = hit.Attributor.Attribute(evidence(event, known), hit.At)
	event.Paid = isPaid(event, hit.Attributor)
	return event
}

// isPaid goes by the medium that came with the hit, or that its source has.
func isPaid(event store.Event, attributor *source.Attributor) bool {
	from, listed := attributor.Find(event.Source)
	return campaign.IsPaid(event.Campaign.Medium) || listed && campaign.IsPaid(from.Medium)
}

// Recount decides an event that was stored anew, by the rules and lists of today
// and the sources its page has now.
func Recount(event store.Event, attributor *source.Attributor, list *agents.List) store.Event {
	known := list.Classify(event.UserAgent)
	event.Flags = traffic.Reflag(event.Flags, event.UserAgent, known.Agent)
	event.Attribution = attributor.Attribute(evidence(event, known), event.At)
	event.Paid = isPaid(event, attributor)
	event.Rules = traffic.RulesVersion
	return event
}

func evidence(event store.Event, known agents.Classification) source.Evidence {
	return source.Evidence{Tag: event.Tag, Campaign: event.Campaign, Referrer: event.Referrer, App: known.App, Products: known.Products}
}
